"""What a recipe's casts amount to on one photo: per cast, its passes of direction and amount field.

Worked out once at the analysis size, never per view, so that preview and delivery agree. Casts are
treated one after another: each is measured on the photo with the earlier ones fully taken off, so that
dragging one amount does not change what the next cast is.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from dataclasses import field as dataclass_field
from functools import partial

import numpy as np

from nubilis.arrays import Floats
from nubilis.cache import Cache
from nubilis.cast.amount import Solved, solve_amount
from nubilis.cast.chroma import chroma_planes, luminance_plane
from nubilis.cast.direction import TOO_WEAK, MeasuredPair, same_cast
from nubilis.cast.field import AmountField, as_field, guide_of
from nubilis.cast.take_off import take_off
from nubilis.cast.touch import touched
from nubilis.mask.soften import blurred
from nubilis.photo.pyramid import pixel_at
from nubilis.recipe.document import Cast

CALM = 0.012  # of the long edge: what is finer is detail of an amount


@dataclass(frozen=True, eq=False)
class Pass:
    """One direction of one cast. shift: log chroma (2,) of amount 1; soft: the field without its detail;
    another: by how much another cast explains each place better, nats, at some coarse size."""

    shift: tuple[float, float]
    field: AmountField
    soft: AmountField
    another: Floats
    _between: Cache[AmountField] = dataclass_field(default_factory=lambda: Cache(2))

    def softened(self, share: float) -> AmountField:
        """Between the field, 0, and the soft one, 1; the same one when asked again."""
        if share == 0.0:
            return self.field
        one, two = self.field.coefficients, self.soft.coefficients
        return self._between.get(share, lambda: AmountField(one + np.float32(share) * (two - one)))


Here = tuple[slice, slice]
Change = Callable[[Floats, Here], Floats]  # of colours (3, h, w) that lie there


@dataclass(frozen=True, eq=False)
class Treated:
    """The analysis picture after full treatment so far, and where and how it was changed."""

    rgb: Floats
    changes: tuple[Change, ...] = ()

    def colour_at(
        self, at: tuple[float, float], rgb: Sequence[float]
    ) -> tuple[float, float, float]:
        """A sample's colour after the changes made at its place."""
        x, y = pixel_at(at, self.rgb.shape[1:])
        colour = np.array(rgb, dtype=np.float32).reshape(3, 1, 1)
        here = np.s_[y : y + 1, x : x + 1]
        for change in self.changes:
            colour = change(colour, here)
        red, green, blue = (float(v) for v in colour.ravel())
        return red, green, blue

    def taken_off(self, mask: Floats, amount: Floats, shift: tuple[float, float]) -> "Treated":
        def off(rgb: Floats, here: Here) -> Floats:
            return take_off(rgb, mask[here], amount[here], shift)

        return self._then(off)

    def looked(self, seen: Callable[[Floats], Floats]) -> "Treated":
        """With a look over all of it."""
        return self._then(lambda rgb, _: seen(rgb))

    def _then(self, change: Change) -> "Treated":
        return Treated(change(self.rgb, np.s_[:, :]), (*self.changes, change))


def treat(
    cast: Cast,
    mask: Floats,
    before: Treated,
    first: Callable[[Callable[[], Solved]], Solved] = lambda solve: solve(),
) -> tuple[tuple[Pass, ...], Treated]:
    """Work out one cast on what the earlier ones left. mask: at the analysis size, (h, w); first: keeps what
    is solved for the strongest direction, which is what touches act on."""
    passes: list[Pass] = []
    if not mask.any() or not cast.follows:
        return (), before
    pairs = cast.heard_pairs()
    guards = [g.sample.at for g in cast.guards if g.sample.at is not None]
    for group in same_cast(pairs):
        now = [_as_left(pairs[i], before) for i in group]
        if np.hypot(*np.sum([p.shift for p in now], axis=0)) < TOO_WEAK * len(now):
            continue
        solve = partial(solve_amount, before.rgb, mask, now, guards)
        solved = solve() if passes else first(solve)
        amount, shift = solved.amount, solved.shift
        if cast.touches and not passes:
            said = [(t.at, t.amount) for t in cast.touches]
            amount = touched(amount, chroma_planes(before.rgb), shift, said)
        way = float(shift[0]), float(shift[1])
        guide = guide_of(luminance_plane(before.rgb))
        soft = as_field(_calmed(amount, mask), guide)
        passes.append(Pass(way, as_field(amount, guide), soft, solved.another))
        before = before.taken_off(mask, amount, way)
    return tuple(passes), before


def _calmed(amount: Floats, mask: Floats) -> Floats:
    """The amount's mean around each place, as far as the mask reaches."""
    sigma = CALM * max(mask.shape)
    around = np.maximum(blurred(mask, sigma), np.float32(1e-4))
    return np.asarray(blurred(amount * mask, sigma) / around)


def _as_left(pair: MeasuredPair, left: Treated) -> MeasuredPair:
    tainted, reference = pair.tainted, pair.reference
    if pair.tainted_at is not None:
        tainted = left.colour_at(pair.tainted_at, tainted)
    if pair.reference_at is not None:
        reference = left.colour_at(pair.reference_at, reference)
    return replace(pair, tainted=tainted, reference=reference)
