"""Recolour: what is masked takes another colour, and keeps its shading, texture and glints.

A surface is seen as paint and gloss (Shafer 1985, the dichromatic model): brighter than the paint and paler
means gloss, which has the lamp's colour and not the paint's.
"""

import math
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.kernels import constants_of_6, f32, kernel, smoothstep
from nubilis.recipe.model import LinearRgb, Share
from nubilis.remedy.oklab_planes import planes_of, to_oklab
from nubilis.remedy.remedy import Ground, Remedy, Rgb, Statistic
from nubilis.remedy.tint import (
    BLACK,
    DARKEST,
    coloured,
    luminance_of_rgb,
    matrices,
    relative,
)

INSIDE = 0.5  # of the mask: what counts as the material
NEUTRAL = 0.06  # relative chroma under which a paint has no hue
# Of the way from the paint to white, from where on and from where wholly a pale place is gloss: of paint that
# has a hue, and of neutral paint, on which light alone can be as pale.
GLOSS = {True: (0.0, 0.5), False: (0.35, 0.75)}
MOST_GAIN = 30.0  # of luminance


@dataclass(frozen=True)
class Material:
    """The paint of what is masked: its lightness in OKLab, and its chroma relative to that."""

    light: float
    a: float
    b: float


def material(rgb_linear: Floats, mask: Floats) -> Material | None:
    """The median of what is masked; rgb_linear: at the analysis size, (3, h, w). None without a mask."""
    inside = mask > INSIDE * float(mask.max())
    if not mask.max() > 0.0:
        return None
    light, a, b = (p[inside] for p in planes_of(rgb_linear))
    seen = np.maximum(light, 0.05)
    return Material(*(float(np.median(v)) for v in (light, a / seen, b / seen)))


MATERIAL = Statistic("the material that is masked", material, of_mask=True)


class Recolour(Remedy):
    """target: the colour, linear Rec. 2020. variation: how much of the material's own is kept; lightness: how
    far its light moves to the colour's, too."""

    statistics: ClassVar[tuple[Statistic, ...]] = (MATERIAL,)
    title: ClassVar[str] = "recolour"

    kind: Literal["recolour"] = "recolour"
    target: LinearRgb
    variation: Share = 0.0
    lightness: Share = 0.0

    @property
    def aim(self) -> Rgb:
        return self.target

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        was: Material | None = ground.measured(MATERIAL)
        if was is None:
            return rgb
        a, b = relative(self.target)
        turn = 0.0
        had = math.hypot(was.a, was.b)
        if had > NEUTRAL:
            turn = math.atan2(b, a) - math.atan2(was.b, was.a)
        light = float(linear_rgb_to_oklab(np.maximum(self.target, DARKEST))[0])
        gain = min((light / max(was.light, 0.05)) ** 3, MOST_GAIN)
        room = max(1.0 - was.light, 0.05)
        gloss, full = (was.light + share * room for share in GLOSS[had > NEUTRAL])
        numbers = np.array(
            [min(self.amount, 1.0), a, b, self.variation, math.cos(turn), math.sin(turn),
             gain**self.lightness, was.a, was.b, gloss, full, max(had, math.hypot(a, b), 0.02)],
            dtype=np.float32,
        )  # fmt: skip
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _recolour(rgb.shape[1], rgb, mask, numbers, m, out)
        return out


@kernel(of.planes, of.plane, of.line, of.planes, of.planes)
def _recolour(rows: Any, rgb: Any, mask: Any, numbers: Any, m: Any, out: Any) -> None:
    m = constants_of_6(m)
    amount, ta, tb, variation = numbers[0], numbers[1], numbers[2], numbers[3]
    cosine, sine, gain = numbers[4], numbers[5], numbers[6]
    pa, pb, gloss = numbers[7], numbers[8], numbers[9]
    per_rise = f32(1.0) / (numbers[10] - gloss)
    per_chroma = f32(1.0) / numbers[11]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x] * amount
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                per = f32(1.0) / max(light, f32(BLACK))
                a, c = a * per, c * per
                # The share of paint in a glint is seen by its chroma, which is not to be raised.
                brighter = smoothstep((light - gloss) * per_rise)
                coloured_by = min(np.sqrt(a * a + c * c) * per_chroma, f32(1.0))
                body = f32(1.0) - brighter * (f32(1.0) - coloured_by)
                oa, oc = a - pa, c - pb
                na = body * (ta + variation * (cosine * oa - sine * oc))
                nc = body * (tb + variation * (sine * oa + cosine * oc))
                lift = f32(1.0) + w * body * (gain - f32(1.0))
                bright = luminance_of_rgb(m, r, g, b) * lift
                r, g, b = coloured(m, light, a + w * (na - a), c + w * (nc - c), bright)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
