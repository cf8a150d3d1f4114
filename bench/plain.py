"""The same work written plainly in numpy, to measure against: what one would write first."""

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.chroma import log_gains
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_oklch
from nubilis.colour.rgb import LUMINANCE, SRGB_TO_REC2020, linear_to_srgb, srgb_to_linear


def decode(codes: npt.NDArray[np.uint8]) -> Floats:
    light = srgb_to_linear(codes / 255.0)
    return np.moveaxis(light @ SRGB_TO_REC2020.T, 2, 0).astype(np.float32)


def key(rgb: Floats) -> npt.NDArray[np.float64]:
    """A hue range alone, hard-edged: less than the engine's key does."""
    lch = oklab_to_oklch(linear_rgb_to_oklab(np.moveaxis(rgb, 0, 2)))
    return ((lch[..., 2] > 20.0) & (lch[..., 2] < 60.0)).astype(np.float64)


def take_off(rgb: Floats, amount: Floats, shift: npt.ArrayLike) -> Floats:
    cones = np.einsum("ij,jhw->ihw", REC2020_TO_CONES, rgb)
    cones = cones * np.exp(-log_gains(shift)[:, None, None] * amount)
    out = np.einsum("ij,jhw->ihw", CONES_TO_REC2020, cones)
    before, after = (np.tensordot(LUMINANCE, p, axes=1) for p in (rgb, out))
    return (out * (before / np.maximum(after, 1e-4))).astype(np.float32)


def encode(rgb: Floats) -> npt.NDArray[np.uint8]:
    device = np.moveaxis(np.tensordot(np.linalg.inv(SRGB_TO_REC2020), rgb, axes=1), 0, 2)
    return (linear_to_srgb(np.clip(device, 0.0, 1.0)) * 255.0 + 0.5).astype(np.uint8)
