"""Why is it there? A guess by rules from the cast's hue and from what else is in the frame."""

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats

Cause = Literal["spill", "mixed-light", "flash", "water", "foliage", "gel", "unknown"]
Box = tuple[float, float, float, float]

CHROMATIC = 32.0  # CIELAB chroma from which a surface can throw its colour
SAME_HUE = 35.0  # degrees
LEAST_SOURCE = 0.004  # of the photo
STRONG = 18.0  # CIELAB distance of a cast that only a coloured lamp makes


@dataclass(frozen=True)
class Guess:
    """source: x0, y0, x1, y1 as fractions of the long edge."""

    cause: Cause
    source: Box | None


def guess(lab: Floats, inside: npt.NDArray[np.bool_], cast: tuple[float, float]) -> Guess:
    """lab: CIELAB D50 (3, h, w) at the finder's size; inside: the region; cast: (da*, db*)."""
    hue = math.degrees(math.atan2(cast[1], cast[0])) % 360.0
    source = _source(lab, inside, hue)
    return Guess(_cause(hue, math.hypot(*cast), source is not None), source)


def _cause(hue: float, size: float, has_source: bool) -> Cause:
    if 100.0 <= hue < 150.0:
        return "foliage"
    if 165.0 <= hue < 225.0:
        return "water" if has_source else "flash"
    if 290.0 <= hue < 350.0 and size > STRONG:
        return "gel"
    if has_source:
        return "spill"
    if 55.0 <= hue < 100.0 or 225.0 <= hue < 290.0:
        return "mixed-light"
    return "unknown"


def _source(lab: Floats, inside: npt.NDArray[np.bool_], hue: float) -> Box | None:
    """The strongly coloured surface of the cast's own hue that is large and near."""
    chroma = np.hypot(lab[1], lab[2])
    off = (np.degrees(np.arctan2(lab[2], lab[1])) - hue + 180.0) % 360.0 - 180.0
    like = ((chroma > CHROMATIC) & (np.abs(off) < SAME_HUE)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(like)
    away = cv2.distanceTransform((~inside).astype(np.uint8), cv2.DIST_L2, 3)
    long_edge = max(like.shape)
    best, box = 0.0, None
    for i in range(1, count):
        area = stats[i, cv2.CC_STAT_AREA] / like.size
        if area < LEAST_SOURCE:
            continue
        near = float(away[labels == i].min()) / long_edge
        weight = area / (0.05 + near)
        if weight > best:
            x, y, w, h = (float(stats[i, j]) / long_edge for j in range(4))
            best, box = weight, (x, y, x + w, y + h)
    return box
