"""Whether a place is rather of what was masked, or of what lay around it, in frames where that is known.

Each place is looked for near where it should be, by its colour and those around it, among what was inside
and among what was outside. What moved is so told from what stood still, and what comes into sight behind it
resembles neither.
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel
from nubilis.series.frame import Frame
from nubilis.series.motion import Moved

FAR = 1e3
AWAY = 1e-5  # of a squared distance in colour, for each squared pixel
SIZE = 0.08  # a distance in colour at which two places are alike by 1 / e
LEAST = 0.01
HIDDEN, UNSEEN = 0.3, 0.09  # likeness of what nothing near is known of: outside, inside
CLEAR = 0.2  # of a mask: less is surely outside, and as much below 1 surely inside

Bools = npt.NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Known:
    """A frame with its mask (h, w)."""

    frame: Frame
    mask: Floats

    @property
    def inside(self) -> Bools:
        return self.mask > 1.0 - CLEAR

    @property
    def outside(self) -> Bools:
        return self.mask < CLEAR


def grid_of(moved: Moved, shape: tuple[int, int]) -> tuple[Floats, Floats]:
    """Where the places of a frame were, x and y, (h, w)."""
    ys, xs = np.mgrid[: shape[0], : shape[1]].astype(np.float32)
    x, y = (row[0] * xs + row[1] * ys + row[2] for row in moved)
    return x.astype(np.float32), y.astype(np.float32)


def rather_inside(
    frame: Frame,
    where: Bools,
    known: Known,
    still: tuple[Floats, Floats],
    moved: tuple[Floats, Floats],
    reach: tuple[int, int],
) -> Floats:
    """-1 surely outside, 1 surely inside, (h, w). still, moved: where each place was in the known frame, if
    it stands still or moves with what is masked; reach: how far it is looked for around either, pixels."""
    outside = _likeness(frame, where, known, known.outside, still, reach[0], HIDDEN)
    inside = _likeness(frame, where, known, known.inside, moved, reach[1], UNSEEN)
    return np.asarray((inside - outside) / (inside + outside), dtype=np.float32)


def _likeness(
    frame: Frame,
    where: Bools,
    known: Known,
    among: Bools,
    at: tuple[Floats, Floats],
    reach: int,
    unknown: float,
) -> Floats:
    off = np.full(frame.shape, FAR, dtype=np.float32)
    _nearest(
        frame.signs.shape[0],
        frame.signs,
        where,
        known.frame.signs,
        among,
        at[0],
        at[1],
        reach,
        f32(AWAY),
        off,
    )
    like = np.exp(-np.sqrt(off) / f32(SIZE)) + f32(LEAST)
    return np.where(off < FAR, like, f32(unknown)).astype(np.float32)


@kernel(
    of.planes,
    of.flags_plane,
    of.planes,
    of.flags_plane,
    of.plane,
    of.plane,
    of.number,
    of.real,
    of.plane,
)
def _nearest(
    rows: Any,
    signs: Any,
    where: Any,
    known: Any,
    among: Any,
    xs: Any,
    ys: Any,
    reach: Any,
    away: Any,
    out: Any,
) -> None:
    h, w, n = known.shape
    for y in range(*rows):
        for x in range(signs.shape[1]):
            if where[y, x]:
                at_x, at_y = int(np.rint(xs[y, x])), int(np.rint(ys[y, x]))
                best = out[y, x]
                for v in range(max(at_y - reach, 0), min(at_y + reach + 1, h)):
                    for u in range(max(at_x - reach, 0), min(at_x + reach + 1, w)):
                        if among[v, u]:
                            off = away * f32((u - at_x) * (u - at_x) + (v - at_y) * (v - at_y))
                            for i in range(n):
                                d = signs[y, x, i] - known[v, u, i]
                                off += d * d
                            best = min(best, off)
                out[y, x] = best
