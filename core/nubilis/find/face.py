"""Faces as evidence: what they say about a cast, at the finder's size."""

from dataclasses import dataclass, replace

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.people.areas import points_in
from nubilis.people.canonical import SKIN, Unwrapped, unwrapped
from nubilis.people.features import face_area
from nubilis.people.people import Face, People
from nubilis.people.probe import Probe, mirrored, probe
from nubilis.photo.pyramid import View

HEARD, LOUD = 0.8, 1.7  # scores of a probe from which on it is heard, and wholly
SIDE_SURE = 1.5  # of a probe's margin
Place = tuple[float, float]


@dataclass(frozen=True, eq=False)
class FaceSeen:
    """who: from the left, from 1; cover: where the face is, tainted: how much each place carries, both 0..1,
    float32 (h, w) at the finder's size; worst, mirrored: the tainted place and the same place of the other
    half; colour: linear Rec. 2020 (3,) at the tainted place; box: of the face; places and box in fractions of
    the long edge."""

    who: int
    probe: Probe
    cover: Floats
    tainted: Floats
    worst: Place
    mirrored: Place
    colour: Floats
    box: tuple[float, float, float, float]

    @property
    def weight(self) -> float:
        """How loud it is, 0..1."""
        return float(np.clip((self.probe.score - HEARD) / (LOUD - HEARD), 0.0, 1.0))

    @property
    def turned(self) -> "FaceSeen":
        """The other answer: the other end is the tainted one."""
        return replace(
            self,
            probe=self.probe.turned,
            tainted=self.cover - self.tainted,
            worst=self.mirrored,
            mirrored=self.worst,
        )

    @property
    def side_sure(self) -> bool:
        return self.probe.margin >= SIDE_SURE


def faces_seen(
    people: People, rgb: Floats, shape: tuple[int, int], least: float = HEARD
) -> list[FaceSeen]:
    """Faces whose probe scores more than `least`. rgb: the whole photo (3, h, w), linear Rec. 2020; shape:
    (h, w) of the finder's."""
    found = []
    for who, face in enumerate(people.faces, 1):
        seen = unwrapped(rgb, face.points)
        told = probe(seen)
        if told is not None and told.score > least:
            found.append(_seen(who, face, seen, told, rgb, shape))
    return found


def _seen(
    who: int, face: Face, seen: Unwrapped, told: Probe, rgb: Floats, shape: tuple[int, int]
) -> FaceSeen:
    small = View((shape[1], shape[0]), (0, 0, shape[1], shape[0]))
    cover = face_area(points_in(face.points, small), shape)
    scale = max(shape) / seen.edge
    at = (seen.at + 0.5) * scale - 0.5
    tainted = _spread(np.clip(told.field + 0.5, 0.0, 1.0), at, shape) * cover
    worst = _worst(seen, told)
    x, y = (
        int(np.clip(v, 0, n - 1)) for v, n in zip(seen.at[worst], rgb.shape[:0:-1], strict=True)
    )
    places = seen.place(worst), seen.place(mirrored(*worst))
    return FaceSeen(who, told, cover, tainted, *places, rgb[:, y, x].copy(), face.box)


def _worst(seen: Unwrapped, told: Probe) -> tuple[int, int]:
    """The cell that carries most, whose mirrored one is well seen too, not at the rim."""
    both = seen.ok & seen.ok[:, ::-1]
    inner = cv2.erode(both.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    usable = inner if inner.any() else (both if both.any() else SKIN)
    # The two halves are to differ, or the other one is no reference.
    apart = told.field - told.field[:, ::-1]
    score = np.where(usable, told.field + apart, -np.inf)
    row, column = np.unravel_index(int(score.argmax()), score.shape)
    return int(row), int(column)


def _spread(field: Floats, at: Floats, shape: tuple[int, int]) -> Floats:
    """A field over the unwrapped face, over the picture: the mean of the cells that fall on a pixel, and what
    lies between them from around."""
    total, count = (np.zeros(shape, dtype=np.float32) for _ in range(2))
    xs, ys = (
        np.clip(np.rint(at[..., i][SKIN]).astype(int), 0, n - 1)
        for i, n in ((0, shape[1]), (1, shape[0]))
    )
    np.add.at(total, (ys, xs), field[SKIN].astype(np.float32))
    np.add.at(count, (ys, xs), np.float32(1.0))
    sigma = 1.5
    total, count = (cv2.GaussianBlur(v, (0, 0), sigma) for v in (total, count))
    return np.asarray(total / np.maximum(count, 1e-3) * (count > 1e-3), dtype=np.float32)
