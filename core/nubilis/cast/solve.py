"""The amount as a smooth field: weighted least squares on the pixel grid, coarse to fine.

Minimises  sum w (b - a)^2  +  sum over neighbours c (b_q - b_p - t)^2  by successive over-relaxation
in red-black order (Young 1954), started from the half-size problem's solution.

Red and black pixels lie in arrays of their own, so that a sweep runs along memory and vectorises: in
row y, pixel i of colour k is column 2 i + ((y + k) & 1).
"""

from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.kernels import compiled, f32, kernel

SWEEPS = 8  # at every size; 30 give the same accuracy to the third digit
SMALLEST = 24


@dataclass(frozen=True)
class Problem:
    """All float32 (h, w): data weight and target; per axis, the link to the next pixel and its step.

    link_x[y, x] joins (y, x) and (y, x + 1); step_x is the target of b[y, x + 1] - b[y, x].
    """

    weight: Floats
    target: Floats
    link_x: Floats
    link_y: Floats
    step_x: Floats
    step_y: Floats


@kernel(of.plane, of.plane, of.plane, of.plane, of.plane, of.plane, of.stack)
def _prepare(rows: Any, w: Any, a: Any, cx: Any, cy: Any, tx: Any, ty: Any, out: Any) -> None:
    """What does not change from sweep to sweep, (2, 5, h, n): a constant and four neighbours' shares."""
    h, wide = w.shape
    zero = f32(0.0)
    for y in range(*rows):
        for colour in range(2):
            for i in range(out.shape[3]):
                x = 2 * i + ((y + colour) & 1)
                if x >= wide:
                    for j in range(5):
                        out[colour, j, y, i] = zero
                    continue
                left = cx[y, x - 1] if x > 0 else zero
                right = cx[y, x] if x < wide - 1 else zero
                above = cy[y - 1, x] if y > 0 else zero
                below = cy[y, x] if y < h - 1 else zero
                value = w[y, x] * a[y, x]
                if x > 0:
                    value += left * tx[y, x - 1]
                if y > 0:
                    value += above * ty[y - 1, x]
                value -= right * tx[y, x] + below * ty[y, x]
                share = f32(1.0) / max(w[y, x] + left + right + above + below, f32(1e-12))
                out[colour, 0, y, i] = value * share
                out[colour, 1, y, i] = left * share
                out[colour, 2, y, i] = right * share
                out[colour, 3, y, i] = above * share
                out[colour, 4, y, i] = below * share


@compiled
def _row(b: Any, shares: Any, y: Any, colour: Any, relax: Any) -> None:
    """One row of one colour; b: (2, h + 2, n + 2), padded by one."""
    n = shares.shape[3]
    shift = (y + colour) & 1
    own, other = b[colour, y + 1, 1 : n + 1], b[1 - colour]
    left, right = other[y + 1, shift : shift + n], other[y + 1, shift + 1 : shift + 1 + n]
    above, below = other[y, 1 : n + 1], other[y + 2, 1 : n + 1]
    constant, s1, s2 = shares[colour, 0, y], shares[colour, 1, y], shares[colour, 2, y]
    s3, s4 = shares[colour, 3, y], shares[colour, 4, y]
    for i in range(n):
        value = constant[i] + s1[i] * left[i] + s2[i] * right[i]
        value += s3[i] * above[i] + s4[i] * below[i]
        own[i] += relax * (value - own[i])


@kernel(of.planes, of.stack, of.number, of.real)
def _sweep(rows: Any, b: Any, shares: Any, colour: Any, relax: Any) -> None:
    for y in range(*rows):
        _row(b, shares, y, colour, relax)


def _parted(b: Floats) -> Floats:
    """Red and black apart, (2, h + 2, n + 2), padded by one."""
    h, w = b.shape
    out = np.zeros((2, h + 2, -(-w // 2) + 2), dtype=np.float32)
    for colour in (0, 1):
        for y in (0, 1):
            columns = b[y::2, (y + colour) & 1 :: 2]
            out[colour, 1 + y : -1 : 2, 1 : 1 + columns.shape[1]] = columns
    return out


def _joined(parts: Floats, like: Floats) -> Floats:
    out = np.empty_like(like)
    for colour in (0, 1):
        for y in (0, 1):
            columns = out[y::2, (y + colour) & 1 :: 2]
            columns[:] = parts[colour, 1 + y : -1 : 2, 1 : 1 + columns.shape[1]]
    return out


def _relax(b: Floats, p: Problem, sweeps: int, factor: float) -> Floats:
    """Red-black sweeps from the start `b`."""
    h, w = b.shape
    shares = np.empty((2, 5, h, -(-w // 2)), dtype=np.float32)
    _prepare(h, p.weight, p.target, p.link_x, p.link_y, p.step_x, p.step_y, shares)
    parts = _parted(b)
    for half in range(2 * sweeps):
        _sweep(h, parts, shares, half & 1, f32(factor))
    return _joined(parts, b)


@compiled
def _in_series(before: Any, across: Any, after: Any) -> Any:
    """The crossing link in series with half of either inner one."""
    tiny = f32(1e-6)
    resistance = f32(1.0) / (across + tiny)
    return f32(1.0) / (resistance + f32(0.5) / (before + tiny) + f32(0.5) / (after + tiny))


@kernel(of.plane, of.plane, of.plane, of.plane, of.planes)
def _halve_links(rows: Any, cx: Any, cy: Any, tx: Any, ty: Any, out: Any) -> None:
    """Links and steps between 2 x 2 blocks; out: (4, h // 2, w // 2), link and step along x, then y."""
    half = f32(0.5)
    for y in range(*rows):
        for x in range(out.shape[2]):
            right, below = min(2 * x + 2, cx.shape[1] - 1), min(2 * y + 2, cx.shape[0] - 1)
            link_x = step_x = link_y = step_y = f32(0.0)
            for j in range(2):
                row, column = 2 * y + j, 2 * x + j
                link = _in_series(cx[row, 2 * x], cx[row, 2 * x + 1], cx[row, right])
                rise = tx[row, 2 * x + 1] + half * (tx[row, 2 * x] + tx[row, right])
                link_x += link
                step_x += link * rise
                link = _in_series(cy[2 * y, column], cy[2 * y + 1, column], cy[below, column])
                rise = ty[2 * y + 1, column] + half * (ty[2 * y, column] + ty[below, column])
                link_y += link
                step_y += link * rise
            out[0, y, x] = link_x
            out[1, y, x] = step_x / (link_x + f32(1e-9))
            out[2, y, x] = link_y
            out[3, y, x] = step_y / (link_y + f32(1e-9))


def _sum_blocks(v: Floats) -> Floats:
    h, w = v.shape[0] // 2, v.shape[1] // 2
    four = v[: 2 * h, : 2 * w]
    return np.asarray((four[0::2, 0::2] + four[0::2, 1::2]) + (four[1::2, 0::2] + four[1::2, 1::2]))


def _halve(p: Problem) -> Problem:
    weight = _sum_blocks(p.weight)
    target = _sum_blocks(p.weight * p.target) / np.maximum(weight, 1e-9)
    links = np.empty((4, *weight.shape), dtype=np.float32)
    _halve_links(links.shape[1], p.link_x, p.link_y, p.step_x, p.step_y, links)
    return Problem(weight, target.astype(np.float32), links[0], links[2], links[1], links[3])


def solve(p: Problem) -> Floats:
    """The field b, float32 (h, w)."""
    # One is added meanwhile: a field that fades to nothing would end in denormal numbers, on which
    # processors are twenty times slower.
    raised = replace(p, target=p.target + np.float32(1.0))
    return np.asarray(_solve(raised) - np.float32(1.0))


def _solve(p: Problem) -> Floats:
    h, w = p.weight.shape
    if min(h, w) < SMALLEST:
        mean = float((p.weight * p.target).sum() / max(float(p.weight.sum()), 1e-6))
        b = np.full((h, w), mean, dtype=np.float32)
        return _relax(b, p, 4 * SWEEPS, 1.6)
    coarse = _solve(_halve(p))
    b = np.ascontiguousarray(cv2.resize(coarse, (w, h), interpolation=cv2.INTER_LINEAR))
    return _relax(b, p, SWEEPS, 1.5)
