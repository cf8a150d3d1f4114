"""A mask followed through the frames of a series.

From each frame to the next every place is asked whether it is rather of what is masked (memory.py), with the
frame where that was said by hand, which does not drift, as much heard as the one before. What comes of it is
cut out along the frame's edges. Loose masks, which have no edges of their own, are moved and not cut.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.mask.cut import IN, MAYBE_IN, MAYBE_OUT, OUT, cut_out
from nubilis.series.frame import Frame
from nubilis.series.memory import Bools, Known, grid_of, rather_inside
from nubilis.series.motion import STAYED, Motion, Moved, after, motion_between

STILL, MOVING, NEXT = 5, 24, 12  # pixels that a place is looked for around where it should be
ROOM = 30  # pixels around a mask that its next place is looked for in
PULL = 0.6  # weight of where flow alone would bring the mask
SURE = 0.4  # from where on a place is not cut any more
CRUMB = 0.02  # of the largest piece: smaller ones are none
SMOOTH = 15  # pixels over which the motion of a mask is evened out
SOFT = 0.35  # share of a mask between inside and outside, from which on it is loose
STRAY = 0.5  # of confidence, that a loose mask loses where none of its places is found again
CHECK = 0.6  # confidence below which somebody should look
CHANGED = 0.35  # of what a place is known by: more, and it is another
FRAMES_KEPT, MOTIONS_KEPT = 6, 40


@dataclass(frozen=True, eq=False)
class Followed:
    """mask: (h, w) over the frame, None where it could not be followed; moved: from the frame to the key
    that it was followed from; confidence: 0..1; key: whether its mask was given."""

    mask: Floats | None
    moved: Moved
    confidence: float
    key: bool = False

    @property
    def check(self) -> bool:
        return not self.key and self.confidence < CHECK


LOST = Followed(None, STAYED, 0.0)


class Series:
    """Frames in their order, read when they are asked for. frame_of: the i-th of them."""

    def __init__(self, count: int, frame_of: Callable[[int], Frame]) -> None:
        self.count = count
        self.frame = lru_cache(FRAMES_KEPT)(frame_of)
        self.motion = lru_cache(MOTIONS_KEPT)(self._motion)

    def _motion(self, i: int, earlier: int) -> Motion | None:
        """Between neighbours, from the i-th back to the other."""
        return motion_between(self.frame(i), self.frame(earlier))

    def track(self, at: tuple[float, float], key: int, i: int) -> tuple[float, float] | None:
        """Where a place of one frame is on another, pixels; None when it was lost on the way."""
        there: tuple[float, float] | None = at
        step = 1 if i > key else -1
        for to in range(key + step, i + step, step) if i != key else ():
            motion = self.motion(to, to - step)
            there = motion.carried(there) if motion and there else None
        if there is None or self._changed(at, key, there, i) > CHANGED:
            return None
        return there

    def _changed(
        self, was: tuple[float, float], key: int, now: tuple[float, float], i: int
    ) -> float:
        """How far what a place is known by differs: what is slowly hidden is dragged along by what hides
        it."""
        one, two = (self.frame(j).signs[round(y), round(x)] for j, (x, y) in ((key, was), (i, now)))
        return float(np.linalg.norm(one - two))

    def follow(self, keys: Mapping[int, Floats], loose: bool | None = None) -> list[Followed]:
        """A mask through all frames. keys: its planes (h, w) 0..1 where they were given, at the frames'
        sizes or others; loose: whether it is only moved, and not cut along edges; else it looks loose or not.
        """
        planes = {i: _fitted(plane, self.frame(i).shape) for i, plane in keys.items()}
        found = [LOST] * self.count
        for i, plane in planes.items():
            found[i] = Followed(plane, STAYED, 1.0, key=True)
        for first, last in _gaps(sorted(planes), self.count):
            self._fill(found, planes, (first, last), loose)
        return found

    def _fill(
        self,
        found: list[Followed],
        planes: Mapping[int, Floats],
        gap: tuple[int, int],
        loose: bool | None,
    ) -> None:
        """The frames between two keys, or between one and an end of the series."""
        first, last = gap
        ways = (first - 1, range(first, last)), (last, range(last - 1, first - 1, -1))
        ahead, back = (
            self._run(planes[key], key, way, loose) if key in planes else [] for key, way in ways
        )
        for i in range(first, last):
            one = ahead[i - first] if ahead else None
            two = back[last - 1 - i] if back else None
            found[i] = _better(one, two, i - first + 1, last - i, self.frame(i))

    def _run(self, plane: Floats, key: int, way: range, loose: bool | None) -> list["_Step"]:
        """From a key on, one way, until it is lost."""
        start = Known(self.frame(key), plane)
        step = _Step(Followed(start.mask, STAYED, 1.0, key=True), None, STAYED, STAYED)
        loose = is_loose(plane) if loose is None else loose
        steps, earlier = [], key
        for i in way:
            motion = self.motion(i, earlier) if step.followed.mask is not None else None
            if motion is None:
                step = _Step(LOST, None, STAYED, STAYED)
            else:
                before = Known(self.frame(earlier), _mask_of(step))
                step = _next(self.frame(i), motion, before, start, step, loose)
            steps.append(step)
            earlier = i
        return steps


@dataclass(frozen=True, eq=False)
class _Step:
    """score: -1..1, of what is not loose; from the frame to the key, still: how what stands still moved with
    the camera; shift: how far the mask did."""

    followed: Followed
    score: Floats | None
    still: Moved
    shift: Moved


def is_loose(mask: Floats) -> bool:
    """Whether a mask fades over much of itself, so that it follows no edges."""
    some, all_of = (float((mask > v).sum()) for v in (0.05, 0.95))
    return some > 0.0 and (some - all_of) / some > SOFT


def _mask_of(step: _Step) -> Floats:
    assert step.followed.mask is not None
    return step.followed.mask


def _fitted(plane: Floats, shape: tuple[int, int]) -> Floats:
    size = shape[1], shape[0]
    return np.asarray(cv2.resize(plane, size, interpolation=cv2.INTER_AREA), dtype=np.float32)


def _gaps(keys: list[int], count: int) -> list[tuple[int, int]]:
    """First and one past the last of the frames between."""
    ends = [-1, *keys, count]
    return [(a + 1, b) for a, b in pairwise(ends) if a + 1 < b]


def _next(
    frame: Frame, motion: Motion, before: Known, start: Known, step: _Step, loose: bool
) -> _Step:
    came = motion.brought(before.mask)
    still = _or(motion.of_most(came < 0.1, sheared=True), STAYED)
    turned = _or(motion.of_most(came > 0.5), still)
    shift = _or(motion.shift(came > 0.5), still)
    moved = after(turned, step.followed.moved)
    ends = after(still, step.still), after(shift, step.shift)
    if loose:
        mask = _moved(before.mask, turned)
        sure = step.followed.confidence * (1.0 - STRAY * (1.0 - _share(motion.sure, mask > 0.5)))
        return _Step(Followed(mask, moved, sure), None, *ends)
    score = _score(frame, motion, (before, still, shift), (start, *ends), came)
    mask = _cut(frame, score)
    sure = min(step.followed.confidence, _confidence(mask, came, score))
    return _Step(Followed(mask, moved, sure), score, *ends)


def _or(moved: Moved | None, otherwise: Moved) -> Moved:
    return otherwise if moved is None else moved


def _moved(mask: Floats, moved: Moved) -> Floats:
    way = cv2.WARP_INVERSE_MAP | cv2.INTER_LINEAR
    h, w = mask.shape
    return np.asarray(cv2.warpAffine(mask, moved, (w, h), flags=way), dtype=np.float32)


def _score(
    frame: Frame,
    motion: Motion,
    near: tuple[Known, Moved, Moved],
    first: tuple[Known, Moved, Moved],
    came: Floats,
) -> Floats:
    """-1..1: as the frame before and the key say, and flow. near, first: each with how what stands still, and
    the mask, moved since."""
    room = np.ones((2 * ROOM + 1, 2 * ROOM + 1), dtype=np.uint8)
    where = cv2.dilate((came > 0.3).astype(np.uint8), room) > 0
    shape = frame.shape
    evened = _evened(motion, came, near[2])
    says = rather_inside(frame, where, near[0], grid_of(near[1], shape), evened, (STILL, NEXT))
    there = grid_of(first[1], shape), grid_of(first[2], shape)
    says += rather_inside(frame, where, first[0], *there, (STILL, MOVING))
    score = says / 2.0 + np.float32(PULL) * (came - np.float32(0.5))
    score[~where] = -1.0
    return np.asarray(cv2.GaussianBlur(score, (0, 0), 1.0), dtype=np.float32)


def _evened(motion: Motion, came: Floats, own: Moved) -> tuple[Floats, Floats]:
    """Where each place was if it moves with the mask: as flow says within, as most of it beyond."""
    xs, ys = grid_of(own, came.shape)
    there = motion.places
    size = (SMOOTH, SMOOTH)
    h, w = came.shape
    base_y, base_x = np.mgrid[:h, :w].astype(np.float32)
    x, y = (
        base + cv2.blur(np.where(came > 0.5, flow, most) - base, size)
        for base, flow, most in ((base_x, there[0], xs), (base_y, there[1], ys))
    )
    return np.asarray(x, dtype=np.float32), np.asarray(y, dtype=np.float32)


def _cut(frame: Frame, score: Floats) -> Floats:
    said = np.where(score > 0.0, MAYBE_IN, MAYBE_OUT).astype(np.uint8)
    said[score > SURE] = IN
    said[score < -SURE] = OUT
    mask = cut_out(frame.rgb, said)
    count, pieces, figures, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8))
    if count > 1:
        sizes = figures[:, cv2.CC_STAT_AREA]
        crumbs = np.flatnonzero(sizes < CRUMB * sizes[1:].max())
        mask[np.isin(pieces, crumbs)] = 0.0
    return mask


def _confidence(mask: Floats, came: Floats, score: Floats) -> float:
    """How well what was cut agrees with where flow brought the mask, and how sure its places are."""
    inside, there = mask > 0.5, came > 0.5
    both, either = float((inside & there).sum()), float((inside | there).sum())
    if not inside.any() or not either:
        return 0.0
    clear = float(np.clip(np.abs(score[inside | there]) / SURE, 0.0, 1.0).mean())
    return both / either * clear


def _share(what: Bools, within: Bools) -> float:
    return float(what[within].mean()) if within.any() else 0.0


def _better(one: _Step | None, two: _Step | None, past: int, ahead: int, frame: Frame) -> Followed:
    """What both directions say together, the nearer key more; where one lost it, what the other says."""
    steps = [s for s in (one, two) if s is not None and s.followed.mask is not None]
    if len(steps) < 2:
        return steps[0].followed if steps else LOST
    first, second = steps
    near = first if past <= ahead else second
    if first.score is None or second.score is None:
        return near.followed
    share = np.float32(ahead / (past + ahead))
    score = share * first.score + (1.0 - share) * second.score
    mask = _cut(frame, np.asarray(score, dtype=np.float32))
    agree = _confidence(mask, _mask_of(near), score)
    sure = max(near.followed.confidence, agree)
    return Followed(mask, near.followed.moved, sure)
