"""The photo as the finder sees it: small, and in log chroma whose axes are about equally visible."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.chroma import chroma_planes
from nubilis.cast.evidence import lightness
from nubilis.cast.field import guide_of
from nubilis.colour.cielab import lab_planes
from nubilis.colour.skin import skin_like

LONG_EDGE = 208
# How much more a step along the first axis of log chroma is seen than along the second.
RED_GREEN = 2.2


@dataclass(frozen=True, eq=False)
class Reduced:
    """rgb: (3, h, w) linear Rec. 2020; u: (2, h, w) scaled log chroma; bright: mean log cone signal;
    light: L*; skin: share of skin-like colour around, 0..1; guide: what edges follow. All float32."""

    rgb: Floats
    u: Floats
    bright: Floats
    light: Floats
    skin: Floats
    guide: Floats

    @property
    def shape(self) -> tuple[int, int]:
        return self.light.shape[0], self.light.shape[1]


def reduced(rgb_linear: Floats) -> Reduced:
    """Reduce a picture, float32 (3, h, w) linear Rec. 2020, to what the finder works on."""
    f = min(1.0, LONG_EDGE / max(rgb_linear.shape[1:]))
    h, w = (max(1, round(n * f)) for n in rgb_linear.shape[1:])
    small = np.stack([cv2.resize(p, (w, h), interpolation=cv2.INTER_AREA) for p in rgb_linear])
    # A little light added: the logarithm of noise in the dark would look like colour.
    planes = chroma_planes(small + np.float32(3e-3))
    u = np.stack([planes[0] * np.float32(RED_GREEN), planes[1]])
    light = lightness(planes[3])
    return Reduced(small, u, planes[2], light, _skin(small, light), guide_of(planes[3]))


def _skin(rgb: Floats, light: Floats) -> Floats:
    return blurred(skin_like(lab_planes(rgb)), 0.05 * max(light.shape))


def blurred(v: npt.NDArray[Any], sigma: float) -> Floats:
    return np.asarray(cv2.GaussianBlur(v, (0, 0), sigma), dtype=np.float32)


def scaled(shift: Sequence[float]) -> npt.NDArray[np.float64]:
    """A shift in log cone chroma (2,) as one in the finder's scaled chroma."""
    return np.array([shift[0] * RED_GREEN, shift[1]])


def log_shift(k: npt.ArrayLike) -> npt.NDArray[np.float64]:
    """A shift in the finder's scaled chroma as one in log cone chroma (2,)."""
    return np.asarray(k, dtype=np.float64) / (RED_GREEN, 1.0)
