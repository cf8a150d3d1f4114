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
from nubilis.kernels import f32, kernel

SWEEPS = 30
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


@kernel
def _sweep(
    b: Any, w: Any, a: Any, cx: Any, cy: Any, tx: Any, ty: Any, colour: Any, relax: Any
) -> None:
    h, wide = b.shape
    for y in nb.prange(h):
        for x in range((y + colour) & 1, wide, 2):
            total = w[y, x]
            value = w[y, x] * a[y, x]
            if x > 0:
                total += cx[y, x - 1]
                value += cx[y, x - 1] * (b[y, x - 1] + tx[y, x - 1])
            if x < wide - 1:
                total += cx[y, x]
                value += cx[y, x] * (b[y, x + 1] - tx[y, x])
            if y > 0:
                total += cy[y - 1, x]
                value += cy[y - 1, x] * (b[y - 1, x] + ty[y - 1, x])
            if y < h - 1:
                total += cy[y, x]
                value += cy[y, x] * (b[y + 1, x] - ty[y, x])
            if total > f32(0.0):
                b[y, x] += relax * (value / total - b[y, x])


def _relax(b: Floats, p: Problem, sweeps: int, factor: float) -> None:
    for _ in range(sweeps):
        for colour in (0, 1):
            _sweep(
                b, p.weight, p.target, p.link_x, p.link_y, p.step_x, p.step_y, colour, f32(factor)
            )


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
        _relax(b, p, 4 * SWEEPS, 1.6)
        return b
    coarse = solve(_halve(p))
    b = np.ascontiguousarray(cv2.resize(coarse, (w, h), interpolation=cv2.INTER_LINEAR))
    _relax(b, p, SWEEPS, 1.5)
    return b
