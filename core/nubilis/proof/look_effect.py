"""What a look does to the colours that people know: skin, lips, and greys."""

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.skin import LEAST, skin_like
from nubilis.engine.engine import Engine
from nubilis.recipe.document import Recipe

LEAST_LIPS = 5e-5  # of the photo
GREY = 5.0  # CIELAB chroma below which a colour counts as a grey
Group = Literal["skin", "lips", "greys"]


@dataclass(frozen=True)
class Effect:
    """share: of the photo; moved: mean CIEDE2000; turned: degrees of the mean hue, towards yellow above 0; of
    greys, whose hue means nothing, 0; a, b: by how much the mean moved, CIELAB; at: where there is most of
    it, fractions of the long edge."""

    group: Group
    share: float
    moved: float
    turned: float
    a: float
    b: float
    at: tuple[float, float]


def look_effect(engine: Engine, recipe: Recipe, lips: Floats | None = None) -> tuple[Effect, ...]:
    """Of the photo's look alone, over base and the casts before it; without a look, nothing. lips: where they
    are, (h, w) at the analysis size, if that is known."""
    if recipe.look is None or not recipe.look.acts:
        return ()
    earlier = tuple(c for c in recipe.casts if not c.after_look)
    with_look = recipe.model_copy(update={"casts": earlier})
    without = with_look.model_copy(update={"look": None})
    view = engine.analysis_view
    before, after = (
        lab_planes(np.maximum(engine.render(r, view), 0.0)) for r in (without, with_look)
    )
    weights: dict[Group, Floats] = {"skin": skin_like(before)}
    if lips is not None:
        weights["lips"] = lips
    weights["greys"] = _greys(before)
    moved = difference_plane(before, after)
    found = (_effect(group, before, after, moved, weight) for group, weight in weights.items())
    return tuple(one for one in found if one is not None)


def _greys(lab: Floats) -> Floats:
    chroma = np.hypot(lab[1], lab[2])
    return np.asarray((chroma < GREY) & (lab[0] > 10.0), dtype=np.float32)


def _effect(
    group: Group, before: Floats, after: Floats, moved: Floats, weight: Floats
) -> Effect | None:
    """moved: CIEDE2000 between before and after."""
    share = float(weight.mean())
    if share < (LEAST_LIPS if group == "lips" else LEAST):
        return None
    was, now = (
        np.array([(p * weight).sum() for p in v[1:]]) / weight.sum() for v in (before, after)
    )
    turned = 0.0
    if group != "greys":
        angle = np.degrees(np.arctan2(now[1], now[0]) - np.arctan2(was[1], was[0]))
        turned = float((angle + 180.0) % 360.0 - 180.0)
    mean = float((moved * weight).sum() / weight.sum())
    calm = cv2.GaussianBlur(weight, (0, 0), 6.0)
    y, x = np.unravel_index(int(calm.argmax()), calm.shape)
    edge = max(calm.shape)
    a, b = (float(v) for v in now - was)
    return Effect(
        group, share, mean, turned, a, b, ((float(x) + 0.5) / edge, (float(y) + 0.5) / edge)
    )
