"""Colours through a table: tetrahedral interpolation in three dimensions, linear in one.

A table speaks of sRGB as displays code it. What lies beyond its domain goes through as its nearest entry,
plus what it is beyond. Source of the tetrahedra: Kasson, Nin, Plouffe, Hafner (1995).
"""

from typing import Any

import numba as nb
import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.profile import srgb
from nubilis.colour.transfer import coded, light
from nubilis.kernels import f32, inline, kernel
from nubilis.look.cube import Cube


def through(cube: Cube, rgb_linear: Floats, share: Floats) -> Floats:
    """A picture (3, h, w) in linear Rec. 2020 after a table, as far as share (h, w) says; to the bit as it
    was where that is 0."""
    there = srgb().encoding_matrix.astype(np.float32)
    back = np.linalg.inv(srgb().encoding_matrix).astype(np.float32)
    low, per = _scale(cube)
    out = np.empty_like(rgb_linear)
    if cube.dimensions == 3:
        _through3(rgb_linear, share, cube.entries, low, per, there, back, out)
    else:
        _through1(rgb_linear, share, cube.entries, low, per, there, back, out)
    return out


def looked_up(cube: Cube, codes: Floats) -> Floats:
    """Code values (3, n) after a table, as the kernel has it; within the domain."""
    low, per = _scale(cube)
    out = np.empty_like(codes)
    (_look_up3 if cube.dimensions == 3 else _look_up1)(codes, cube.entries, low, per, out)
    return out


def _scale(cube: Cube) -> tuple[Floats, Floats]:
    """Where the table begins, and entries for each unit."""
    low, high = np.array(cube.low), np.array(cube.high)
    return low.astype(np.float32), ((cube.size - 1) / (high - low)).astype(np.float32)


@inline
def _inside(v: Any, low: Any, per: Any, last: Any) -> Any:
    """A place in the table, and what lies beyond it, in code values."""
    at = (v - low) * per
    held = min(max(at, f32(0.0)), last)
    return held, (at - held) / per


@inline
def _tetrahedral(t: Any, r: Any, g: Any, b: Any, c: Any) -> Any:
    """One channel between eight entries: the four of the tetrahedron that the place lies in."""
    n = t.shape[0] - 2
    i, j, k = min(int(r), n), min(int(g), n), min(int(b), n)
    x, y, z = r - f32(i), g - f32(j), b - f32(k)
    v0, v7 = t[k, j, i, c], t[k + 1, j + 1, i + 1, c]
    if x >= y:
        if y >= z:
            v1, v2 = t[k, j, i + 1, c], t[k, j + 1, i + 1, c]
            return v0 + x * (v1 - v0) + y * (v2 - v1) + z * (v7 - v2)
        if x >= z:
            v1, v2 = t[k, j, i + 1, c], t[k + 1, j, i + 1, c]
            return v0 + x * (v1 - v0) + z * (v2 - v1) + y * (v7 - v2)
        v1, v2 = t[k + 1, j, i, c], t[k + 1, j, i + 1, c]
        return v0 + z * (v1 - v0) + x * (v2 - v1) + y * (v7 - v2)
    if z >= y:
        v1, v2 = t[k + 1, j, i, c], t[k + 1, j + 1, i, c]
        return v0 + z * (v1 - v0) + y * (v2 - v1) + x * (v7 - v2)
    if z >= x:
        v1, v2 = t[k, j + 1, i, c], t[k + 1, j + 1, i, c]
        return v0 + y * (v1 - v0) + z * (v2 - v1) + x * (v7 - v2)
    v1, v2 = t[k, j + 1, i, c], t[k, j + 1, i + 1, c]
    return v0 + y * (v1 - v0) + x * (v2 - v1) + z * (v7 - v2)


@inline
def _linear(t: Any, at: Any, c: Any) -> Any:
    i = min(int(at), t.shape[0] - 2)
    return t[i, c] + (at - f32(i)) * (t[i + 1, c] - t[i, c])


@kernel
def _look_up3(codes: Any, t: Any, low: Any, per: Any, out: Any) -> None:
    last = f32(t.shape[0] - 1)
    for x in nb.prange(codes.shape[1]):
        r, over_r = _inside(codes[0, x], low[0], per[0], last)
        g, over_g = _inside(codes[1, x], low[1], per[1], last)
        b, over_b = _inside(codes[2, x], low[2], per[2], last)
        out[0, x] = _tetrahedral(t, r, g, b, 0) + over_r
        out[1, x] = _tetrahedral(t, r, g, b, 1) + over_g
        out[2, x] = _tetrahedral(t, r, g, b, 2) + over_b


@kernel
def _look_up1(codes: Any, t: Any, low: Any, per: Any, out: Any) -> None:
    last = f32(t.shape[0] - 1)
    for x in nb.prange(codes.shape[1]):
        for c in range(3):
            at, over = _inside(codes[c, x], low[c], per[c], last)
            out[c, x] = _linear(t, at, c) + over


@kernel
def _through3(
    rgb: Any, share: Any, t: Any, low: Any, per: Any, there: Any, back: Any, out: Any
) -> None:
    last = f32(t.shape[0] - 1)
    for y in nb.prange(rgb.shape[1]):
        for x in range(rgb.shape[2]):
            w = share[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                u0 = coded(there[0, 0] * r + there[0, 1] * g + there[0, 2] * b)
                u1 = coded(there[1, 0] * r + there[1, 1] * g + there[1, 2] * b)
                u2 = coded(there[2, 0] * r + there[2, 1] * g + there[2, 2] * b)
                i, over0 = _inside(u0, low[0], per[0], last)
                j, over1 = _inside(u1, low[1], per[1], last)
                k, over2 = _inside(u2, low[2], per[2], last)
                v0 = light(_tetrahedral(t, i, j, k, 0) + over0)
                v1 = light(_tetrahedral(t, i, j, k, 1) + over1)
                v2 = light(_tetrahedral(t, i, j, k, 2) + over2)
                r += w * (back[0, 0] * v0 + back[0, 1] * v1 + back[0, 2] * v2 - r)
                g += w * (back[1, 0] * v0 + back[1, 1] * v1 + back[1, 2] * v2 - g)
                b += w * (back[2, 0] * v0 + back[2, 1] * v1 + back[2, 2] * v2 - b)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b


@kernel
def _through1(
    rgb: Any, share: Any, t: Any, low: Any, per: Any, there: Any, back: Any, out: Any
) -> None:
    last = f32(t.shape[0] - 1)
    for y in nb.prange(rgb.shape[1]):
        for x in range(rgb.shape[2]):
            w = share[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                u0 = coded(there[0, 0] * r + there[0, 1] * g + there[0, 2] * b)
                u1 = coded(there[1, 0] * r + there[1, 1] * g + there[1, 2] * b)
                u2 = coded(there[2, 0] * r + there[2, 1] * g + there[2, 2] * b)
                i, over0 = _inside(u0, low[0], per[0], last)
                j, over1 = _inside(u1, low[1], per[1], last)
                k, over2 = _inside(u2, low[2], per[2], last)
                v0 = light(_linear(t, i, 0) + over0)
                v1 = light(_linear(t, j, 1) + over1)
                v2 = light(_linear(t, k, 2) + over2)
                r += w * (back[0, 0] * v0 + back[0, 1] * v1 + back[0, 2] * v2 - r)
                g += w * (back[1, 0] * v0 + back[1, 1] * v1 + back[1, 2] * v2 - g)
                b += w * (back[2, 0] * v0 + back[2, 1] * v1 + back[2, 2] * v2 - b)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
