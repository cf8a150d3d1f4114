"""What touches are worth: a simulated editor touches the worst place, sees what comes of it, and goes on."""

from collections.abc import Sequence

import cv2
import numpy as np

from bench.relit import Relit
from bench.scenes import TAINTED, Scene
from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.planning import mask_picture, plan_fix
from nubilis.proof.at_place import amount_at
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import MOST_TOUCHED, Cast, Recipe, Touch

APART = 0.03  # of the long edge: where a place was touched, the next touch is not
REACH = 0.006  # of the long edge: the size of a place
STEPS = np.linspace(-1.0, 1.0, 11)  # how far the hand drags, in amounts


def touched_up(picture: Scene | Relit, counts: Sequence[int]) -> list[float]:
    """Share of the taint left after so many touches, at the analysis size."""
    assets = Bundle()
    engine = Engine(picture.photo, assets=assets)
    truth = Engine(picture.truth)
    view = engine.analysis_view
    true = lab_planes(truth.untouched(view))
    before = difference_plane(lab_planes(engine.untouched(view)), true)
    bad = before > TAINTED
    mask = assets.keep(mask_picture(picture.loose_mask(), picture.photo))
    recipe = plan_fix(engine, *picture.pairs(engine, 1), mask=mask)
    left, places = [], list[tuple[int, int]]()
    for count in range(max(counts) + 1):
        error = _error(engine, recipe, view, true)
        if count in counts:
            left.append(float(error[bad].mean() / before[bad].mean()))
        recipe = _touch(engine, recipe, error, true, places)
    return left


def _error(engine: Engine, recipe: Recipe, view: View, true: Floats) -> Floats:
    return difference_plane(lab_planes(engine.render(recipe, view)), true)


def _touch(
    engine: Engine, recipe: Recipe, error: Floats, true: Floats, places: list[tuple[int, int]]
) -> Recipe:
    """One more touch, of whichever cast, at the worst place not touched yet, dragged until it is right."""
    view = engine.analysis_view
    edge = max(error.shape)
    worst = cv2.GaussianBlur(error, (0, 0), REACH * edge)
    masks = [engine.mask(c.mask, view) for c in recipe.casts]
    worst *= np.max(masks, axis=0) > 0.5
    ys, xs = np.indices(error.shape)
    for x, y in places:
        worst[np.hypot(xs - x, ys - y) < APART * edge] = 0.0
    y, x = (int(v) for v in np.unravel_index(int(worst.argmax()), worst.shape))
    places.append((x, y))
    at = (x + 0.5) / edge, (y + 0.5) / edge
    spot = np.s_[max(0, y - 2) : y + 3, max(0, x - 2) : x + 3]
    tries = [(recipe, float(error[spot].mean()))]
    for cast in recipe.casts:
        found = amount_at(engine, recipe, cast.id, at)
        for by in STEPS if found is not None else ():
            tried = _with(recipe, cast, at, max(0.0, (found or 0.0) + float(by)), len(places))
            tries.append((tried, float(_error(engine, tried, view, true)[spot].mean())))
    return min(tries, key=lambda t: t[1])[0]


def _with(
    recipe: Recipe, cast: Cast, at: tuple[float, float], amount: float, number: int
) -> Recipe:
    touch = Touch(id=f"touch-{number}", at=at, amount=min(amount, MOST_TOUCHED))
    changed = cast.model_copy(update={"touches": (*cast.touches, touch)})
    casts = tuple(changed if c.id == cast.id else c for c in recipe.casts)
    return recipe.model_copy(update={"casts": casts})
