"""What a cast's treatment did besides: outside its mask, to clean places inside it, to grain and edges."""

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine import Engine, active_casts
from nubilis.proof.judgement import MASK_EDGE, Change, slope_of
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.neutralise import read_amount

CLEAN = 0.1  # amount of the cast: what carries less counts as not tainted
FULL = 0.5  # coverage: where a mask counts as on


@dataclass(frozen=True)
class Moved:
    """CIEDE2000 over an area. share: of the photo's pixels."""

    share: float
    mean: float
    p95: float


@dataclass(frozen=True)
class SideEffects:
    """cast: its id; tainted, clean: under its mask, where the photo carries the cast and where it does
    not; clean is None for a cast that nothing was worked out for. noise_before, noise_after: standard
    deviation of what is finer than a pixel and a half at the analysis size, CIELAB, where the photo is
    flat; edge: 90th percentile of new steps along the mask's rim, CIELAB a pixel, None without a rim."""

    cast: str
    tainted: Moved
    clean: Moved | None
    noise_before: float
    noise_after: float
    edge: float | None


@dataclass(frozen=True)
class Besides:
    """outside: where no mask reaches."""

    outside: Moved
    casts: tuple[SideEffects, ...]


def side_effects(engine: Engine, recipe: Recipe) -> Besides:
    """Of the whole recipe together, cast by cast, from the analysis size."""
    view = engine.analysis_view
    before, after = engine.settled(view, recipe.base), engine.render(recipe, view)
    change = Change(lab_planes(before), lab_planes(after), np.zeros(view.shape, dtype=np.bool_))
    moved = difference_plane(change.before, change.after)
    masks = {c.id: engine.mask(c.mask, view, recipe.base) for c in recipe.casts if c.on}
    reached = np.zeros(view.shape, dtype=np.bool_)
    for mask in masks.values():
        reached |= mask > 0.0
    casts = tuple(
        _of_cast(engine, recipe, cast, masks[cast.id], change, moved)
        for cast in recipe.casts
        if cast.id in masks and float(masks[cast.id].max(initial=0.0)) > FULL
    )
    return Besides(_moved(moved, ~reached), casts)


def _of_cast(
    engine: Engine, recipe: Recipe, cast: Cast, mask: Floats, change: Change, moved: Floats
) -> SideEffects:
    carried = _carried(engine, recipe, cast, mask)
    on = mask > FULL
    flat = mask * change.flat
    noise = [float(np.sqrt((g * flat).sum() / flat.sum())) for g in change.grain]
    rim = slope_of(mask) > MASK_EDGE
    edge = float(np.quantile(change.new_steps[rim], 0.9)) if rim.any() else None
    if carried is None:
        return SideEffects(cast.id, _moved(moved, on), None, noise[0], noise[1], edge)
    clean = on & (carried < CLEAN)
    tainted = _moved(moved, on & ~clean)
    return SideEffects(cast.id, tainted, _moved(moved, clean), noise[0], noise[1], edge)


def _carried(engine: Engine, recipe: Recipe, cast: Cast, mask: Floats) -> Floats | None:
    """How much of the cast each place carries, the most of its directions; None where nothing says."""
    casts = active_casts(recipe)
    at = next((i for i, c in enumerate(casts) if c.id == cast.id), None)
    passes = () if at is None else engine.passes(recipe.base, casts[: at + 1])
    if not passes:
        return None
    view = engine.analysis_view
    before = engine.settled(view, recipe.base)
    amounts = [read_amount(step.field, before, mask, view) for step in passes]
    return np.asarray(np.max(amounts, axis=0), dtype=np.float32)


def _moved(moved: Floats, where: npt.NDArray[np.bool_]) -> Moved:
    if not where.any():
        return Moved(0.0, 0.0, 0.0)
    some = moved[where]
    return Moved(float(where.mean()), float(some.mean()), float(np.quantile(some, 0.95)))
