"""Who is in a photo: looked for once, and kept as a few numbers and small planes."""

import io
from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.cores import each_on_one_core
from nubilis.errors import NubilisError
from nubilis.mask.sight import Sight
from nubilis.people.body import apart, body_in
from nubilis.people.faces import SAME, Box, boxes_in, shared
from nubilis.people.mesh import irises_in, mesh_in
from nubilis.people.squares import Squares
from nubilis.photo.pyramid import View

SURE = 0.75  # of the mesh, that there is a face
TRIED = 4  # boxes at one place
MOST = 40  # places of one photo
BODY_EDGE = 480


@dataclass(frozen=True, eq=False)
class Face:
    """points: (468, 2) of its mesh, irises: (2, 5, 2), see mesh.py; box: corners; all fractions of the long
    edge; sure: 0..1."""

    points: Floats
    irises: Floats
    box: tuple[float, float, float, float]
    sure: float

    @property
    def middle(self) -> tuple[float, float]:
        x0, y0, x1, y1 = self.box
        return (x0 + x1) / 2.0, (y0 + y1) / 2.0

    @property
    def size(self) -> float:
        x0, y0, x1, y1 = self.box
        return max(x1 - x0, y1 - y0)


@dataclass(frozen=True, eq=False)
class People:
    """faces: from the left to the right; bodies: of the person of each, codes (n, h, w) over the whole photo,
    each place with one of them; cuts: those that were cut out along edges, by their places in the list."""

    faces: tuple[Face, ...]
    bodies: Codes
    cuts: dict[int, Floats] = field(default_factory=dict)

    @cached_property
    def likely(self) -> Floats:
        """The same as 0..1, float32."""
        return self.bodies.astype(np.float32) / np.float32(255.0)

    def to_bytes(self) -> bytes:
        out = io.BytesIO()
        np.savez_compressed(
            out,
            points=np.array([f.points for f in self.faces], dtype=np.float32),
            irises=np.array([f.irises for f in self.faces], dtype=np.float32),
            boxes=np.array([f.box for f in self.faces], dtype=np.float64),
            sure=np.array([f.sure for f in self.faces]),
            bodies=self.bodies,
        )
        return out.getvalue()


def people_of(data: bytes) -> People:
    """What to_bytes wrote. Raises NubilisError."""
    try:
        kept = np.load(io.BytesIO(data), allow_pickle=False)
        faces = tuple(
            Face(points, irises, (float(b[0]), float(b[1]), float(b[2]), float(b[3])), float(sure))
            for points, irises, b, sure in zip(
                kept["points"], kept["irises"], kept["boxes"], kept["sure"], strict=True
            )
        )
        return People(faces, kept["bodies"])
    except (ValueError, KeyError, OSError) as error:
        raise NubilisError("what is kept of the people in this photo is damaged") from error


def look_for_people(sight: Sight) -> People:
    """sight: of the photo as it came. Raises ModelsMissing."""
    squares = Squares(sight)
    found: list[tuple[Face, Box]] = []
    places = boxes_in(squares)[:MOST]
    for face in each_on_one_core(lambda boxes: next(_confirmed(squares, boxes), None), places):
        # Two boxes that the mesh draws together are one face.
        if face and all(shared(np.array(face[0].box), np.array(f.box)) < SAME for f, _ in found):
            found.append(face)
    found.sort(key=lambda f: f[0].middle[0])
    return People(tuple(f for f, _ in found), _bodies(squares, found))


def _confirmed(squares: Squares, boxes: list[Box]) -> Iterator[tuple[Face, Box]]:
    """The face of a box, for those in which the mesh finds one."""
    for box in boxes[:TRIED]:
        points, sure = mesh_in(squares, box.square, box.tinted)
        if sure >= SURE:
            yield _face(squares, points, irises_in(squares, points, box.tinted), sure), box


def _face(squares: Squares, points: Floats, irises: Floats, sure: float) -> Face:
    edge = squares.view.long_edge
    at = (points + 0.5) / edge
    (x0, y0), (x1, y1) = at.min(axis=0), at.max(axis=0)
    box = float(x0), float(y0), float(x1), float(y1)
    return Face(at.astype(np.float32), ((irises + 0.5) / edge).astype(np.float32), box, sure)


def _bodies(squares: Squares, found: list[tuple[Face, Box]]) -> Codes:
    size = View.within(squares.view.size, BODY_EDGE).size
    if not found:
        return np.zeros((0, size[1], size[0]), dtype=np.uint8)
    bodies = list(each_on_one_core(lambda f: body_in(squares, f[1], size), found))
    small = max(size)
    middles = np.array([f.middle for f, _ in found]) * small
    sizes = np.array([f.size for f, _ in found]) * small
    owned = apart(np.stack(bodies), middles, sizes)
    return (owned * 255.0 + 0.5).astype(np.uint8)
