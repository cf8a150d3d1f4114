"""Cube roots of the photo's own channels, in a light and two opponent planes: noise, which is the channels',
is about as strong there on every colour, and that of one plane has nothing to do with another's."""

from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import cbrt, compiled, constants, f32, kernel

# Orthonormal, so that noise keeps its size: light, red to blue, green to what is not.
ROOT_SIZES = np.sqrt(np.array([[3.0], [2.0], [6.0]]))
TO_PLANES: Floats = (
    np.array([[1.0, 1.0, 1.0], [1.0, 0.0, -1.0], [1.0, -2.0, 1.0]]) / ROOT_SIZES
).astype(np.float32)
OF_LIGHT = 1.0 / np.sqrt(3.0)  # the light plane times this is about 0..1
TOE = 0.005  # of light, added before the root: as code values do, so that noise is not blown up in the dark
ROOT_OF_TOE = float(np.cbrt(TOE))


def opponent_planes(rgb_linear: Floats, to_device: Floats) -> Floats:
    """(3, h, w) of a picture in linear Rec. 2020; to_device: to the photo's own primaries."""
    out = np.empty_like(rgb_linear)
    _planes(rgb_linear.shape[1], rgb_linear, to_device, TO_PLANES, out)
    return out


@kernel(of.planes, of.plane, of.plane, of.planes)
def _planes(rows: Any, rgb: Any, d: Any, o: Any, out: Any) -> None:
    d, o = constants(d), constants(o)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            u = cbrt(d[0][0] * r + d[0][1] * g + d[0][2] * b + f32(TOE)) - f32(ROOT_OF_TOE)
            v = cbrt(d[1][0] * r + d[1][1] * g + d[1][2] * b + f32(TOE)) - f32(ROOT_OF_TOE)
            w = cbrt(d[2][0] * r + d[2][1] * g + d[2][2] * b + f32(TOE)) - f32(ROOT_OF_TOE)
            out[0, y, x] = o[0][0] * u + o[0][1] * v + o[0][2] * w
            out[1, y, x] = o[1][0] * u + o[1][1] * v + o[1][2] * w
            out[2, y, x] = o[2][0] * u + o[2][1] * v + o[2][2] * w


@compiled
def from_planes(back: Any, o: Any, light: Any, red: Any, green: Any) -> Any:
    """Linear Rec. 2020; back: from the photo's own primaries."""
    toe = f32(ROOT_OF_TOE)
    u = o[0][0] * light + o[1][0] * red + o[2][0] * green + toe
    v = o[0][1] * light + o[1][1] * red + o[2][1] * green + toe
    w = o[0][2] * light + o[1][2] * red + o[2][2] * green + toe
    u, v, w = u * u * u - f32(TOE), v * v * v - f32(TOE), w * w * w - f32(TOE)
    return (
        back[0][0] * u + back[0][1] * v + back[0][2] * w,
        back[1][0] * u + back[1][1] * v + back[1][2] * w,
        back[2][0] * u + back[2][1] * v + back[2][2] * w,
    )
