"""Warmth back: skin that is neutral now but flatter than its reference, and the glaze that mends that."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from nubilis.cast.direction import angle_between
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb
from nubilis.proof.pairs import PairProof
from nubilis.recipe.model import LinearRgb
from nubilis.remedy.glaze import between_black_and_white
from nubilis.remedy.tint import relative

STRONGER = 2.5  # than the skin's own: a glaze of skin's colour itself would have to be opaque
LEAST, MOST = 0.01, 0.4  # of thickness, that is worth offering
OFF_HUE = 25.0  # degrees from the reference's hue, from where on skin is wrong and not flat


@dataclass(frozen=True)
class Warmth:
    """target: the glaze's colour, linear Rec. 2020; amount: its thickness."""

    target: LinearRgb
    amount: float


def warmth_back(skins: Sequence[PairProof]) -> Warmth | None:
    """What would bring a cast's skin samples, as they are now, to their references: the thickness of least
    squares along the way to a stronger tint of the same hue. None where it is not worth a glaze."""
    wanted = [(p.is_now.rgb, p.should_be.rgb) for p in skins if p.should_be is not None]
    if not wanted:
        return None
    light, a, b = np.mean([linear_rgb_to_oklab(np.maximum(r, 0.0)) for _, r in wanted], axis=0)
    strong = np.maximum(oklab_to_linear_rgb([light, STRONGER * a, STRONGER * b]), 0.0)
    red, green, blue = (float(v) for v in strong)
    tint = np.array(relative((red, green, blue)))
    along = across = 0.0
    for now, should in wanted:
        here, there = np.array(relative(now)), np.array(relative(should))
        seen = float(linear_rgb_to_oklab(np.maximum(now, 0.0))[0])
        way = float(between_black_and_white(np.float32(seen))) * (tint - here)
        along += float(way @ (there - here))
        across += float(way @ way)
        if angle_between(here, there) > OFF_HUE:
            return None
    amount = along / max(across, 1e-9)
    if not LEAST <= amount <= MOST:
        return None
    return Warmth((red, green, blue), round(amount, 3))
