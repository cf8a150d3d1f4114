"""Why is it there? A guess by rules from the cast's hue, its texture, and what else is in the frame."""

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.find.colours import blurred

Cause = Literal["spill", "mixed-light", "flash", "water", "foliage", "gel", "unknown"]
Box = tuple[float, float, float, float]

CHROMATIC = 40.0  # CIELAB chroma from which a surface can throw its colour
SAME_HUE = 30.0  # degrees
LEAST_SOURCE = 0.02  # of the photo
INSIDE = 0.5  # a source lies outside what it taints, for the most part
# Share of a cast that varies over less than RIPPLE, up to which light is smooth, and from where on it is
# broken: in rooms relit by known lamps flashes have .15, at most .24; ripples and spots begin at .23.
SMOOTH, BROKEN = 0.2, 0.25
RIPPLE = 8.0  # pixels at the finder's size


@dataclass(frozen=True)
class Guess:
    """source: x0, y0, x1, y1 as fractions of the long edge."""

    cause: Cause
    source: Box | None


def guess(lab: Floats, clean: Floats, inside: npt.NDArray[np.bool_]) -> Guess:
    """lab, clean: CIELAB D50 (3, h, w) at the finder's size, with and without the cast."""
    cast = lab[1:] - clean[1:]
    a, b = (float(v) for v in cast[:, inside].mean(axis=1))
    hue = math.degrees(math.atan2(b, a)) % 360.0
    source = _source(clean, inside, hue)
    return Guess(_cause(hue, source is not None, _dapple(cast, inside)), source)


def _cause(hue: float, has_source: bool, dapple: float) -> Cause:
    if (95.0 <= hue < 165.0 and has_source) or (110.0 <= hue < 150.0 and dapple > BROKEN):
        return "foliage"  # the sun through leaves
    if 165.0 <= hue < 235.0 and not has_source:
        return "water" if dapple > BROKEN else "flash" if dapple < SMOOTH else "unknown"
    if has_source:
        return "spill"
    if 50.0 <= hue < 95.0 or 225.0 <= hue < 290.0:
        return "mixed-light"  # along the black body's colours: lamp or sky
    if 290.0 <= hue < 360.0:
        return "gel"  # no body glows magenta
    return "unknown"


def _dapple(cast: Floats, inside: npt.NDArray[np.bool_]) -> float:
    size = np.asarray(cv2.blur(np.hypot(cast[0], cast[1]), (3, 3)))
    fine = np.abs(size - blurred(size, RIPPLE))
    return float(fine[inside].sum() / max(float(size[inside].sum()), 1e-9))


def _source(clean: Floats, inside: npt.NDArray[np.bool_], hue: float) -> Box | None:
    """The strongly coloured surface of the cast's own hue that is large and near."""
    chroma = np.hypot(clean[1], clean[2])
    off = (np.degrees(np.arctan2(clean[2], clean[1])) - hue + 180.0) % 360.0 - 180.0
    like = ((chroma > CHROMATIC) & (np.abs(off) < SAME_HUE)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(like)
    away = cv2.distanceTransform((~inside).astype(np.uint8), cv2.DIST_L2, 3)
    long_edge = max(like.shape)
    best, box = 0.0, None
    for i in range(1, count):
        area = stats[i, cv2.CC_STAT_AREA] / like.size
        if area < LEAST_SOURCE or inside[labels == i].mean() > INSIDE:
            continue
        near = float(away[labels == i].min()) / long_edge
        weight = area / (0.05 + near)
        if weight > best:
            x, y, w, h = (float(stats[i, j]) / long_edge for j in range(4))
            best, box = weight, (x, y, x + w, y + h)
    return box
