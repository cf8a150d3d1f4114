"""Brush: strokes as round pens drawn along lines, each laid over the ones before.

A stroke looks the same at every size and however many points it has: where it goes over a place, the pen
covers it as strongly as it ever does there, and what flows grows with the way that the pen makes over it,
in widths of the pen. With full flow once over is enough.
"""

import math
from collections.abc import Sequence
from itertools import chain, groupby
from typing import Annotated, Any, ClassVar, Literal, Self

import numpy as np
import numpy.typing as npt
from pydantic import Field, field_validator

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import exp2, f32, kernel, log, serial, smoothstep
from nubilis.mask.edges import Trace, read_trace
from nubilis.mask.move import Move
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.mask.reins import Reins
from nubilis.mask.sight import Look
from nubilis.photo.pyramid import Region, View, around, overlap
from nubilis.recipe.model import Model, Place, Share

_Pressure = Share

NARROWEST, WIDEST = 1e-5, 2.0  # of a stroke
# What drawing strokes costs: how long they are, and how much they cover, in long edges. A hand that paints
# all of a photo ten times over stays far below.
LONGEST_PAINTED, MOST_PAINTED = 1000.0, 300.0
TOO_MUCH = "its strokes come to too much; paint with fewer or narrower ones"
SMOOTH_STEPS = 16
FEW = 30  # points: fewer are not worth thinning
OFF = 0.1  # pixels that a thinned line may be off
MOST_SKIPPED = 64


class Stroke(Model):
    """size: diameter as a fraction of the long edge; feather: share of the radius that fades;
    flow: share that once over gives; opacity: the most that any number of times gives; edges: held back
    where the photo's colour changes under the pen; points: x, y as fractions of the long edge,
    pressure 0..1."""

    size: Annotated[float, Field(gt=0.0, le=WIDEST, allow_inf_nan=False)]
    feather: Share = 0.5
    flow: Share = 1.0
    opacity: Share = 1.0
    edges: bool = False
    erase: bool = False
    points: Annotated[tuple[tuple[Place, _Pressure], ...], Field(min_length=1, max_length=20_000)]

    def moved(self, move: Move) -> Self:
        points = tuple((move.place(at), pressure) for at, pressure in self.points)
        return self.model_copy(update={"size": move.size(self.size, WIDEST), "points": points})


def bounded(strokes: Sequence[Stroke]) -> None:
    """Raises ValueError when drawing them would take seconds: points are cheap where they lie close."""
    if not strokes:
        return
    sizes = np.array([s.size for s in strokes])
    if sizes.min() < NARROWEST:
        raise ValueError("a stroke is narrower than anything that can be drawn")
    counts = np.array([len(s.points) for s in strokes])
    numbers = chain.from_iterable(at for s in strokes for at, _ in s.points)
    places = np.fromiter(numbers, np.float64, 2 * counts.sum()).reshape(-1, 2)
    # Where a hand goes beyond the photo nothing is drawn, but a step across counts.
    steps = np.hypot(*np.diff(places, axis=0, append=0.0).T)
    ends = np.cumsum(counts)
    steps[ends - 1] = 0.0  # to the next stroke the pen is lifted
    lengths = np.add.reduceat(steps, ends - counts)
    widths = np.minimum(sizes, 1.0)
    if lengths.sum() > LONGEST_PAINTED or ((lengths + widths) * widths).sum() > MOST_PAINTED:
        raise ValueError(TOO_MUCH)


class Brush(Part):
    """Painted by hand."""

    title: ClassVar[str] = "brush"

    kind: Literal["brush"] = "brush"
    strokes: Annotated[tuple[Stroke, ...], Field(max_length=2000)] = ()

    @field_validator("strokes")
    @classmethod
    def _bounded(cls, strokes: tuple[Stroke, ...]) -> tuple[Stroke, ...]:
        bounded(strokes)
        return strokes

    @property
    def looks(self) -> tuple[Look, ...]:
        return reins_of(self.strokes)

    def moved(self, move: Move) -> Self:
        return self.model_copy(update={"strokes": tuple(s.moved(move) for s in self.strokes)})

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        if not self.strokes:
            return np.zeros(view.shape, dtype=np.float32)
        if any(s.edges for s in self.strokes):
            return self._held_back(rgb_linear, view, given.traces)
        x0, y0, x1, y1 = view.region
        f = self._coarseness(view.long_edge)
        # A grid of every f-th pixel, aligned to the whole photo, one more on each side.
        left, top = x0 // f, y0 // f
        out = np.zeros(((y1 - 1) // f - top + 2, (x1 - 1) // f - left + 2), dtype=np.float32)
        _draw(self.strokes, view.long_edge, (left * f, top * f), f, out)
        if f == 1:
            return np.ascontiguousarray(out[:-1, :-1])
        full = np.empty(view.shape, dtype=np.float32)
        _between(full.shape[0], out, x0 - left * f, y0 - top * f, f, full)
        return full

    def _held_back(self, rgb_linear: Floats, view: View, traces: tuple[Trace, ...]) -> Floats:
        out = np.zeros(view.shape, dtype=np.float32)
        reins = iter(traces)
        for edges, run in groupby(self.strokes, lambda s: s.edges):
            if edges:
                for stroke in run:
                    _lay(stroke, next(reins), rgb_linear, view, out)
            else:
                _draw(tuple(run), view.long_edge, view.region[:2], 1, out)
        return out

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


def _lay(stroke: Stroke, trace: Trace, rgb_linear: Floats, view: View, out: Floats) -> None:
    """Lay one stroke that is held back over what stands, where both are."""
    drawn = drawn_alone(stroke, view, trace, rgb_linear)
    if drawn:
        here, pen = drawn
        left = out[here] * (1.0 - pen)
        out[here] = left if stroke.erase else left + pen


def drawn_alone(
    stroke: Stroke, view: View, trace: Trace | None = None, rgb_linear: Floats | None = None
) -> tuple[tuple[slice, slice], Floats] | None:
    """One stroke by itself: where in a view it lies, and how strongly, 0..1. None where it does not come.

    Of one that is held at edges, trace: where it is let go; rgb_linear: the settled photo over the view."""
    touched = overlap(_box(stroke, view.long_edge), view.region)
    if not touched:
        return None
    x0, y0, x1, y1 = (v - view.region[i % 2] for i, v in enumerate(touched))
    pen = np.zeros((y1 - y0, x1 - x0), dtype=np.float32)
    _draw((stroke.model_copy(update={"erase": False}),), view.long_edge, touched[:2], 1, pen)
    if trace is not None and rgb_linear is not None:
        here = np.ascontiguousarray(rgb_linear[:, y0:y1, x0:x1])
        pen *= read_trace(trace, here, View(view.size, touched))
    return np.s_[y0:y1, x0:x1], pen


def reaches(stroke: Stroke, view: View) -> bool:
    """Whether any of it may lie in a view."""
    return overlap(_box(stroke, view.long_edge), view.region) is not None


def reins_of(strokes: Sequence[Stroke]) -> tuple[Look, ...]:
    """What is to be found in the photo for those that are held at edges."""
    return tuple(Reins(s.size, tuple(at for at, _ in s.points)) for s in strokes if s.edges)


def _draw(
    strokes: tuple[Stroke, ...], long_edge: int, corner: tuple[int, int], step: int, out: Floats
) -> None:
    """Draw strokes over what stands, at every step-th pixel from a corner."""
    lines, numbers = _flatten(strokes, long_edge)
    _paint(out.shape[0], lines, numbers, f32(corner[0]), f32(corner[1]), f32(step), out)


def _box(stroke: Stroke, long_edge: int) -> Region:
    xs, ys = zip(*(at for at, _ in stroke.points), strict=True)
    r = stroke.size * long_edge / 2 + 1.0
    return (
        math.floor(min(xs) * long_edge - r),
        math.floor(min(ys) * long_edge - r),
        math.ceil(max(xs) * long_edge + r),
        math.ceil(max(ys) * long_edge + r),
    )


def _kept(points: npt.NDArray[np.float64], off: float) -> list[int]:
    """Which points (n, 3) of a line are needed, when none of the others is to be more than `off` pixels,
    or a tenth of that in pressure, away from it."""
    kept = np.zeros(len(points), dtype=np.bool_)
    _keep(points, off, kept)
    return np.flatnonzero(kept).tolist()


def _flatten(strokes: tuple[Stroke, ...], long_edge: int) -> tuple[Floats, Floats]:
    """Lines (n, 6): x, y, pressure at both ends, in pixels; strokes (m, 7): first line, last line,
    radius, feather, flow, opacity, erase."""
    lines: list[tuple[float, ...]] = []
    rows: list[tuple[float, ...]] = []
    for stroke in strokes:
        first = len(lines)
        given = [(x * long_edge, y * long_edge, p) for (x, y), p in stroke.points]
        points = given
        if len(given) > FEW:
            points = [given[i] for i in _kept(np.array(given, dtype=np.float64), OFF)]
        ends = points[1:] if len(points) > 1 else points
        lines += [(*a, *b) for a, b in zip(points, ends, strict=False)]
        rows.append(
            (
                first,
                len(lines),
                stroke.size * long_edge / 2,
                stroke.feather,
                stroke.flow,
                stroke.opacity,
                stroke.erase,
            )
        )
    return np.array(lines, dtype=np.float32), np.array(rows, dtype=np.float32)


@serial(of.doubles_plane, of.double, of.flags)
def _keep(points: Any, off: Any, kept: Any) -> None:
    last = len(points) - 1
    anchor, ahead = 0, 2
    kept[0] = kept[last] = True
    while ahead <= last:
        straight = ahead - anchor < MOST_SKIPPED
        dx, dy = points[ahead, 0] - points[anchor, 0], points[ahead, 1] - points[anchor, 1]
        square = max(dx * dx + dy * dy, 1e-12)
        for i in range(anchor + 1, ahead):
            px, py = points[i, 0] - points[anchor, 0], points[i, 1] - points[anchor, 1]
            t = (px * dx + py * dy) / square
            pressure = points[anchor, 2] + t * (points[ahead, 2] - points[anchor, 2])
            bent = abs(px * dy - py * dx) > off * np.sqrt(square)
            # Turning back on itself is no straight line, though no point is off it.
            back = t < 0.0 or px * px + py * py > square
            if bent or back or abs(points[i, 2] - pressure) > 0.1 * off:
                straight = False
        if not straight:
            anchor = ahead - 1
            kept[anchor] = True
        ahead += 1


@kernel(of.plane, of.plane, of.real, of.real, of.real, of.plane)
def _paint(rows: Any, lines: Any, strokes: Any, x0: Any, y0: Any, step: Any, out: Any) -> None:
    """At every step-th pixel from (x0, y0). Pressure narrows the pen to half its width and thins its flow."""
    wide = out.shape[1]
    for y in range(*rows):
        cy = y0 + f32(y) * step + f32(0.5)
        cover = np.zeros(wide, dtype=np.float32)
        over = np.zeros(wide, dtype=np.float32)  # the way made over a place, in widths of the pen
        for s in range(strokes.shape[0]):
            radius, feather = strokes[s, 2], max(strokes[s, 3], f32(1e-3))
            # Half a pixel of fade at least, or a hard edge would show its steps.
            soft = max(feather * radius, f32(1.0))
            flow, opacity, erase = strokes[s, 4], strokes[s, 5], strokes[s, 6] > f32(0.5)
            builds = flow < f32(1.0)
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
                square = max(dx * dx + dy * dy, f32(1e-12))
                inverse, length = f32(1.0) / square, np.sqrt(square)
                for x in range(first, last):
                    px = x0 + f32(x) * step + f32(0.5) - ax
                    py = cy - ay
                    along = (px * dx + py * dy) * inverse
                    t = min(max(along, f32(0.0)), f32(1.0))
                    ex, ey = px - t * dx, py - t * dy
                    pressure = ap + t * (bp - ap)
                    r = radius * (f32(0.5) + f32(0.5) * pressure)
                    inside = (r + f32(0.5) - np.sqrt(ex * ex + ey * ey)) / soft
                    c = pressure * smoothstep(inside)
                    cover[x] = max(cover[x], c)
                    if builds:
                        aside = px * dy - py * dx
                        half = r * r - aside * aside * inverse
                        if half > f32(0.0):
                            half = np.sqrt(half) / length
                            made = min(along + half, f32(1.0)) - max(along - half, f32(0.0))
                            over[x] += max(made, f32(0.0)) * length / (r + r)
            less = log(max(f32(1.0) - flow, f32(1e-6))) * f32(1.442695041)
            for x in range(left, right):
                given = f32(1.0) - exp2(less * max(over[x], f32(1.0))) if builds else f32(1.0)
                c = cover[x] * given * opacity
                cover[x] = f32(0.0)
                over[x] = f32(0.0)
                if erase:
                    out[y, x] *= f32(1.0) - c
                else:
                    out[y, x] += (f32(1.0) - out[y, x]) * c


@kernel(of.plane, of.number, of.number, of.number, of.plane)
def _between(rows: Any, grid: Any, x0: Any, y0: Any, step: Any, out: Any) -> None:
    """Bilinear values between the grid's nodes, which stand at pixels 0, step, 2 step..."""
    share = f32(1.0) / f32(step)
    wide = out.shape[1]
    for y in range(*rows):
        iy = (y0 + y) // step
        ty = f32((y0 + y) - iy * step) * share
        for ix in range(grid.shape[1] - 1):
            a = grid[iy, ix] + ty * (grid[iy + 1, ix] - grid[iy, ix])
            b = grid[iy, ix + 1] + ty * (grid[iy + 1, ix + 1] - grid[iy, ix + 1])
            rise = (b - a) * share
            left = ix * step - x0
            for x in range(max(left, 0), min(left + step, wide)):
                out[y, x] = a + f32(x - left) * rise
