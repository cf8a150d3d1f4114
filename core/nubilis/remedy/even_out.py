"""Even out: hues, saturations and lightnesses drawn towards one colour, or spread away from it."""

import math
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.kernels import constants_of_4, f32, kernel
from nubilis.recipe.model import LinearRgb
from nubilis.remedy.oklab_planes import MATRICES, from_oklab, to_oklab
from nubilis.remedy.remedy import Ground, Remedy, Rgb, Statistic
from nubilis.remedy.smooth import smooth_lightness

SMOOTH = 0.02  # of the long edge: what is smaller than that is detail
SMOOTH_EDGE = 0.02  # of the guide's variance: an edge stronger than that is no detail
Weight = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]


LIGHTNESS = Statistic("lightness without its detail", smooth_lightness(SMOOTH, SMOOTH_EDGE))


class EvenOut(Remedy):
    """target: the colour, linear Rec. 2020. Weights: 1 leaves one hue, one saturation, one lightness;
    0 leaves it; below 0 spreads. Lightness is evened without its detail, so that texture is kept."""

    statistics: ClassVar[tuple[Statistic, ...]] = (LIGHTNESS,)
    title: ClassVar[str] = "even out"

    kind: Literal["even-out"] = "even-out"
    target: LinearRgb
    hue: Weight = 0.6
    saturation: Weight = 0.3
    lightness: Weight = 0.0

    @property
    def aim(self) -> Rgb:
        return self.target

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        weights = [self.amount * w for w in (self.hue, self.saturation, self.lightness)]
        if not any(weights):
            return rgb
        light, a, b = linear_rgb_to_oklab(np.maximum(self.target, 1e-6))
        aim = math.atan2(b, a), math.hypot(a, b), light
        base = ground.read(ground.measured(LIGHTNESS)) if self.lightness else np.zeros_like(mask)
        out = np.empty_like(rgb)
        numbers = np.array([*aim, *np.clip(weights, -1.0, 1.0)], dtype=np.float32)
        _even(rgb.shape[1], rgb, mask, base, numbers, MATRICES, out)
        return out


@kernel(of.planes, of.plane, of.plane, of.line, of.planes, of.planes)
def _even(rows: Any, rgb: Any, mask: Any, base: Any, numbers: Any, m: Any, out: Any) -> None:
    """numbers: hue (radians), chroma, lightness aimed at, and the three weights."""
    m = constants_of_4(m)
    hue, chroma, lightness = numbers[0], numbers[1], numbers[2]
    to_hue, to_chroma, to_light = numbers[3], numbers[4], numbers[5]
    turn = f32(2.0 * math.pi)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                own = np.arctan2(c, a)
                size = np.sqrt(a * a + c * c)
                away = hue - own
                away -= turn * np.floor(away / turn + f32(0.5))
                new = own + to_hue * away
                sized = max(size + to_chroma * (chroma - size), f32(0.0))
                na, nc = sized * np.cos(new), sized * np.sin(new)
                lighter = to_light * (lightness - base[y, x])
                r, g, b = from_oklab(m, light + w * lighter, a + w * (na - a), c + w * (nc - c))
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
