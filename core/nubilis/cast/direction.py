"""Which way does a cast push, and which pairs of samples speak for the same cast?"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.cast.chroma import chroma_of, luminance_of

SAME_CAST_DEGREES = 30.0
TOO_WEAK = 0.01  # log chroma; about half of one ΔE, less than the samples' own noise
# Two places so near, or of so like a colour, carry the same cast. Of true pairs that point another way than
# two others, 3 % contradict one of them in this; of pairs whose reference is another paint, 40 %.
SAME_PLACE, SAME_COLOUR = 0.10, 0.15  # of the long edge; log chroma


@dataclass(frozen=True)
class MeasuredPair:
    """A tainted place and what it should be. Colours: linear Rec. 2020 (3,).

    tainted_at, reference_at: places (x, y) as fractions of the long edge; a reference that is made
    or comes from elsewhere has none; further: places that were averaged into the tainted colour.
    """

    tainted: tuple[float, float, float]
    reference: tuple[float, float, float]
    tainted_at: tuple[float, float] | None = None
    reference_at: tuple[float, float] | None = None
    further: tuple[tuple[float, float], ...] = ()

    @property
    def shift(self) -> npt.NDArray[np.float64]:
        """The cast of this pair in log chroma (2,)."""
        return chroma_of(self.tainted) - chroma_of(self.reference)

    @property
    def lightness_gap(self) -> float:
        """L* of the reference minus L* of the tainted sample."""
        light: list[float] = [
            116.0 * max(luminance_of(c), 1e-5) ** (1 / 3) for c in (self.reference, self.tainted)
        ]
        return float(light[0] - light[1])


def angle_between(one: npt.NDArray[np.float64], two: npt.NDArray[np.float64]) -> float:
    """Degrees 0..180 between two vectors; 180 when either has no length."""
    sizes = float(np.hypot(*one) * np.hypot(*two))
    if sizes == 0.0:
        return 180.0
    return math.degrees(math.acos(min(max(float(one @ two) / sizes, -1.0), 1.0)))


def common_shift(pairs: Sequence[MeasuredPair]) -> tuple[float, float]:
    """The mean cast of pairs in log chroma: which way they go together."""
    one, two = (float(v) for v in np.mean([p.shift for p in pairs], axis=0))
    return one, two


def outvoted(pairs: Sequence[MeasuredPair]) -> set[int]:
    """Indices of pairs that cannot be true if the majority is: they point another way although they lie
    beside one of its samples, or are of its colour."""
    if len(pairs) < 3:
        return set()
    groups = same_cast(pairs)
    most = max(groups, key=len)
    return {
        i
        for group in groups
        if len(group) < len(most)
        for i in group
        if any(_alike(pairs[i], pairs[j]) for j in most)
    }


def _alike(one: MeasuredPair, two: MeasuredPair) -> bool:
    """Whether the tainted samples of two pairs should carry the same cast."""
    colours = chroma_of(one.tainted) - chroma_of(two.tainted)
    if float(np.hypot(*colours)) < SAME_COLOUR:
        return True
    if one.tainted_at is None or two.tainted_at is None:
        return False
    return math.dist(one.tainted_at, two.tainted_at) < SAME_PLACE


def carried(pairs: Sequence[MeasuredPair]) -> tuple[float, ...]:
    """How much each pair's sample carries of the cast that it speaks for, the mean of its group being 1."""
    amounts = [1.0] * len(pairs)
    for group in same_cast(pairs):
        way = np.sum([pairs[i].shift for i in group], axis=0)
        size = float(np.hypot(*way))
        if size > TOO_WEAK * len(group):
            for i in group:
                amounts[i] = max(float(pairs[i].shift @ way) * len(group) / size**2, 0.0)
    return tuple(amounts)


def same_cast(pairs: Sequence[MeasuredPair]) -> list[list[int]]:
    """Indices of the pairs that belong together, the strongest group first.

    Greedy from the strongest pair: it joins the first group whose sum points within
    SAME_CAST_DEGREES. Pairs too weak to have a direction join the strongest group.
    """
    shifts = [p.shift for p in pairs]
    order = sorted(range(len(pairs)), key=lambda i: -float(np.hypot(*shifts[i])))
    groups: list[list[int]] = []
    for i in order:
        home = next(
            (
                g
                for g in groups
                if np.hypot(*shifts[i]) < TOO_WEAK
                or angle_between(shifts[i], np.sum([shifts[j] for j in g], axis=0))
                <= SAME_CAST_DEGREES
            ),
            None,
        )
        if home is None:
            groups.append([i])
        else:
            home.append(i)
    return groups
