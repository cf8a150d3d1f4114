"""OKLab and OKLCh: perceptual work. Source: Ottosson (2020), with cones from XYZ (D65).

Lightness 0..1 (white = 1, 0, 0).
"""

from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis.colour.rgb import REC2020_TO_XYZ, Matrix

XYZ_TO_OKCONES: Matrix = np.array(
    [
        [0.8189330101, 0.3618667424, -0.1288597137],
        [0.0329845436, 0.9293118715, 0.0361456387],
        [0.0482003018, 0.2643662691, 0.6338517070],
    ]
)
_OKCONES_TO_OKLAB: Matrix = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
# The published matrices are rounded to ten digits; rescaling keeps neutrals at a = b = 0 exactly.
_to_cones = XYZ_TO_OKCONES @ REC2020_TO_XYZ
REC2020_TO_OKCONES: Matrix = _to_cones / _to_cones.sum(axis=1, keepdims=True)
_mix = _OKCONES_TO_OKLAB.copy()
_mix[1:] -= _mix[1:].mean(axis=1, keepdims=True)
_mix[0] /= _mix[0].sum()
OKCONES_TO_OKLAB: Matrix = _mix
OKLAB_TO_OKCONES: Matrix = np.linalg.inv(OKCONES_TO_OKLAB)
OKCONES_TO_REC2020: Matrix = np.linalg.inv(REC2020_TO_OKCONES)


def linear_rgb_to_oklab(rgb_linear: npt.ArrayLike) -> npt.NDArray[Any]:
    """Linear Rec. 2020 (..., 3) to OKLab (..., 3), float64."""
    cones = np.asarray(rgb_linear, dtype=np.float64) @ REC2020_TO_OKCONES.T
    return np.asarray(np.cbrt(cones) @ OKCONES_TO_OKLAB.T)


def oklab_to_linear_rgb(oklab: npt.ArrayLike) -> npt.NDArray[Any]:
    """OKLab (..., 3) to linear Rec. 2020 (..., 3), float64."""
    roots = np.asarray(oklab, dtype=np.float64) @ OKLAB_TO_OKCONES.T
    return np.asarray(roots**3 @ OKCONES_TO_REC2020.T)


def oklab_to_oklch(oklab: npt.ArrayLike) -> npt.NDArray[Any]:
    """OKLab to lightness, chroma, hue in degrees 0..360."""
    lab = np.asarray(oklab, dtype=np.float64)
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360.0
    return np.stack([lab[..., 0], chroma, hue], axis=-1)


def oklch_to_oklab(oklch: npt.ArrayLike) -> npt.NDArray[Any]:
    """OKLCh (..., 3), hue in degrees, to OKLab (..., 3), float64."""
    lch = np.asarray(oklch, dtype=np.float64)
    hue = np.radians(lch[..., 2])
    return np.stack([lch[..., 0], lch[..., 1] * np.cos(hue), lch[..., 1] * np.sin(hue)], axis=-1)
