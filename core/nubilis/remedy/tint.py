"""Colour laid over light: hue and chroma move, luminance stays, and what no screen can show gives way.

Chroma is taken relative to lightness (a / L and b / L of OKLab), which more or less light does not change:
so a tint follows shading by itself, and layers of one tint add up exactly.
"""

from collections.abc import Sequence
from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.adaptation import D65_TO_D50
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.colour.rgb import REC2020_TO_XYZ
from nubilis.kernels import compiled, constants_of_6, f32, kernel
from nubilis.remedy.oklab_planes import MATRICES, from_oklab, to_oklab

# Luminance as L* has it, after adaptation to D50: so that what is held is what figures tell.
SEEN_LUMINANCE = (D65_TO_D50 @ REC2020_TO_XYZ)[1]
DARKEST = 1e-4  # of linear light: below it a colour has no hue
LEAST_LIT = 0.1  # luminance for a lightness cubed: less has no colour that can be seen
TRIES = 4  # for the chroma that lies just within the gamut
SLACK = 1e-4  # of device light: what rounding may add
BLACK = 0.02  # of OKLab lightness: below it chroma is not divided by less


def relative(rgb: Sequence[float]) -> tuple[float, float]:
    """A colour's chroma relative to its lightness (2,); rgb: linear Rec. 2020."""
    light, a, b = linear_rgb_to_oklab(np.maximum(rgb, DARKEST))
    return float(a / light), float(b / light)


def matrices(to_device: Floats) -> Floats:
    """What `coloured` multiplies by, (6, 3, 3); to_device: linear Rec. 2020 to the photo's own primaries."""
    luminance = np.zeros((3, 3), dtype=np.float32)
    luminance[0] = SEEN_LUMINANCE
    return np.concatenate([MATRICES, to_device[None], luminance[None]]).astype(np.float32)


@compiled
def luminance_of_rgb(m: Any, r: Any, g: Any, b: Any) -> Any:
    return m[5][0][0] * r + m[5][0][1] * g + m[5][0][2] * b


@compiled
def coloured(m: Any, light: Any, a: Any, b: Any, y: Any) -> Any:
    """Linear Rec. 2020 of a lightness with a relative chroma, under so much luminance."""
    r, g, bl = from_oklab(m, light, light * a, light * b)
    least = max(f32(LEAST_LIT) * light * light * light, f32(1e-6))
    gain = max(y, f32(0.0)) / max(luminance_of_rgb(m, r, g, bl), least)
    return r * gain, g * gain, bl * gain


@compiled
def relit(m: Any, r: Any, g: Any, b: Any, light: Any, new: Any, a: Any, c: Any) -> Any:
    """Linear Rec. 2020 of a colour whose OKLab lightness moves from `light` to `new`: chroma a, c as it would
    be at the old one; luminance changes as the lightness does. What has no lightness is no colour that can
    be seen, and stays."""
    to_light = f32(1.0) / max(light, f32(BLACK))
    ratio = new * to_light
    lit = luminance_of_rgb(m, r, g, b) * ratio * ratio * ratio
    nr, ng, nb = coloured(m, new, a * to_light, c * to_light, lit)
    seen = light > f32(0.0)
    return nr if seen else r, ng if seen else g, nb if seen else b


@compiled
def beyond(m: Any, r: Any, g: Any, b: Any) -> Any:
    """How far a colour lies outside the photo's own primaries, below 0 within."""
    v0 = m[4][0][0] * r + m[4][0][1] * g + m[4][0][2] * b
    v1 = m[4][1][0] * r + m[4][1][1] * g + m[4][1][2] * b
    v2 = m[4][2][0] * r + m[4][2][1] * g + m[4][2][2] * b
    return max(max(v0, v1, v2) - f32(1.0), -min(v0, v1, v2))


@compiled
def shown(m: Any, r: Any, g: Any, b: Any, over: Any) -> Any:
    """A colour that lies so far outside, with as much of its chroma as can be shown."""
    bright = luminance_of_rgb(m, r, g, b)
    light, a, c = to_oklab(m, r, g, b)
    if bright >= f32(1.0):
        # At and above white nothing coloured can be shown, and just below it next to nothing.
        r, g, b = coloured(m, light, f32(0.0), f32(0.0), bright)
    elif bright <= f32(0.0) or light <= f32(BLACK):
        # Nor can anything at and below black.
        r, g, b = max(bright, f32(0.0)), max(bright, f32(0.0)), max(bright, f32(0.0))
    else:
        a, c = a / light, c / light
        # Regula falsi, halving an end that stays (Illinois), kept on the side that is within.
        low, high = f32(0.0), f32(1.0)
        under = max(-bright, bright - f32(1.0))
        for _ in range(TRIES):
            share = low - under * (high - low) / (over - under)
            r, g, b = coloured(m, light, share * a, share * c, bright)
            off = beyond(m, r, g, b)
            if off > f32(SLACK):
                high, over, under = share, off, f32(0.5) * under
            else:
                low, under, over = share, off - f32(SLACK), f32(0.5) * over
        r, g, b = coloured(m, light, low * a, low * c, bright)
    return r, g, b


@kernel(of.planes, of.planes, of.plane, of.planes)
def within_gamut(rows: Any, before: Any, rgb: Any, mask: Any, m: Any) -> None:
    """In place, where the mask is: as much chroma as the photo's primaries can show, at the same hue and
    luminance. What lay as far outside before stays: nobody moved it there."""
    m = constants_of_6(m)
    wide = rgb.shape[2]
    for y in range(*rows):
        over = np.empty(wide, dtype=np.float32)
        for x in range(wide):
            off = beyond(m, rgb[0, y, x], rgb[1, y, x], rgb[2, y, x])
            over[x] = off if mask[y, x] > f32(0.0) else f32(0.0)
        for x in range(wide):
            was = f32(0.0)
            if over[x] > f32(SLACK):
                was = beyond(m, before[0, y, x], before[1, y, x], before[2, y, x])
            if over[x] > max(was, f32(0.0)) + f32(SLACK):
                r, g, b = shown(m, rgb[0, y, x], rgb[1, y, x], rgb[2, y, x], over[x])
                rgb[0, y, x], rgb[1, y, x], rgb[2, y, x] = r, g, b
