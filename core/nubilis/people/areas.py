"""What of a person a mask may be made of: each an area of the photo, and so a part of a mask."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.cores import each_on_one_core
from nubilis.errors import PlaceError
from nubilis.mask.people import Feature
from nubilis.mask.people import People as PeoplePart
from nubilis.mask.sight import Sight
from nubilis.people import features
from nubilis.people.body import drawn_to_edges
from nubilis.people.canonical import unwrapped
from nubilis.people.nets import MODEL
from nubilis.people.people import Face, People
from nubilis.people.skin import skin_like_face, tones_of
from nubilis.photo.grey import grey_png
from nubilis.photo.pyramid import Region, View, overlap, pixel_at
from nubilis.recipe.asset import Asset
from nubilis.recipe.model import Place

WHOLE, SKIN = 480, 960  # pixels of the long edge that persons and skin are drawn at
FINE = 1600  # the most that the box of some faces is
CUT = 384  # and that of one, while it is cut out
ROOM = 0.25  # of a face: around it
SKIN_SURE = (0.35, 0.65)
SOMEBODY = 0.3  # of a body, at a place that is clicked
LEAST = 1e-5  # of what is looked at: less is nothing


@dataclass(frozen=True, eq=False)
class Area:
    """plane: 0..1, float32 (h, w), over a view."""

    plane: Floats
    view: View


def part_of(
    people: People,
    sight: Sight,
    of: Feature,
    who: int | None,
    keep: Callable[[bytes], Asset],
    part_id: str,
) -> PeoplePart:
    """A part of a mask. who: from the left, from 1; of none, all; keep: where its picture goes.

    Raises PlaceError in one line when there is nobody, or nothing of the kind.
    """
    area = area_of(people, sight, of, who)
    if area.plane.mean() < LEAST:
        raise PlaceError(
            f"no {of} {'is' if of in ('person', 'face', 'skin') else 'are'} to be seen there"
        )
    asset = keep(grey_png((area.plane * 255.0 + 0.5).astype(np.uint8)))
    x0, y0, x1, y1 = area.view.region
    edge = area.view.long_edge
    return PeoplePart(
        id=part_id,
        of=of,
        who=who,
        asset=asset,
        corner=(x0 / edge, y0 / edge),
        extent=(min((x1 - x0) / edge, 1.0), min((y1 - y0) / edge, 1.0)),
        sure=SKIN_SURE if of == "skin" else (0.0, 1.0),
        edges=of in ("person", "skin"),
        model=MODEL,
    )


def area_of(people: People, sight: Sight, of: Feature, who: int | None) -> Area:
    """sight: of the photo as it came. Raises PlaceError."""
    chosen = _chosen(people, who)
    if of == "person":
        return persons(people, sight, chosen)
    if of == "skin":
        return skin(people, sight, chosen)
    view = _around(sight, [people.faces[i] for i in chosen])
    rgb = sight.read(view)
    plane = np.zeros(view.shape, dtype=np.float32)
    for i in chosen:
        _lay(plane, _Near(people.faces[i], rgb, view).feature(of), people.faces[i], view)
    return Area(plane, view)


def face_at(people: People, at: Place) -> int | None:
    """Whose face a place lies in, from the left, from 1."""
    for i, face in enumerate(people.faces):
        x0, y0, x1, y1 = face.box
        if x0 <= at[0] <= x1 and y0 <= at[1] <= y1:
            return i + 1
    return None


def person_at(people: People, at: Place) -> int | None:
    """Who is at a place, from the left, from 1: whose face it lies in, else whose body."""
    face = face_at(people, at)
    if face or not people.faces:
        return face
    x, y = pixel_at(at, people.likely.shape[1:])
    there = people.likely[:, y, x]
    return int(there.argmax()) + 1 if there.max() > SOMEBODY else None


def _chosen(people: People, who: int | None) -> list[int]:
    if not people.faces:
        raise PlaceError("no face is to be seen in this photo")
    if who is None:
        return list(range(len(people.faces)))
    if not 1 <= who <= len(people.faces):
        raise PlaceError("there is no such person in this photo")
    return [who - 1]


def persons(people: People, sight: Sight, chosen: Sequence[int]) -> Area:
    """The whole of them, hair and clothes, cut out along the photo's edges."""
    view = sight.fit(WHOLE)
    rgb = sight.read(view)
    cuts = each_on_one_core(lambda i: _cut(people, i, rgb, view), chosen)
    return Area(_joined(cuts, view), view)


def skin(people: People, sight: Sight, chosen: Sequence[int]) -> Area:
    """Of face and body, like each face's own; without eyes and lips."""
    view, small = sight.fit(SKIN), sight.fit(WHOLE)
    rgb, coarse = sight.read(view), sight.read(small)
    tones = tones_of(rgb)

    def own_skin(i: int) -> Floats:
        face = people.faces[i]
        own = _over(_cut(people, i, coarse, small), view)
        near = _Near(face, rgb, view)
        _lay(own, near.feature("face"), face, view)
        points = points_in(face.points, view)
        middle = face.middle[0] * view.long_edge, face.middle[1] * view.long_edge
        width = float(np.ptp(points[:, 0]))
        own *= skin_like_face(tones, unwrapped(rgb, face.points), middle, width)
        x0, y0, x1, y1 = near.view.region
        own[y0:y1, x0:x1] *= 1.0 - np.maximum(near.feature("eyes"), near.feature("lips"))
        return own

    return Area(_joined(each_on_one_core(own_skin, chosen), view), view)


def _cut(people: People, i: int, rgb: Floats, view: View) -> Floats:
    """A person, cut out once. rgb: the view of the whole photo at WHOLE."""
    if i not in people.cuts:
        people.cuts[i] = drawn_to_edges(rgb, _over(people.likely[i], view))
    return people.cuts[i]


def _joined(planes: Iterable[Floats], view: View) -> Floats:
    whole = np.zeros(view.shape, dtype=np.float32)
    for plane in planes:
        np.maximum(whole, plane, out=whole)
    return whole


def points_in(points: Floats, view: View) -> Floats:
    """Places (n, 2), fractions of the long edge, as pixels of a view."""
    corner = np.array(view.region[:2], dtype=np.float32)
    return np.asarray(points * np.float32(view.long_edge) - 0.5 - corner, dtype=np.float32)


class _Near:
    """A face with a little around it, cut out of a view: no more is drawn for its features, nor more finely
    than CUT. rgb: the view."""

    def __init__(self, face: Face, rgb: Floats, view: View) -> None:
        x0, y0, x1, y1 = _box_of([face], view)
        left, top = view.region[:2]
        self.view = View(view.size, (x0, y0, x1, y1))
        self._scale = min(1.0, CUT / max(self.view.shape))
        size = max(1, round((x1 - x0) * self._scale)), max(1, round((y1 - y0) * self._scale))
        here = rgb[:, y0 - top : y1 - top, x0 - left : x1 - left]
        self._rgb = np.stack([cv2.resize(p, size, interpolation=cv2.INTER_AREA) for p in here])
        self._face = face

    def feature(self, of: Feature) -> Floats:
        drawn = self._drawn(of, self._placed(self._face.points))
        high, wide = self.view.shape
        if drawn.shape == (high, wide):
            return drawn
        return np.asarray(cv2.resize(drawn, (wide, high), interpolation=cv2.INTER_LINEAR))

    def _placed(self, points: Floats) -> Floats:
        """Places as pixels of the picture that is cut."""
        at = (points_in(points, self.view) + 0.5) * np.float32(self._scale) - 0.5
        return np.asarray(at, dtype=np.float32)

    def _drawn(self, of: Feature, points: Floats) -> Floats:
        shape = self._rgb.shape[1], self._rgb.shape[2]
        if of == "face":
            return features.face_area(points, shape)
        if of == "irises":
            irises = self._placed(self._face.irises.reshape(-1, 2)).reshape(2, 5, 2)
            return features.irises_area(self._rgb, points, irises)
        return _BY_COLOUR[of](self._rgb, points)


def _lay(plane: Floats, feature: Floats, face: Face, view: View) -> None:
    """What was drawn near a face, onto a plane over a view."""
    x0, y0, x1, y1 = _box_of([face], view)
    left, top = view.region[:2]
    here = plane[y0 - top : y1 - top, x0 - left : x1 - left]
    np.maximum(here, feature, out=here)


_BY_COLOUR: dict[Feature, Callable[[Floats, Floats], Floats]] = {
    "lips": features.lips_area,
    "eyes": features.eyes_area,
    "brows": features.brows_area,
    "teeth": features.teeth_area,
}


def _around(sight: Sight, faces: Sequence[Face]) -> View:
    """A view of some faces and a little around, as fine as the photo, up to FINE."""
    box = _box_of(faces, View(sight.size, (0, 0, *sight.size)))
    return sight.around(box, FINE / max(box[2] - box[0], box[3] - box[1], 1))


def _box_of(faces: Sequence[Face], view: View) -> Region:
    """The part of a view in which faces lie, and a little around, in its whole photo's pixels."""
    room = ROOM * max(f.size for f in faces)
    boxes = np.array([f.box for f in faces])
    low = np.floor((boxes[:, :2].min(axis=0) - room) * view.long_edge).astype(int)
    high = np.ceil((boxes[:, 2:].max(axis=0) + room) * view.long_edge).astype(int)
    return overlap((low[0], low[1], high[0], high[1]), view.region) or (*view.region[:2], 1, 1)


def _over(plane: Floats, view: View) -> Floats:
    """A plane over the whole photo, at the size of a view of it."""
    return np.array(cv2.resize(plane, view.size, interpolation=cv2.INTER_LINEAR))
