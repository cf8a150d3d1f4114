"""Glaze: a thin tint over all that is masked, less of it on whites and blacks."""

from typing import Any, ClassVar, Literal

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, constants_of_6, f32, kernel, smoothstep
from nubilis.recipe.model import LinearRgb
from nubilis.remedy.oklab_planes import to_oklab
from nubilis.remedy.remedy import Amount, Ground, Remedy, Rgb
from nubilis.remedy.tint import (
    BLACK,
    coloured,
    luminance_of_rgb,
    matrices,
    relative,
)

THIN = 0.04
BLACKS, WHITES = 0.3, 0.25  # of OKLab lightness, from the ends, over which it comes in


class Glaze(Remedy):
    """target: its colour, linear Rec. 2020; amount: its thickness, 1 is opaque. Light is held."""

    title: ClassVar[str] = "glaze"

    kind: Literal["glaze"] = "glaze"
    target: LinearRgb
    amount: Amount = THIN

    @property
    def aim(self) -> Rgb:
        return self.target

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        numbers = np.array([min(self.amount, 1.0), *relative(self.target)], dtype=np.float32)
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _glaze(rgb.shape[1], rgb, mask, numbers, m, out)
        return out


@compiled
def between_black_and_white(light: Any) -> Any:
    """1 on mid tones, 0 at black and at white; light: OKLab lightness."""
    low = smoothstep(light * f32(1.0 / BLACKS))
    return low * smoothstep((f32(1.0) - light) * f32(1.0 / WHITES))


@kernel(of.planes, of.plane, of.line, of.planes, of.planes)
def _glaze(rows: Any, rgb: Any, mask: Any, numbers: Any, m: Any, out: Any) -> None:
    """numbers: thickness, relative chroma."""
    m = constants_of_6(m)
    thickness, ta, tb = numbers[0], numbers[1], numbers[2]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x] * thickness
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                w *= between_black_and_white(light)
                per = f32(1.0) / max(light, f32(BLACK))
                a, c = a * per, c * per
                bright = luminance_of_rgb(m, r, g, b)
                r, g, b = coloured(m, light, a + w * (ta - a), c + w * (tb - c), bright)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
