"""What kind of surface a colour may be of: a guess, from CIELAB alone."""

import math
from typing import Literal

import numpy as np

from nubilis.colour.skin import skin_like

Kind = Literal["neutral", "skin", "foliage", "sky", "other"]

GREY = 8.0  # CIELAB chroma below which a surface counts as neutral
LEAVES, LEAVES_CHROMA = (95.0, 165.0), 10.0  # hue in degrees
AIR, AIR_LIGHT = (220.0, 290.0), 45.0


def kind_of(lab: tuple[float, float, float]) -> Kind:
    """lab: CIELAB D50."""
    lightness, a, b = lab
    chroma, hue = math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360.0
    if chroma < GREY:
        return "neutral"
    if skin_like(np.array(lab, dtype=np.float32).reshape(3, 1, 1)).any():
        return "skin"
    if LEAVES[0] < hue < LEAVES[1] and chroma > LEAVES_CHROMA:
        return "foliage"
    if AIR[0] < hue < AIR[1] and lightness > AIR_LIGHT:
        return "sky"
    return "other"
