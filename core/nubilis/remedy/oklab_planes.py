"""A picture's planes in OKLab and back, for remedies that move hue, chroma and lightness.

Source: Ottosson (2020). L 0..1 for black to white; float32.
"""

from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.oklab import (
    OKCONES_TO_OKLAB,
    OKCONES_TO_REC2020,
    OKLAB_TO_OKCONES,
    REC2020_TO_OKCONES,
)
from nubilis.kernels import cbrt, compiled, constants_of_4, f32, kernel

MATRICES = np.stack(
    [REC2020_TO_OKCONES, OKCONES_TO_OKLAB, OKLAB_TO_OKCONES, OKCONES_TO_REC2020]
).astype(np.float32)


@compiled
def to_oklab(m: Any, r: Any, g: Any, b: Any) -> Any:
    """Linear Rec. 2020 to OKLab; m: MATRICES."""
    l_ = cbrt(m[0][0][0] * r + m[0][0][1] * g + m[0][0][2] * b)
    m_ = cbrt(m[0][1][0] * r + m[0][1][1] * g + m[0][1][2] * b)
    s_ = cbrt(m[0][2][0] * r + m[0][2][1] * g + m[0][2][2] * b)
    return (
        m[1][0][0] * l_ + m[1][0][1] * m_ + m[1][0][2] * s_,
        m[1][1][0] * l_ + m[1][1][1] * m_ + m[1][1][2] * s_,
        m[1][2][0] * l_ + m[1][2][1] * m_ + m[1][2][2] * s_,
    )


@compiled
def from_oklab(m: Any, light: Any, a: Any, b: Any) -> Any:
    """OKLab to linear Rec. 2020."""
    l_ = m[2][0][0] * light + m[2][0][1] * a + m[2][0][2] * b
    m_ = m[2][1][0] * light + m[2][1][1] * a + m[2][1][2] * b
    s_ = m[2][2][0] * light + m[2][2][1] * a + m[2][2][2] * b
    l_, m_, s_ = l_ * l_ * l_, m_ * m_ * m_, s_ * s_ * s_
    return (
        m[3][0][0] * l_ + m[3][0][1] * m_ + m[3][0][2] * s_,
        m[3][1][0] * l_ + m[3][1][1] * m_ + m[3][1][2] * s_,
        m[3][2][0] * l_ + m[3][2][1] * m_ + m[3][2][2] * s_,
    )


@compiled
def room_to_move(light: Any) -> Any:
    """How far a lightness may be moved: black and white stay, a step is widest in the middle."""
    return min(max(f32(4.0) * light * (f32(1.0) - light), f32(0.0)), f32(1.0))


@kernel(of.planes, of.planes, of.plane)
def _lightness(rows: Any, rgb: Any, m: Any, out: Any) -> None:
    m = constants_of_4(m)
    for y in range(*rows):
        for x in range(out.shape[1]):
            out[y, x] = to_oklab(m, rgb[0, y, x], rgb[1, y, x], rgb[2, y, x])[0]


def lightness_plane(rgb_linear: Floats) -> Floats:
    """OKLab lightness (h, w) of a picture (3, h, w) in linear Rec. 2020."""
    out = np.empty(rgb_linear.shape[1:], dtype=np.float32)
    _lightness(len(out), np.maximum(rgb_linear, f32(0.0)), MATRICES, out)
    return out


@kernel(of.planes, of.planes, of.planes)
def _planes(rows: Any, rgb: Any, m: Any, out: Any) -> None:
    m = constants_of_4(m)
    for y in range(*rows):
        for x in range(out.shape[2]):
            light, a, b = to_oklab(m, rgb[0, y, x], rgb[1, y, x], rgb[2, y, x])
            out[0, y, x], out[1, y, x], out[2, y, x] = light, a, b


def planes_of(rgb_linear: Floats) -> Floats:
    """OKLab (3, h, w) of a picture in linear Rec. 2020."""
    out = np.empty_like(rgb_linear)
    _planes(out.shape[1], np.maximum(rgb_linear, f32(0.0)), MATRICES, out)
    return out
