"""What a cast's treatment did besides: outside its mask, to clean places inside it, to grain and edges."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.proof.judgement import MASK_EDGE, slope_of
from nubilis.proof.outcome import FULL, Outcome
from nubilis.recipe.document import Cast


@dataclass(frozen=True)
class Moved:
    """CIEDE2000 over an area. share: of the photo's pixels."""

    share: float
    mean: float
    p95: float
    most: float


@dataclass(frozen=True)
class SideEffects:
    """tainted, clean: under the cast's mask, where the photo carries the cast and where it does not; clean
    is None for a cast that nothing was worked out for. noise_before, noise_after: standard deviation of
    what is finer than a pixel and a half at the analysis size, CIELAB, where the photo is flat; edge: 90th
    percentile of new steps along the mask's rim, CIELAB a pixel, None without a rim."""

    tainted: Moved
    clean: Moved | None
    noise_before: float
    noise_after: float
    edge: float | None


def side_effects(outcome: Outcome, cast: Cast) -> SideEffects | None:
    """Of the whole recipe together, under one cast's mask; None when that is off or masks nothing."""
    mask = outcome.masks[cast.id]
    on = mask > FULL
    if not cast.on or not on.any():
        return None
    change, moved, near = outcome.change, outcome.moved, mask[outcome.area]
    flat = near * change.flat
    before, after = (float(np.sqrt((g * flat).sum() / flat.sum())) for g in change.grain)
    at_rim = rim(near)
    edge = float(np.quantile(change.new_steps[at_rim], 0.9)) if at_rim.any() else None
    clean = outcome.clean(cast)
    if clean is None:
        return SideEffects(moved_in(moved, on), None, before, after, edge)
    tainted = moved_in(moved, on & ~clean)
    return SideEffects(tainted, moved_in(moved, on & clean), before, after, edge)


def rim(mask: Floats) -> npt.NDArray[np.bool_]:
    """Where a mask has its edge."""
    return np.asarray(slope_of(mask) > MASK_EDGE)


def moved_in(moved: Floats, where: npt.NDArray[np.bool_]) -> Moved:
    if not where.any():
        return Moved(0.0, 0.0, 0.0, 0.0)
    some = moved[where]
    share = float(where.mean())
    return Moved(share, float(some.mean()), float(np.quantile(some, 0.95)), float(some.max()))
