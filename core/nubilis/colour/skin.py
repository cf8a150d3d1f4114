"""How far skin lies from the line on which healthy skin of every depth lies.

The line is the I axis of the vectorscope (SMPTE 170M), which was laid through the skins; real skins
scatter around it, so a range is given and not a point.
"""

from dataclasses import dataclass

import numpy as np

from nubilis.arrays import Floats

LINE = 123.0  # degrees from Cb towards Cr
RANGE = (112.0, 134.0)
HUE = (20.0, 80.0)  # degrees in CIELAB
CHROMA = (10.0, 45.0)
DARKEST = 25.0  # L*
LEAST = 0.002  # of the area: fewer pixels than that are not a face


@dataclass(frozen=True)
class Skin:
    """Angles off the line in degrees, positive towards yellow; share: of the area that is skin-like."""

    before: float
    now: float
    share: float


def skin_like(lab: Floats) -> Floats:
    """1 where a colour could be skin, else 0, (h, w). lab: CIELAB D50 (3, h, w)."""
    hue = np.degrees(np.arctan2(lab[2], lab[1]))
    chroma = np.hypot(lab[1], lab[2])
    like = (hue > HUE[0]) & (hue < HUE[1]) & (lab[0] > DARKEST)
    like &= (chroma > CHROMA[0]) & (chroma < CHROMA[1])
    return np.asarray(like, dtype=np.float32)


def off_line(chroma: Floats, weight: Floats) -> float:
    """Angle of the weighted mean of (Cb, Cr), (2, ...), off the line."""
    cb, cr = ((c * weight).sum() for c in chroma)
    return float((np.degrees(np.arctan2(cr, cb)) - LINE + 180.0) % 360.0 - 180.0)
