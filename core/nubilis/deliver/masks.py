"""Casts' masks as they go out."""

import cv2
import numpy as np

from nubilis.arrays import Codes
from nubilis.engine.engine import Engine
from nubilis.recipe.document import Cast, Recipe


def mask_of(engine: Engine, recipe: Recipe, cast: Cast, bits: int, size: tuple[int, int]) -> Codes:
    """Code values (h, w) of 8 or 16 bits; size: (width, height) of the delivered photo."""
    codes = engine.mask_codes(cast.mask, bits, recipe.state)
    if size != engine.size:
        codes = np.ascontiguousarray(cv2.resize(codes, size, interpolation=cv2.INTER_AREA))
    return codes
