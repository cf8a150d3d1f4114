"""Masks that follow the photo's edges: kept as lines over its colours, read at any zoom.

Around each place a mask is a linear function of the photo's three planes, so that its edge is found
again in a sharper picture than the one it was made on. Source: He, Sun, Tang (2013), "Guided image
filtering", eqs. 14-16; read coarsely as in He, Sun (2015), "Fast guided filter".
"""

import math
from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel
from nubilis.photo.pyramid import View

LINES = 4  # slopes over the three planes, and an offset
CELLS = 3.0  # cells that a mask is drawn to edges within
DRAWN = 2  # times that a mask is drawn to edges: the second knows better what is inside
CLEARLY = 9.0  # times epsilon: colours so far apart, squared, are told apart by half
RARE = 0.05  # of a window: less of one side than this says little of its colour


@dataclass(frozen=True, eq=False)
class Trace:
    """view: where and how finely it was made; planes: (6, h, w) slopes, offset, and the least and most
    that it may come to there."""

    view: View
    planes: Floats


def guide_planes(rgb: Floats) -> Floats:
    """What edges are followed in: each plane about perceptual, by its root. float32 (3, h, w) 0..1."""
    return np.sqrt(np.clip(rgb, 0.0, 1.0))


def calm_guide(rgb: Floats) -> Floats:
    """The same without grain, its edges kept."""
    planes = np.ascontiguousarray(np.moveaxis(guide_planes(rgb), 0, 2))
    calm = cv2.bilateralFilter(planes, 5, 0.06, 2.0)
    return np.ascontiguousarray(np.moveaxis(calm, 2, 0), dtype=np.float32)


def lines_along(guide: Floats, mask: Floats, r: int, epsilon: float) -> Floats:
    """(LINES, h, w) of a mask (h, w) over its guide, within squares of 2 r + 1 pixels."""
    mean, mean_mask = _box(guide, r), _box(mask, r)
    pairs = [(0, 0), (0, 1), (0, 2), (1, 1), (1, 2), (2, 2)]
    squares = _box(np.stack([guide[i] * guide[j] for i, j in pairs]), r)
    products = _box(guide * mask, r)
    lines = np.empty((LINES, *mask.shape), dtype=np.float32)
    _fit(lines.shape[1], mean, mean_mask, squares, products, f32(epsilon), lines)
    return _box(lines, r)


def traced(rgb: Floats, mask: Floats, view: View, r: int = 3, epsilon: float = 2e-4) -> Trace:
    """A mask (h, w), worked out on the picture `rgb` (3, h, w) of `view`, to be read at any other."""
    lines = lines_along(guide_planes(rgb), mask, r, epsilon)
    around = np.ones((5, 5), dtype=np.uint8)
    bounds = [np.asarray(work(mask, around))[None] for work in (cv2.erode, cv2.dilate)]
    return Trace(view, np.concatenate([lines, *bounds]).astype(np.float32))


def read_trace(trace: Trace, rgb: Floats, view: View) -> Floats:
    """The mask over a view of the same photo, float32 (h, w) 0..1. rgb: that view, (3, h, w)."""
    x0, y0 = trace.view.region[:2]
    steps = [a / b for a, b in zip(trace.view.size, view.size, strict=True)]
    corner = [
        (v + 0.5) * step - 0.5 - at
        for v, step, at in zip(view.region[:2], steps, (x0, y0), strict=True)
    ]
    out = np.empty(view.shape, dtype=np.float32)
    _read(out.shape[0], trace.planes, rgb, np.array([*corner, *steps], dtype=np.float32), out)
    return out


def followed(
    rgb: Floats, mask: Floats, r: float, epsilon: float, corner: tuple[int, int]
) -> Floats:
    """A mask (h, w) drawn to the edges of its picture (3, h, w) within about r pixels; between them it
    becomes smooth. epsilon: variance in the guide from which on a change is an edge; corner: of the
    picture in the photo, so that cells lie alike in every view."""
    step = max(math.ceil(r / CELLS), 1)
    guide = guide_planes(rgb)
    left, top = (v % step for v in corner)
    if step > 1:
        guide, mask = (_cells(v, step, left, top) for v in (guide, mask[None]))
        mask = mask[0]
    for _ in range(DRAWN):
        lines = _drawn(guide, mask, max(round(r / step), 1), epsilon)
        mask = np.clip((lines[:3] * guide).sum(axis=0) + lines[3], 0.0, 1.0)
    bounds = [np.zeros((1, *mask.shape), np.float32), np.ones((1, *mask.shape), np.float32)]
    out = np.empty(rgb.shape[1:], dtype=np.float32)
    start = [(left + 0.5) / step - 0.5, (top + 0.5) / step - 0.5, 1.0 / step, 1.0 / step]
    _read(len(out), np.concatenate([lines, *bounds]), rgb, np.array(start, dtype=np.float32), out)
    return out


def _drawn(guide: Floats, mask: Floats, r: int, epsilon: float) -> Floats:
    """Lines of a mask (LINES, h, w), parted by what colours lie inside and outside it around each place,
    as far as they differ; where they do not, as lines_along has them."""
    inside, outside = mask, 1.0 - mask
    share_in, share_out = _box(inside, r), _box(outside, r)
    mean_in = _box(guide * inside, r) / np.maximum(share_in, 1e-4)
    mean_out = _box(guide * outside, r) / np.maximum(share_out, 1e-4)
    apart = mean_in - mean_out
    square = (apart**2).sum(axis=0)
    told = square / (square + np.float32(CLEARLY * epsilon))
    told *= np.clip(np.minimum(share_in, share_out) / RARE, 0.0, 1.0)
    slopes = apart / np.maximum(square, 1e-6)
    parted = np.concatenate([slopes, -(slopes * mean_out).sum(axis=0)[None]])
    smooth = lines_along(guide, mask, r, epsilon)
    return np.asarray(smooth + told * (parted - smooth), dtype=np.float32)


def _cells(planes: Floats, step: int, left: int, top: int) -> Floats:
    """Means over cells of step pixels, the first of which begins `left`, `top` before the picture."""
    h, w = planes.shape[1:]
    right, bottom = -(left + w) % step, -(top + h) % step
    size = (left + w + right) // step, (top + h + bottom) // step
    wide = [cv2.copyMakeBorder(p, top, bottom, left, right, cv2.BORDER_REPLICATE) for p in planes]
    return np.stack([np.asarray(cv2.resize(p, size, interpolation=cv2.INTER_AREA)) for p in wide])


def _box(planes: Floats, r: int) -> Floats:
    size = (2 * r + 1, 2 * r + 1)
    if planes.ndim == 2:
        return np.asarray(cv2.boxFilter(planes, -1, size, borderType=cv2.BORDER_REFLECT))
    return np.stack([_box(p, r) for p in planes])


@kernel(of.planes, of.plane, of.planes, of.planes, of.real, of.planes)
def _fit(
    rows: Any, mean: Any, mean_mask: Any, squares: Any, products: Any, epsilon: Any, out: Any
) -> None:
    """The slopes by Cramer's rule."""
    for y in range(*rows):
        for x in range(out.shape[2]):
            r, g, b, m = mean[0, y, x], mean[1, y, x], mean[2, y, x], mean_mask[y, x]
            rr = squares[0, y, x] - r * r + epsilon
            rg = squares[1, y, x] - r * g
            rb = squares[2, y, x] - r * b
            gg = squares[3, y, x] - g * g + epsilon
            gb = squares[4, y, x] - g * b
            bb = squares[5, y, x] - b * b + epsilon
            pr = products[0, y, x] - r * m
            pg = products[1, y, x] - g * m
            pb = products[2, y, x] - b * m
            one, two, three = gg * bb - gb * gb, gb * rb - rg * bb, rg * gb - gg * rb
            # Never 0: epsilon keeps every spread positive.
            share = f32(1.0) / max(rr * one + rg * two + rb * three, f32(1e-20))
            four, five, six = rr * bb - rb * rb, rg * rb - rr * gb, rr * gg - rg * rg
            ar = (one * pr + two * pg + three * pb) * share
            ag = (two * pr + four * pg + five * pb) * share
            ab = (three * pr + five * pg + six * pb) * share
            out[0, y, x], out[1, y, x], out[2, y, x] = ar, ag, ab
            out[3, y, x] = m - ar * r - ag * g - ab * b


@kernel(of.planes, of.planes, of.line, of.plane)
def _read(rows: Any, planes: Any, rgb: Any, numbers: Any, out: Any) -> None:
    """numbers: where the first pixel falls in the planes (x, y), and how far the next is (x, y)."""
    high, wide = planes.shape[1], planes.shape[2]
    for y in range(*rows):
        at_y = min(max(numbers[1] + f32(y) * numbers[3], f32(0.0)), f32(high - 1))
        top = min(int(at_y), max(high - 2, 0))
        below = min(top + 1, high - 1)
        ty = at_y - f32(top)
        row = np.empty((wide, 6), dtype=np.float32)
        for u in range(wide):
            for i in range(4):
                row[u, i] = planes[i, top, u] + ty * (planes[i, below, u] - planes[i, top, u])
            row[u, 4] = min(planes[4, top, u], planes[4, below, u])
            row[u, 5] = max(planes[5, top, u], planes[5, below, u])
        for x in range(out.shape[1]):
            at_x = min(max(numbers[0] + f32(x) * numbers[2], f32(0.0)), f32(wide - 1))
            left = min(int(at_x), max(wide - 2, 0))
            right = min(left + 1, wide - 1)
            tx = at_x - f32(left)
            value = row[left, 3] + tx * (row[right, 3] - row[left, 3])
            for i in range(3):
                slope = row[left, i] + tx * (row[right, i] - row[left, i])
                value += slope * np.sqrt(min(max(rgb[i, y, x], f32(0.0)), f32(1.0)))
            least, most = min(row[left, 4], row[right, 4]), max(row[left, 5], row[right, 5])
            out[y, x] = min(max(value, least), most)
