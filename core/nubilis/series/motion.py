"""How things moved between two frames.

Source of the flow: Kroeger, Timofte, Dai, Van Gool (2016), "Fast optical flow using dense inverse search".
"""

from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.series.frame import Frame

Moved = npt.NDArray[np.float64]  # (2, 3): a place here to where it was there
STAYED: Moved = np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]])
SURE = 1.5  # pixels that a place may be off after there and back
LIKE = 0.10  # of light, that it may have changed by
CUT = 0.45  # share of places that come back: fewer, and the frames are of other things
FEWEST, ASKED = 24, 4000  # places for a fit
NEAR = 2  # pixels around a place that go where it goes
OFF = 1.0  # pixels that a place may be off the motion of most


@dataclass(frozen=True, eq=False)
class Motion:
    """back: (h, w, 2) pixels from each place of a frame to where it was in the earlier one; forth: from each
    of that one to where it is now; sure: (h, w), where the way there and back ends at its beginning, at the
    same light."""

    back: Floats
    forth: Floats
    sure: npt.NDArray[np.bool_]

    @cached_property
    def places(self) -> tuple[Floats, Floats]:
        """Where each place was: x and y, (h, w)."""
        h, w = self.sure.shape
        ys, xs = np.mgrid[:h, :w].astype(np.float32)
        return xs + self.back[..., 0], ys + self.back[..., 1]

    @property
    def same(self) -> float:
        """Share of places that were found again."""
        return float(self.sure.mean())

    def brought(self, plane: Floats) -> Floats:
        """What lay over the earlier frame, over this one."""
        xs, ys = self.places
        mode = cv2.BORDER_REPLICATE
        return np.asarray(cv2.remap(plane, xs, ys, cv2.INTER_LINEAR, borderMode=mode))

    def carried(self, at: tuple[float, float]) -> tuple[float, float] | None:
        """Where a place of the earlier frame is now, pixels; None where that is not sure."""
        h, w = self.sure.shape
        x, y = round(at[0]), round(at[1])
        if not (0 <= x < w and 0 <= y < h):
            return None
        near = self.forth[max(y - NEAR, 0) : y + NEAR + 1, max(x - NEAR, 0) : x + NEAR + 1]
        step = np.median(near.reshape(-1, 2), axis=0)
        to = float(at[0] + step[0]), float(at[1] + step[1])
        x, y = round(to[0]), round(to[1])
        return to if 0 <= x < w and 0 <= y < h and self.sure[y, x] else None

    def shift(self, where: npt.NDArray[np.bool_]) -> Moved | None:
        """How far most of some places moved, without turning; None when too few are sure."""
        there = self.back[where & self.sure]
        if len(there) < FEWEST:
            return None
        return np.column_stack([np.eye(2), np.median(there, axis=0)])

    def of_most(self, where: npt.NDArray[np.bool_], sheared: bool = False) -> Moved | None:
        """How most of some places moved, together; None when too few are sure. sheared: beyond turning and
        growing, as what a camera sees is when it turns."""
        ys, xs = np.nonzero(where & self.sure)
        if len(xs) < FEWEST:
            return None
        step = max(len(xs) // ASKED, 1)
        at = np.stack([xs[::step], ys[::step]], axis=1).astype(np.float32)
        there = at + self.back[ys[::step], xs[::step]]
        fit = cv2.estimateAffine2D if sheared else cv2.estimateAffinePartial2D
        cv2.setRNGSeed(1)  # the same frames always moved the same way
        found, _ = fit(at, there, method=cv2.RANSAC, ransacReprojThreshold=OFF)
        return None if found is None else np.asarray(found, dtype=np.float64)


def motion_between(frame: Frame, earlier: Frame) -> Motion | None:
    """None when they are of different formats, or of different things."""
    if frame.shape != earlier.shape:
        return None
    back, forth = _flow(frame, earlier), _flow(earlier, frame)
    whole = Motion(back, forth, np.ones(frame.shape, dtype=np.bool_))
    again = back + np.stack([whole.brought(forth[..., i]) for i in (0, 1)], axis=2)
    change = whole.brought(earlier.light.astype(np.float32)) - frame.light
    sure = (np.hypot(again[..., 0], again[..., 1]) < SURE) & (np.abs(change) < LIKE * 255.0)
    motion = Motion(back, forth, sure)
    return motion if motion.same > CUT else None


def after(one: Moved, two: Moved) -> Moved:
    """One motion, and then the other."""
    return np.asarray((np.vstack([two, [0, 0, 1]]) @ np.vstack([one, [0, 0, 1]]))[:2])


def undone(moved: Moved) -> Moved:
    """The same the other way."""
    return np.asarray(np.linalg.inv(np.vstack([moved, [0.0, 0.0, 1.0]]))[:2])


def _flow(frame: Frame, other: Frame) -> Floats:
    work = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_MEDIUM)
    nowhere = np.zeros((*frame.shape, 2), dtype=np.float32)
    return np.asarray(work.calc(frame.light, other.light, nowhere), dtype=np.float32)
