"""How a photo's colours lie along the three dimensions of a colour key, and those under a mask."""

from dataclasses import dataclass

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_oklch
from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError
from nubilis.mask.colour_key import FULL_CHROMA
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe

EDGE = 320  # pixels: enough to count colours
BINS = 60
COLOURED = 4.0  # saturation from which on a hue counts in full


@dataclass(frozen=True, eq=False)
class KeyLevels:
    """photo, mask: (3, BINS), how much there is along hue 0..360, saturation and luminance 0..100; the
    fullest bin of the photo is 1, and the mask's are on the same scale."""

    photo: Floats
    mask: Floats


def key_levels(engine: Engine, recipe: Recipe, cast_id: str) -> KeyLevels:
    """Of the photo under its base, before any cast. Raises PlaceError."""
    cast = next((c for c in recipe.casts if c.id == cast_id), None)
    if cast is None:
        raise PlaceError("the recipe has no such cast")
    view = View.fit(engine.photo, EDGE)
    rgb = engine.settled(view, recipe.state)
    mask = engine.mask(cast.mask, view, recipe.state).ravel()
    lch = oklab_to_oklch(linear_rgb_to_oklab(rgb.reshape(3, -1).T))
    saturation = lch[:, 1] * (100.0 / FULL_CHROMA)
    values = lch[:, 2] / 360.0, saturation / 100.0, lch[:, 0]
    # A grey has no hue worth counting.
    weights = np.minimum(saturation / COLOURED, 1.0), np.ones(len(lch)), np.ones(len(lch))
    rows = [_counted(v, w, mask) for v, w in zip(values, weights, strict=True)]
    photo, masked = (np.stack(r).astype(np.float32) for r in zip(*rows, strict=True))
    return KeyLevels(photo, masked)


def _counted(value: np.ndarray, weight: np.ndarray, mask: Floats) -> tuple[np.ndarray, np.ndarray]:
    at = np.clip(value * BINS, 0, BINS - 1).astype(np.int64)
    photo, masked = (np.bincount(at, w, BINS) for w in (weight, weight * mask))
    most = max(float(photo.max()), 1e-9)
    # By the root, or a plain wall would press everything else to the ground.
    return np.sqrt(photo / most), np.sqrt(masked / most)
