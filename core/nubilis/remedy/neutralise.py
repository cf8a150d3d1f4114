"""Neutralise: take a cast off by von Kries gains, as much as each pixel carries of it."""

import math
from typing import Any, Literal

import numba as nb
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats, planar, plane
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import exp2, f32, inline, kernel
from nubilis.photo.pyramid import View
from nubilis.recipe.base import Share
from nubilis.remedy.amount import AmountField
from nubilis.remedy.chroma import log_gains
from nubilis.remedy.remedy import Place, Remedy


class Neutralise(Remedy):
    """Takes the cast off. amount: 1 takes off the whole measured cast; follow: 1 as much as each pixel
    carries of it, 0 the same everywhere in the mask; soften: how far the detail of that amount is left out;
    hold_lightness: how much of each pixel's luminance is kept."""

    kind: Literal["neutralise"] = "neutralise"
    follow: Share = 1.0
    soften: Share = 0.0
    hold_lightness: Share = 1.0

    def applied(self, rgb: Floats, mask: Floats, place: Place) -> Floats:
        for shift, amount in place.passes(self.soften):
            rgb = take_off(rgb, mask, amount, shift, self)
        return rgb


RESTING = Neutralise(id="resting")
_MATRICES = np.stack(
    [REC2020_TO_CONES, CONES_TO_REC2020, np.broadcast_to(LUMINANCE, (3, 3))]
).astype(np.float32)
_LUMINANCE32 = LUMINANCE.astype(np.float32)


@inline
def _span(mask: Any, y: Any) -> Any:
    """First column of a row where the mask is not zero, and one past the last."""
    first, last = 0, mask.shape[1]
    while first < last and mask[y, first] == f32(0.0):
        first += 1
    while last > first and mask[y, last - 1] == f32(0.0):
        last -= 1
    return first, last


@kernel
def _apply(rgb: Any, mask: Any, amount: Any, weights: Any, matrices: Any, out: Any) -> None:
    """weights: three log2 gains, gain, follow, hold; matrices (3, 3, 3): to cones, back, luminance."""
    # Scalars, or the compiler must reload them after every store and cannot vectorise.
    m00, m01, m02 = matrices[0, 0, 0], matrices[0, 0, 1], matrices[0, 0, 2]
    m10, m11, m12 = matrices[0, 1, 0], matrices[0, 1, 1], matrices[0, 1, 2]
    m20, m21, m22 = matrices[0, 2, 0], matrices[0, 2, 1], matrices[0, 2, 2]
    b00, b01, b02 = matrices[1, 0, 0], matrices[1, 0, 1], matrices[1, 0, 2]
    b10, b11, b12 = matrices[1, 1, 0], matrices[1, 1, 1], matrices[1, 1, 2]
    b20, b21, b22 = matrices[1, 2, 0], matrices[1, 2, 1], matrices[1, 2, 2]
    yr, yg, yb = matrices[2, 0, 0], matrices[2, 0, 1], matrices[2, 0, 2]
    g0, g1, g2 = weights[0], weights[1], weights[2]
    gain, follow, hold = weights[3], weights[4], weights[5]
    one = f32(1.0)
    zero = f32(0.0)
    for y in nb.prange(rgb.shape[1]):
        first, last = _span(mask, y)
        for c in range(3):
            for x in range(first):
                out[c, y, x] = rgb[c, y, x]
            for x in range(last, rgb.shape[2]):
                out[c, y, x] = rgb[c, y, x]
        # Counted from 0: a compiler that must expect negative indices does not vectorise.
        reds, greens, blues = rgb[0, y, first:last], rgb[1, y, first:last], rgb[2, y, first:last]
        masks, amounts = mask[y, first:last], amount[y, first:last]
        new_r, new_g, new_b = out[0, y, first:last], out[1, y, first:last], out[2, y, first:last]
        for x in range(last - first):
            s = masks[x] * gain * (one - follow + follow * amounts[x])
            r, g, b = reds[x], greens[x], blues[x]
            # What changes is computed as a difference: strength 0 is the identity to the bit.
            c0 = max(m00 * r + m01 * g + m02 * b, zero) * (exp2(s * g0) - one)
            c1 = max(m10 * r + m11 * g + m12 * b, zero) * (exp2(s * g1) - one)
            c2 = max(m20 * r + m21 * g + m22 * b, zero) * (exp2(s * g2) - one)
            dr = b00 * c0 + b01 * c1 + b02 * c2
            dg = b10 * c0 + b11 * c1 + b12 * c2
            db = b20 * c0 + b21 * c1 + b22 * c2
            before = yr * r + yg * g + yb * b
            moved = yr * dr + yg * dg + yb * db
            keep = one - hold * moved / max(before + moved, f32(1e-4))
            new_r[x] = (r + dr) * keep
            new_g[x] = (g + dg) * keep
            new_b[x] = (b + db) * keep


def take_off(
    rgb_linear: npt.NDArray[Any],
    mask: npt.NDArray[Any],
    amount: npt.NDArray[Any],
    shift: npt.ArrayLike,
    settings: Neutralise = RESTING,
) -> Floats:
    """Divide a cast out of a picture, as much as mask and amount say.

    rgb_linear: float32 (3, h, w) linear Rec. 2020; mask: (h, w) 0..1, where 0 leaves the pixel bit for
    bit as it is; amount: (h, w), how much of the cast each pixel carries; shift: the cast in log
    chroma (2,), which an amount of 1 carries.
    Returns float32 (3, h, w), unclipped; luminance as before when settings.hold_lightness is 1.
    Raises ShapeError.
    Source: von Kries (1902) gains in Bradford cones (Lam 1985).
    """
    rgb = planar("rgb_linear", rgb_linear)
    gains = -log_gains(shift) / math.log(2.0)
    how = settings.amount, settings.follow, settings.hold_lightness
    weights = np.array([*gains, *how], dtype=np.float32)
    out = np.empty_like(rgb)
    _apply(rgb, plane("mask", mask, rgb), plane("amount", amount, rgb), weights, _MATRICES, out)
    return out


@kernel
def _read(
    coefficients: Any, rgb: Any, mask: Any, lum: Any, corner: Any, steps: Any, out: Any
) -> None:
    h, w = coefficients.shape[1:]
    half = f32(0.5)
    right = f32(w - 1)
    x0, x_step = corner[0], steps[0]
    yr, yg, yb = lum[0], lum[1], lum[2]
    for y in nb.prange(out.shape[0]):
        first, last = _span(mask, y)
        for x in range(out.shape[1]):
            out[y, x] = f32(0.0)
        if first == last:
            continue
        fy = min(max((corner[1] + f32(y) + half) * steps[1] - half, f32(0.0)), f32(h - 1))
        iy = max(min(int(fy), h - 2), 0)
        jy = min(iy + 1, h - 1)
        ty = fy - f32(iy)
        # One line of coefficients between two rows, and how far each rises to the next column.
        line = np.empty((8, w), dtype=np.float32)
        for c in range(4):
            for i in range(w):
                line[c, i] = coefficients[c, iy, i] + ty * (
                    coefficients[c, jy, i] - coefficients[c, iy, i]
                )
            for i in range(w - 1):
                line[4 + c, i] = line[c, i + 1] - line[c, i]
            line[4 + c, w - 1] = f32(0.0)
        slope, offset, least, most = line[0], line[1], line[2], line[3]
        slope_rise, offset_rise, least_rise, most_rise = line[4], line[5], line[6], line[7]
        reds, greens, blues = rgb[0, y, first:last], rgb[1, y, first:last], rgb[2, y, first:last]
        amounts = out[y, first:last]
        start = x0 + f32(first) + half
        for x in range(last - first):
            fx = min(max((start + f32(x)) * x_step - half, f32(0.0)), right)
            column: Any = np.uint32(fx)  # unsigned: no negative index to look for
            t = fx - f32(column)
            light = yr * reds[x] + yg * greens[x] + yb * blues[x]
            guide = np.sqrt(min(max(light, f32(0.0)), f32(1.0)))
            tilt = slope[column] + t * slope_rise[column]
            value = tilt * guide + offset[column] + t * offset_rise[column]
            low = least[column] + t * least_rise[column]
            high = most[column] + t * most_rise[column]
            amounts[x] = min(max(value, low), high)


def read_amount(field: AmountField, rgb_linear: Floats, mask: Floats, view: View) -> Floats:
    """The amount over a view, float32 (h, w); 0 where a row's mask has not begun or has ended.

    rgb_linear: the untouched photo in that view, float32 (3, h, w) linear Rec. 2020.
    """
    out = np.empty(rgb_linear.shape[1:], dtype=np.float32)
    h, w = field.coefficients.shape[1:]
    steps = np.array([w / view.size[0], h / view.size[1]], dtype=np.float32)
    corner = np.array(view.region[:2], dtype=np.float32)
    _read(field.coefficients, rgb_linear, mask, _LUMINANCE32, corner, steps, out)
    return out
