"""Walks over a picture: how much of its change lies between a place and where one starts.

Raster passes, forwards and backwards, each place taking the best of its neighbours; source: Criminisi,
Sharp, Blake (2008), "GeoS: geodesic image segmentation", section 3. Exact in the limit; four passes
settle all but mazes.
"""

from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, f32, serial

PASSES = 4
FAR = 1e6
WALL = 2e6  # where no way leads
DEAD = 0.01  # of the root of linear light: smaller steps between neighbours are grain, not an edge


def change_from(guide: Floats, start: Floats) -> Floats:
    """Least sum of the steps of colour between each place and the start, float32 (h, w).

    guide: (3, h, w), see edges.guide_planes; start: (h, w), 0 where one starts, FAR elsewhere,
    WALL where no way leads.
    """
    out = start.astype(np.float32).copy()
    _add_up(guide, f32(DEAD), PASSES, out)
    return out


def worst_on_the_way(cost: Floats, start: Floats) -> Floats:
    """The least that the greatest cost on any way to the start can be, float32 (h, w). cost: (h, w)."""
    out = np.where(start < FAR, cost, np.float32(FAR)).astype(np.float32)
    _pass_by(cost, PASSES, out)
    return out


@compiled
def _step(guide: Any, y: Any, x: Any, v: Any, u: Any, dead: Any) -> Any:
    total = f32(0.0)
    for i in range(3):
        d = guide[i, y, x] - guide[i, v, u]
        total += d * d
    return max(np.sqrt(total) - dead, f32(0.0))


@serial(of.planes, of.real, of.number, of.plane)
def _add_up(guide: Any, dead: Any, passes: Any, out: Any) -> None:
    h, w = out.shape
    wall = f32(0.75 * WALL)
    for n in range(passes):
        way = 1 if n % 2 == 0 else -1
        for j in range(h):
            y = j if way == 1 else h - 1 - j
            v = y - way
            for i in range(w):
                x = i if way == 1 else w - 1 - i
                best = out[y, x]
                if best > wall:
                    continue
                u = x - way
                if 0 <= u < w:
                    best = min(best, out[y, u] + _step(guide, y, x, y, u, dead))
                if 0 <= v < h:
                    for k in range(3):
                        u = x - 1 + k
                        if 0 <= u < w:
                            best = min(best, out[v, u] + _step(guide, y, x, v, u, dead))
                out[y, x] = best


@serial(of.plane, of.number, of.plane)
def _pass_by(cost: Any, passes: Any, out: Any) -> None:
    h, w = out.shape
    for n in range(passes):
        way = 1 if n % 2 == 0 else -1
        for j in range(h):
            y = j if way == 1 else h - 1 - j
            v = y - way
            for i in range(w):
                x = i if way == 1 else w - 1 - i
                best, own = out[y, x], cost[y, x]
                u = x - way
                if 0 <= u < w:
                    best = min(best, max(out[y, u], own))
                if 0 <= v < h:
                    for k in range(3):
                        u = x - 1 + k
                        if 0 <= u < w:
                            best = min(best, max(out[v, u], own))
                out[y, x] = best
