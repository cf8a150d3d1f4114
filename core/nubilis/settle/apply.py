"""Settling: light and tone applied to pixels, each by itself, so that it is the same at every size."""

from functools import lru_cache
from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.rgb import LUMINANCE, Matrix
from nubilis.colour.temperature import balance_matrix
from nubilis.kernels import between, cbrt, f32, kernel
from nubilis.settle.base import Settings
from nubilis.settle.tone import TOP, gain_table

Rgb = tuple[float, float, float]


@kernel(of.planes, of.plane, of.line, of.line, of.real, of.planes)
def _settle(rows: Any, rgb: Any, m: Any, lum: Any, table: Any, scale: Any, out: Any) -> None:
    m00, m01, m02 = m[0][0], m[0][1], m[0][2]
    m10, m11, m12 = m[1][0], m[1][1], m[1][2]
    m20, m21, m22 = m[2][0], m[2][1], m[2][2]
    yr, yg, yb = lum[0], lum[1], lum[2]
    last = f32(table.shape[0] - 2)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            nr = m00 * r + m01 * g + m02 * b
            ng = m10 * r + m11 * g + m12 * b
            nb_ = m20 * r + m21 * g + m22 * b
            at = between(cbrt(max(yr * nr + yg * ng + yb * nb_, f32(0.0))) * scale, last)
            i: Any = np.uint32(at)
            gain = table[i] + (at - f32(i)) * (table[i + 1] - table[i])
            out[0, y, x] = nr * gain
            out[1, y, x] = ng * gain
            out[2, y, x] = nb_ * gain


def _matrix(base: Settings) -> Matrix:
    """White balance, exposure and saturation, which are all linear."""
    grey = np.broadcast_to(LUMINANCE, (3, 3))
    colour = grey + (1.0 + base.saturation) * (np.eye(3) - grey)
    return np.asarray(2.0**base.exposure * (colour @ balance_matrix(base.temperature, base.tint)))


@lru_cache(maxsize=32)
def _settings(base: Settings) -> tuple[Floats, Floats]:
    """The matrix and the gains: samples are settled one by one, and again with every picture."""
    return _matrix(base).astype(np.float32), gain_table(base)


def settled(rgb_linear: Floats, base: Settings) -> Floats:
    """The picture under such settings, float32 (3, h, w) linear Rec. 2020, unclipped; itself when at rest.

    Light is rebalanced by von Kries gains in Bradford cones, saturation mixes with the pixel's own
    luminance in linear light, and tone scales the pixel, so that it keeps its chromaticity.
    """
    if base.rest:
        return rgb_linear
    m, table = _settings(base)
    rgb = np.ascontiguousarray(rgb_linear)
    out = np.empty_like(rgb)
    scale = f32((table.shape[0] - 1) / TOP)
    _settle(rgb.shape[1], rgb, m, LUMINANCE.astype(np.float32), table, scale, out)
    return out


def settled_colour(rgb: Rgb, base: Settings) -> Rgb:
    """One colour under a base, linear Rec. 2020."""
    if base.rest:
        return rgb
    red, green, blue = settled(np.array(rgb, dtype=np.float32).reshape(3, 1, 1), base).ravel()
    return float(red), float(green), float(blue)
