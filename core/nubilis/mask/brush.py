"""Brush: strokes as round pens drawn along lines, each laid over the ones before.

Within a stroke the pen covers each place once, as strongly as it ever does there; a further stroke
builds up on it. So a stroke looks the same at every size and however many points it has.
"""

import math
from typing import Annotated, Any, Literal

import numba as nb
import numpy as np
from pydantic import Field

from nubilis.arrays import Floats
from nubilis.kernels import f32, kernel, smoothstep
from nubilis.mask.part import Part
from nubilis.photo.pyramid import Region, View, around, overlap
from nubilis.recipe.base import Model, Place, Share

_Pressure = Share
_Point = tuple[float, float, float]


SMOOTH_STEPS = 16


class Stroke(Model):
    """size: diameter as a fraction of the long edge; feather: share of the radius that fades;
    flow: 0..1; points: x, y as fractions of the long edge, pressure 0..1."""

    size: Annotated[float, Field(gt=0.0, le=2.0, allow_inf_nan=False)]
    feather: Share = 0.5
    flow: Share = 1.0
    erase: bool = False
    points: Annotated[tuple[tuple[Place, _Pressure], ...], Field(min_length=1, max_length=20_000)]


class Brush(Part):
    """Painted by hand."""

    kind: Literal["brush"] = "brush"
    strokes: Annotated[tuple[Stroke, ...], Field(max_length=2000)] = ()

    def coverage(self, rgb_linear: Floats, view: View) -> Floats:
        if not self.strokes:
            return np.zeros(view.shape, dtype=np.float32)
        x0, y0, x1, y1 = view.region
        f = self._coarseness(view.long_edge)
        # A grid of every f-th pixel, aligned to the whole photo, one more on each side.
        left, top = x0 // f, y0 // f
        out = np.zeros(((y1 - 1) // f - top + 2, (x1 - 1) // f - left + 2), dtype=np.float32)
        lines, strokes = _flatten(self.strokes, view.long_edge)
        _paint(lines, strokes, f32(left * f), f32(top * f), f32(f), out)
        if f == 1:
            return np.ascontiguousarray(out[:-1, :-1])
        full = np.empty(view.shape, dtype=np.float32)
        _between(out, x0 - left * f, y0 - top * f, f, full)
        return full

    def reach(self, size: tuple[int, int]) -> Region:
        long_edge = max(size)
        painted = [s for s in self.strokes if not s.erase]
        if not painted:
            return 0, 0, 0, 0
        boxes = [_box(s, long_edge) for s in painted]
        # A coarse grid spreads what is painted to its next nodes.
        x0, y0, x1, y1 = around(boxes)
        more = self._coarseness(long_edge) + 1
        return overlap((x0 - more, y0 - more, x1 + more, y1 + more), (0, 0, *size)) or (0, 0, 0, 0)

    def _coarseness(self, long_edge: int) -> int:
        """Soft strokes need not be drawn at every pixel: 16 steps across a fade are smooth."""
        softest = min(s.feather * s.size for s in self.strokes) * long_edge / 2
        return int(2 ** np.clip(np.floor(np.log2(max(softest, 1.0) / SMOOTH_STEPS)), 0, 4))


def _box(stroke: Stroke, long_edge: int) -> Region:
    xs, ys = zip(*(at for at, _ in stroke.points), strict=True)
    r = stroke.size * long_edge / 2 + 1.0
    return (
        math.floor(min(xs) * long_edge - r),
        math.floor(min(ys) * long_edge - r),
        math.ceil(max(xs) * long_edge + r),
        math.ceil(max(ys) * long_edge + r),
    )


def _flatten(strokes: tuple[Stroke, ...], long_edge: int) -> tuple[Floats, Floats]:
    """Lines (n, 6): x, y, pressure at both ends, in pixels; strokes (m, 6): first line, last line,
    radius, feather, flow, erase."""
    lines: list[tuple[float, ...]] = []
    rows: list[tuple[float, ...]] = []
    for stroke in strokes:
        first = len(lines)
        points = [(x * long_edge, y * long_edge, p) for (x, y), p in stroke.points]
        ends = points[1:] if len(points) > 1 else points
        lines += [(*a, *b) for a, b in zip(points, ends, strict=False)]
        rows.append(
            (
                first,
                len(lines),
                stroke.size * long_edge / 2,
                stroke.feather,
                stroke.flow,
                stroke.erase,
            )
        )
    return np.array(lines, dtype=np.float32), np.array(rows, dtype=np.float32)


@kernel
def _paint(lines: Any, strokes: Any, x0: Any, y0: Any, step: Any, out: Any) -> None:
    """At every step-th pixel from (x0, y0). Pressure narrows the pen to half its width and thins its flow."""
    wide = out.shape[1]
    for y in nb.prange(out.shape[0]):
        cy = y0 + f32(y) * step + f32(0.5)
        cover = np.zeros(wide, dtype=np.float32)
        for s in range(strokes.shape[0]):
            radius, feather = strokes[s, 2], max(strokes[s, 3], f32(1e-3))
            # Half a pixel of fade at least, or a hard edge would show its steps.
            soft = max(feather * radius, f32(1.0))
            left, right = wide, 0
            for i in range(int(strokes[s, 0]), int(strokes[s, 1])):
                ax, ay, ap = lines[i, 0], lines[i, 1], lines[i, 2]
                bx, by, bp = lines[i, 3], lines[i, 4], lines[i, 5]
                reach = radius + f32(1.0)
                if min(ay, by) - reach > cy or max(ay, by) + reach < cy:
                    continue
                first = max(0, int(np.floor((min(ax, bx) - reach - x0) / step)))
                last = min(wide, int(np.ceil((max(ax, bx) + reach - x0) / step)) + 1)
                if first >= last:
                    continue
                left, right = min(left, first), max(right, last)
                dx, dy = bx - ax, by - ay
                inverse = f32(1.0) / max(dx * dx + dy * dy, f32(1e-12))
                for x in range(first, last):
                    px = x0 + f32(x) * step + f32(0.5) - ax
                    py = cy - ay
                    t = min(max((px * dx + py * dy) * inverse, f32(0.0)), f32(1.0))
                    ex, ey = px - t * dx, py - t * dy
                    pressure = ap + t * (bp - ap)
                    r = radius * (f32(0.5) + f32(0.5) * pressure)
                    inside = (r + f32(0.5) - np.sqrt(ex * ex + ey * ey)) / soft
                    c = pressure * smoothstep(inside)
                    cover[x] = max(cover[x], c)
            flow, erase = strokes[s, 4], strokes[s, 5] > f32(0.5)
            for x in range(left, right):
                c = cover[x] * flow
                cover[x] = f32(0.0)
                if erase:
                    out[y, x] *= f32(1.0) - c
                else:
                    out[y, x] += (f32(1.0) - out[y, x]) * c


@kernel
def _between(grid: Any, x0: Any, y0: Any, step: Any, out: Any) -> None:
    """Bilinear values between the grid's nodes, which stand at pixels 0, step, 2 step..."""
    share = f32(1.0) / f32(step)
    wide = out.shape[1]
    for y in nb.prange(out.shape[0]):
        iy = (y0 + y) // step
        ty = f32((y0 + y) - iy * step) * share
        for ix in range(grid.shape[1] - 1):
            a = grid[iy, ix] + ty * (grid[iy + 1, ix] - grid[iy, ix])
            b = grid[iy, ix + 1] + ty * (grid[iy + 1, ix + 1] - grid[iy, ix + 1])
            rise = (b - a) * share
            left = ix * step - x0
            for x in range(max(left, 0), min(left + step, wide)):
                out[y, x] = a + f32(x - left) * rise
