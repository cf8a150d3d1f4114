"""Colours through a table: tetrahedral interpolation in three dimensions, linear in one.

A table speaks of sRGB as displays code it. What lies beyond its domain goes through as its nearest entry,
plus what it is beyond. Source of the tetrahedra: Kasson, Nin, Plouffe, Hafner (1995).
"""

from collections.abc import Callable
from typing import Any

import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.profile import Profile, srgb
from nubilis.colour.transfer import coded, light
from nubilis.kernels import between, compiled, constants, f32, kernel
from nubilis.look.cube import Cube, identity

PART = 4096  # colours that one thread takes at a time


def through(cube: Cube, rgb_linear: Floats, share: Floats) -> Floats:
    """A picture (3, h, w) in linear Rec. 2020 after a table, as far as share (h, w) says; to the bit as it
    was where that is 0."""
    there = srgb().encoding_matrix.astype(np.float32)
    back = np.linalg.inv(srgb().encoding_matrix).astype(np.float32)
    low, per = _scale(cube)
    out = np.empty_like(rgb_linear)
    flat, size = cube.entries.ravel(), np.int32(cube.size)
    three = cube.dimensions == 3
    _through(rgb_linear.shape[1], three, rgb_linear, share, flat, size, low, per, there, back, out)
    return out


def looked_up(cube: Cube, codes: Floats, in_place: bool = False) -> Floats:
    """Code values (3, n) after a table, as the kernel has it; within the domain."""
    low, per = _scale(cube)
    out = codes if in_place else codes.copy()
    flat, size = cube.entries.ravel(), np.int32(cube.size)
    _look_up(-(-out.shape[1] // PART), cube.dimensions == 3, flat, size, low, per, out)
    return out


def entries_of(seen: Callable[[Floats], Floats], size: int, space: Profile | None = None) -> Floats:
    """A table's entries (size, size, size, 3) of what is done to colours: (3, 1, n), linear Rec. 2020; in the
    codes of a space, else sRGB's."""
    space = space or srgb()
    colours = space.light_of(identity(size).reshape(-1, 3).T.astype(np.float64))
    made = seen(np.ascontiguousarray(colours[:, None], dtype=np.float32))[:, 0]
    entries = space.codes_of(made.astype(np.float64)).T.reshape(size, size, size, 3)
    return np.ascontiguousarray(entries, dtype=np.float32)


def through_codes(cube: Cube, space: Profile, rgb: Floats) -> Floats:
    """Colours (3, n), linear Rec. 2020, through a table in the codes of a space."""
    codes = np.ascontiguousarray(space.codes_of(rgb.astype(np.float64)), dtype=np.float32)
    return space.light_of(looked_up(cube, codes).astype(np.float64)).astype(np.float32)


def _scale(cube: Cube) -> tuple[Floats, Floats]:
    """Where the table begins, and entries for each unit."""
    low, high = np.array(cube.low), np.array(cube.high)
    return low.astype(np.float32), ((cube.size - 1) / (high - low)).astype(np.float32)


@compiled
def _row3(u: Any, t: Any, size: Any, low: Any, per: Any) -> None:
    """Code values (3, n) through a table, in place: the four entries of the tetrahedron that a place lies in,
    found without a branch. t: the entries, flat, red fastest."""
    top = f32(size - 1)
    most = size - np.int32(2)
    to_red = np.int32(3)
    to_green = to_red * size
    to_blue = to_green * size
    to_all = to_red + to_green + to_blue
    low_r, low_g, low_b = low[0], low[1], low[2]
    per_r, per_g, per_b = per[0], per[1], per[2]
    for n in range(u.shape[1]):
        at_r, at_g, at_b = (
            (u[0, n] - low_r) * per_r,
            (u[1, n] - low_g) * per_g,
            (u[2, n] - low_b) * per_b,
        )
        r, g, b = between(at_r, top), between(at_g, top), between(at_b, top)
        i, j, k = min(np.int32(r), most), min(np.int32(g), most), min(np.int32(b), most)
        x, y, z = r - f32(i), g - f32(j), b - f32(k)
        first = i * to_red + j * to_green + k * to_blue
        high, lowest = max(x, y, z), min(x, y, z)
        middle = x + y + z - high - lowest
        # The corner towards the largest share, and the one that lacks only the smallest.
        one = to_red if x == high else (to_green if y == high else to_blue)
        lacks = to_blue if z == lowest else (to_green if y == lowest else to_red)
        second, third, last = first + one, first + to_all - lacks, first + to_all
        w0, w1, w2, w3 = f32(1.0) - high, high - middle, middle - lowest, lowest
        u[0, n] = w0 * t[first] + w1 * t[second] + w2 * t[third] + w3 * t[last] + (at_r - r) / per_r
        first, second, third, last = first + 1, second + 1, third + 1, last + 1
        u[1, n] = w0 * t[first] + w1 * t[second] + w2 * t[third] + w3 * t[last] + (at_g - g) / per_g
        first, second, third, last = first + 1, second + 1, third + 1, last + 1
        u[2, n] = w0 * t[first] + w1 * t[second] + w2 * t[third] + w3 * t[last] + (at_b - b) / per_b


@compiled
def _row1(u: Any, t: Any, size: Any, low: Any, per: Any) -> None:
    """The same through a table of each channel by itself."""
    top = f32(size - 1)
    for c in range(3):
        for n in range(u.shape[1]):
            at = (u[c, n] - low[c]) * per[c]
            held = between(at, top)
            i = min(np.int32(held), size - np.int32(2))
            v, following = t[3 * i + c], t[3 * i + 3 + c]
            u[c, n] = v + (held - f32(i)) * (following - v) + (at - held) / per[c]


@compiled
def _coded_row(rgb: Any, y: Any, there: Any, u: Any) -> None:
    for x in range(u.shape[1]):
        r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
        u[0, x] = coded(there[0][0] * r + there[0][1] * g + there[0][2] * b)
        u[1, x] = coded(there[1][0] * r + there[1][1] * g + there[1][2] * b)
        u[2, x] = coded(there[2][0] * r + there[2][1] * g + there[2][2] * b)


@compiled
def _mixed_row(rgb: Any, y: Any, share: Any, back: Any, u: Any, out: Any) -> None:
    for x in range(u.shape[1]):
        w = share[y, x]
        r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
        v0, v1, v2 = light(u[0, x]), light(u[1, x]), light(u[2, x])
        nr = r + w * (back[0][0] * v0 + back[0][1] * v1 + back[0][2] * v2 - r)
        ng = g + w * (back[1][0] * v0 + back[1][1] * v1 + back[1][2] * v2 - g)
        nb_ = b + w * (back[2][0] * v0 + back[2][1] * v1 + back[2][2] * v2 - b)
        out[0, y, x] = nr if w > f32(0.0) else r
        out[1, y, x] = ng if w > f32(0.0) else g
        out[2, y, x] = nb_ if w > f32(0.0) else b


@compiled
def _row(three: Any, u: Any, t: Any, size: Any, low: Any, per: Any) -> None:
    if three:
        _row3(u, t, size, low, per)
    else:
        _row1(u, t, size, low, per)


@kernel(of.flag, of.line, of.small_number, of.line, of.line, of.plane, least=4)
def _look_up(parts: Any, three: Any, t: Any, size: Any, low: Any, per: Any, out: Any) -> None:
    for part in range(*parts):
        _row(three, out[:, part * PART : (part + 1) * PART], t, size, low, per)


@kernel(
    of.flag,
    of.planes,
    of.plane,
    of.line,
    of.small_number,
    of.line,
    of.line,
    of.plane,
    of.plane,
    of.planes,
)
def _through(
    rows: Any,
    three: Any,
    rgb: Any,
    share: Any,
    t: Any,
    size: Any,
    low: Any,
    per: Any,
    there: Any,
    back: Any,
    out: Any,
) -> None:
    there, back = constants(there), constants(back)
    for y in range(*rows):
        u = np.empty((3, rgb.shape[2]), dtype=np.float32)
        _coded_row(rgb, y, there, u)
        _row(three, u, t, size, low, per)
        _mixed_row(rgb, y, share, back, u, out)
