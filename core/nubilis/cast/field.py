"""A field over the photo that is measured once, at the analysis size, and read at any zoom.

Kept as lines over a guide: value = slope * guide + offset, within local bounds. The slope is a guided
filter's (He, Sun 2015, "Fast guided filter"), so that detail finer than the analysis lies on the picture's
own edges; the offset makes the value there exactly what was measured.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.span import span
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import f32, kernel
from nubilis.photo.pyramid import View

_LUMINANCE32 = LUMINANCE.astype(np.float32)


@dataclass(frozen=True, eq=False)
class AmountField:
    """Per place (4, h, w): slope, offset, least, most."""

    coefficients: Floats


def box_mean(v: npt.NDArray[Any], r: int) -> Floats:
    """Mean over a square of 2 r + 1 pixels, reflected at the rim."""
    size = (2 * r + 1, 2 * r + 1)
    return np.asarray(cv2.boxFilter(v, -1, size, borderType=cv2.BORDER_REFLECT))


def guided(guide: Floats, v: Floats, r: int, epsilon: float) -> Floats:
    """`v` smoothed along the guide's edges."""
    return smoother(guide, r, epsilon)(v)


def smoother(guide: Floats, r: int, epsilon: float) -> Callable[[Floats], Floats]:
    """Smooths planes along the edges of one guide."""
    lines = _lines_over(guide, r, epsilon)

    def smooth(v: Floats) -> Floats:
        slope, offset = lines(v)
        return slope * guide + offset

    return smooth


def _lines_over(guide: Floats, r: int, epsilon: float) -> Callable[[Floats], tuple[Floats, Floats]]:
    """Mean slope and offset of planes over a guide around each place. He, Sun, Tang (2013), eqs. 5, 6, 8."""
    mean = box_mean(guide, r)
    spread = box_mean(guide * guide, r) - mean * mean + np.float32(epsilon)

    def lines(v: Floats) -> tuple[Floats, Floats]:
        mean_v = box_mean(v, r)
        slope = (box_mean(guide * v, r) - mean * mean_v) / spread
        return box_mean(slope, r), box_mean(mean_v - slope * mean, r)

    return lines


def guide_of(luminance: Floats) -> Floats:
    """What edges follow: luminance, made about perceptual by its square root."""
    return np.sqrt(np.clip(luminance, 0.0, 1.0))


def as_field(amount: Floats, guide: Floats, r: int = 2, epsilon: float = 4e-4) -> AmountField:
    """Lines that read `amount` back at any zoom, from the guide at the same size."""
    slope, _ = _lines_over(guide, r, epsilon)(amount)
    offset = amount - slope * guide
    around = np.ones((5, 5), dtype=np.uint8)
    least, most = cv2.erode(amount, around), cv2.dilate(amount, around)
    planes = [slope, offset, np.asarray(least), np.asarray(most)]
    return AmountField(np.stack(planes).astype(np.float32))


@kernel(of.planes, of.planes, of.plane, of.line, of.line, of.line, of.plane)
def _read(
    rows: Any, coefficients: Any, rgb: Any, mask: Any, lum: Any, corner: Any, steps: Any, out: Any
) -> None:
    h, w = coefficients.shape[1:]
    half = f32(0.5)
    right = f32(w - 1)
    x0, x_step = corner[0], steps[0]
    yr, yg, yb = lum[0], lum[1], lum[2]
    for y in range(*rows):
        first, last = span(mask, y)
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
    _read(len(out), field.coefficients, rgb_linear, mask, _LUMINANCE32, corner, steps, out)
    return out
