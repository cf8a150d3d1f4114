"""The amount as a smooth field: weighted least squares on the pixel grid, coarse to fine.

Minimises  sum w (b - a)^2  +  sum over neighbours c (b_q - b_p - t)^2  by successive over-relaxation
in red-black order (Young 1954), started from the half-size problem's solution.
"""

from dataclasses import dataclass
from typing import Any

import cv2
import numba as nb
import numpy as np

from nubilis.arrays import Floats
from nubilis.kernels import f32, inline, kernel, serial

SWEEPS = 8  # at every size; 30 give the same accuracy to the third digit
SMALLEST = 24
WORTH_SHARING = 128 * 128  # pixels; below, waking a second thread costs more than it gains


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


@kernel
def _prepare(w: Any, a: Any, cx: Any, cy: Any, tx: Any, ty: Any, base: Any, inverse: Any) -> None:
    """What does not change from sweep to sweep. The links are padded by one, the rest is not."""
    h, wide = w.shape
    for y in nb.prange(h):
        for x in range(wide):
            left, right = cx[y + 1, x], cx[y + 1, x + 1]
            above, below = cy[y, x + 1], cy[y + 1, x + 1]
            total = w[y, x] + left + right + above + below
            value = w[y, x] * a[y, x]
            value += left * tx[y + 1, x] - right * tx[y + 1, x + 1]
            value += above * ty[y, x + 1] - below * ty[y + 1, x + 1]
            base[y, x] = value
            inverse[y, x] = f32(1.0) / max(total, f32(1e-12))


@inline
def _row(b: Any, base: Any, inverse: Any, cx: Any, cy: Any, y: Any, first: Any, relax: Any) -> None:
    for x in range(first, base.shape[1], 2):
        value = base[y, x]
        value += cx[y + 1, x] * b[y + 1, x] + cx[y + 1, x + 1] * b[y + 1, x + 2]
        value += cy[y, x + 1] * b[y, x + 1] + cy[y + 1, x + 1] * b[y + 2, x + 1]
        b[y + 1, x + 1] += relax * (value * inverse[y, x] - b[y + 1, x + 1])


@kernel
def _sweeps(b: Any, base: Any, inverse: Any, cx: Any, cy: Any, count: Any, relax: Any) -> None:
    for i in range(2 * count):
        for y in nb.prange(base.shape[0]):
            _row(b, base, inverse, cx, cy, y, (y + i) & 1, relax)


@serial
def _small_sweeps(
    b: Any, base: Any, inverse: Any, cx: Any, cy: Any, count: Any, relax: Any
) -> None:
    for i in range(2 * count):
        for y in range(base.shape[0]):
            _row(b, base, inverse, cx, cy, y, (y + i) & 1, relax)


def _padded(v: Floats) -> Floats:
    return np.pad(v, 1)


def _relax(b: Floats, p: Problem, sweeps: int, factor: float) -> Floats:
    """Red-black sweeps from the start `b`."""
    cx, cy, tx, ty = (_padded(v) for v in (p.link_x, p.link_y, p.step_x, p.step_y))
    cx[:, -2] = 0.0
    cy[-2] = 0.0
    base, inverse = np.empty_like(p.weight), np.empty_like(p.weight)
    _prepare(p.weight, p.target, cx, cy, tx, ty, base, inverse)
    field = _padded(b)
    run = _sweeps if b.size > WORTH_SHARING else _small_sweeps
    run(field, base, inverse, cx, cy, sweeps, f32(factor))
    return np.ascontiguousarray(field[1:-1, 1:-1])


def _sum_blocks(v: Floats) -> Floats:
    h, w = v.shape[0] // 2, v.shape[1] // 2
    return np.asarray(v[: 2 * h, : 2 * w].reshape(h, 2, w, 2).sum(axis=(1, 3)))


def _coarse_links(link: Floats, step: Floats) -> tuple[Floats, Floats]:
    """Links along x between 2x2 blocks: the crossing link in series with half of either inner one."""
    h, w = link.shape[0] // 2, link.shape[1] // 2
    c, t = link[: 2 * h, : 2 * w], step[: 2 * h, : 2 * w]
    inner, across = c[:, 0::2], c[:, 1::2]
    inner_step = t[:, 0::2]
    after, after_step = np.roll(inner, -1, axis=1), np.roll(inner_step, -1, axis=1)
    tiny = 1e-6
    series = 1.0 / (1.0 / (across + tiny) + 0.5 / (inner + tiny) + 0.5 / (after + tiny))
    rise = t[:, 1::2] + 0.5 * (inner_step + after_step)
    both = series.reshape(h, 2, w).sum(axis=1)
    weighted = (series * rise).reshape(h, 2, w).sum(axis=1)
    return both.astype(np.float32), (weighted / (both + 1e-9)).astype(np.float32)


def _halve(p: Problem) -> Problem:
    weight = _sum_blocks(p.weight)
    target = _sum_blocks(p.weight * p.target) / np.maximum(weight, 1e-9)
    link_x, step_x = _coarse_links(p.link_x, p.step_x)
    link_y, step_y = (v.T.copy() for v in _coarse_links(p.link_y.T, p.step_y.T))
    return Problem(weight, target.astype(np.float32), link_x, link_y, step_x, step_y)


def solve(p: Problem) -> Floats:
    """The field b, float32 (h, w)."""
    h, w = p.weight.shape
    if min(h, w) < SMALLEST:
        mean = float((p.weight * p.target).sum() / max(float(p.weight.sum()), 1e-6))
        b = np.full((h, w), mean, dtype=np.float32)
        return _relax(b, p, 4 * SWEEPS, 1.6)
    coarse = solve(_halve(p))
    b = np.ascontiguousarray(cv2.resize(coarse, (w, h), interpolation=cv2.INTER_LINEAR))
    return _relax(b, p, SWEEPS, 1.5)
