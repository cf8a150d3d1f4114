"""Path: a closed outline of Bezier curves, which may leave the frame. A lasso is one without handles.

Filled exactly: every edge adds, to each row that it crosses, the area that it uncovers in each pixel,
and sums along the rows give the covered share (the signed-area accumulation of font rasterisers; Levien
2016, "Inside the fastest font renderer in the world").
"""

import math
from typing import Annotated, Any, ClassVar, Literal, Self

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, f32, kernel, serial
from nubilis.mask.move import Move
from nubilis.mask.part import NOTHING, Given, Part
from nubilis.mask.soften import blurred, room_of_blur
from nubilis.photo.pyramid import Region, View, overlap
from nubilis.recipe.model import Model, Place

SOFTEST = 0.5  # of a feather
STEPS = 24  # straight pieces of each curve: no eye finds a corner between them
SMOOTH = 1.5  # cells: a softer edge need not be drawn at every pixel


class Node(Model):
    """before, after: its handles, places on their own; None: the outline is straight on that side."""

    at: Place
    before: Place | None = None
    after: Place | None = None

    def moved(self, move: Move) -> Self:
        places = (p and move.place(p) for p in (self.at, self.before, self.after))
        return self.model_copy(update=dict(zip(("at", "before", "after"), places, strict=True)))


class Path(Part):
    """feather: width over which the edge fades, half of it inside, fraction of the long edge."""

    title: ClassVar[str] = "path"

    kind: Literal["path"] = "path"
    nodes: Annotated[tuple[Node, ...], Field(min_length=2, max_length=2000)]
    feather: Annotated[float, Field(ge=0.0, le=SOFTEST, allow_inf_nan=False)] = 0.02

    def moved(self, move: Move) -> Self:
        nodes = tuple(n.moved(move) for n in self.nodes)
        feather = move.size(self.feather, SOFTEST)
        return self.model_copy(update={"nodes": nodes, "feather": feather})

    def coverage(self, rgb_linear: Floats, view: View, given: Given = NOTHING) -> Floats:
        out = np.zeros(view.shape, dtype=np.float32)
        points = outline(self.nodes)
        touched = overlap(self._around(points, view.size), view.region)
        if touched:
            x0, y0 = (a - b for a, b in zip(touched[:2], view.region[:2], strict=True))
            x1, y1 = (a - b for a, b in zip(touched[2:], view.region[:2], strict=True))
            out[y0:y1, x0:x1] = self._drawn(points, View(view.size, touched))
        return out

    def _drawn(self, points: npt.NDArray[np.float64], view: View) -> Floats:
        sigma = self.feather * view.long_edge / 4.0
        step = int(2 ** np.clip(math.floor(math.log2(max(sigma / SMOOTH, 1.0))), 0, 5))
        x0, y0, x1, y1 = view.region
        # A grid of cells of step pixels, aligned to the whole photo, with room for the blur.
        room = math.ceil(room_of_blur(sigma / step))
        left, top = x0 // step - room, y0 // step - room
        shape = -(-y1 // step) - top + room, -(-x1 // step) - left + room
        cells = points * (view.long_edge / step) - (left, top)
        cover = _filled(cells.astype(np.float32), shape)
        if sigma > 0.3:
            cover = blurred(cover, sigma / step)
        if step > 1:
            size = shape[1] * step, shape[0] * step
            cover = np.asarray(cv2.resize(cover, size, interpolation=cv2.INTER_LINEAR))
        at_y, at_x = y0 - top * step, x0 - left * step
        return cover[at_y : at_y + y1 - y0, at_x : at_x + x1 - x0]

    def reach(self, size: tuple[int, int]) -> Region:
        return self._around(outline(self.nodes), size)

    def _around(self, points: npt.NDArray[np.float64], size: tuple[int, int]) -> Region:
        long_edge = max(size)
        more = self.feather * long_edge * 1.1 + 66.0  # and two cells of the coarsest grid
        low, high = points.min(axis=0) * long_edge, points.max(axis=0) * long_edge
        (left, top), (right, bottom) = low - more, high + more
        box = math.floor(left), math.floor(top), math.ceil(right), math.ceil(bottom)
        return overlap(box, (0, 0, *size)) or (0, 0, 0, 0)


def outline(nodes: tuple[Node, ...]) -> npt.NDArray[np.float64]:
    """The closed outline as points (n, 2), fractions of the long edge."""
    at = np.array([n.at for n in nodes], dtype=np.float64)
    after = np.array([n.after or n.at for n in nodes], dtype=np.float64)
    before = np.array([n.before or n.at for n in nodes], dtype=np.float64)
    t = np.arange(STEPS)[None, :, None] / STEPS
    a, b, c, d = (v[:, None] for v in (at, after, np.roll(before, -1, 0), np.roll(at, -1, 0)))
    curves = (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t**2 * c + t**3 * d
    bent = [
        one.after is not None or two.before is not None
        for one, two in zip(nodes, (*nodes[1:], nodes[0]), strict=True)
    ]
    wanted = np.repeat(np.array(bent)[:, None], STEPS, axis=1)
    wanted[:, 0] = True  # of a straight piece its beginning is enough
    return np.asarray(curves[wanted])


def _filled(points: Floats, shape: tuple[int, int]) -> Floats:
    """Covered share of each pixel of a grid (h, w) by a closed polygon (n, 2) in its pixels."""
    areas = np.zeros((shape[0], shape[1] + 2), dtype=np.float32)
    _uncover(points, areas)
    covered = np.empty(shape, dtype=np.float32)
    _sum_up(covered.shape[0], areas, covered)
    return covered


@kernel(of.plane, of.plane)
def _sum_up(rows: Any, areas: Any, out: Any) -> None:
    for y in range(*rows):
        total = 0.0
        for x in range(out.shape[1]):
            total += areas[y, x]
            share = min(abs(total), 1.0)
            # Rounding leaves a trace of what was uncovered and covered again.
            out[y, x] = share if share > 1e-5 else 0.0


@serial(of.plane, of.plane)
def _uncover(points: Any, out: Any) -> None:
    h, wide = out.shape[0], f32(out.shape[1] - 2)
    for i in range(points.shape[0]):
        j = i + 1 if i + 1 < points.shape[0] else 0
        ax, ay, bx, by = points[i, 0], points[i, 1], points[j, 0], points[j, 1]
        if ay == by:
            continue
        way = f32(1.0) if ay < by else f32(-1.0)
        if ay > by:
            ax, ay, bx, by = bx, by, ax, ay
        slope = (bx - ax) / (by - ay)
        for y in range(max(0, int(np.floor(ay))), min(h, int(np.ceil(by)))):
            start, end = max(f32(y), ay), min(f32(y + 1), by)
            one, two = ax + (start - ay) * slope, ax + (end - ay) * slope
            _row(out[y], min(one, two), max(one, two), (end - start) * way, wide)


@compiled
def _row(row: Any, left: Any, right: Any, area: Any, wide: Any) -> None:
    """A piece of an edge within one row, from left to right; area: its height, signed."""
    if right <= f32(0.0):
        row[0] += area
    elif left < wide and right - left < f32(1e-4):
        x = int(max(left, f32(0.0)))
        within = max(left, f32(0.0)) - f32(x)
        row[x] += area * (f32(1.0) - within)
        row[x + 1] += area * within
    elif left < wide:
        per = area / (right - left)
        if left < f32(0.0):
            row[0] -= per * left
        first, last = max(left, f32(0.0)), min(right, wide)
        for x in range(int(first), int(np.ceil(last))):
            a, b = max(first, f32(x)), min(last, f32(x + 1))
            middle = (a + b) * f32(0.5) - f32(x)
            row[x] += per * (b - a) * (f32(1.0) - middle)
            row[x + 1] += per * (b - a) * middle
