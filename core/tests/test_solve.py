"""The smooth field against a dense solution of the same equations."""

import unittest

import numpy as np

from nubilis.cast.solve import Problem, solve


def dense(p: Problem) -> np.ndarray:
    h, w = p.weight.shape
    n = h * w
    a = np.zeros((n, n))
    rhs = np.zeros(n)
    for y in range(h):
        for x in range(w):
            i = y * w + x
            a[i, i] += p.weight[y, x]
            rhs[i] += p.weight[y, x] * p.target[y, x]
            for j, link, step, inside in (
                (i + 1, p.link_x[y, x], p.step_x[y, x], x < w - 1),
                (i + w, p.link_y[y, x], p.step_y[y, x], y < h - 1),
            ):
                if inside:
                    a[i, i] += link
                    a[j, j] += link
                    a[i, j] -= link
                    a[j, i] -= link
                    rhs[i] -= link * step
                    rhs[j] += link * step
    return np.linalg.solve(a, rhs).reshape(h, w)


def problem(h: int, w: int) -> Problem:
    rng = np.random.default_rng(h * w)

    def some(low: float, high: float) -> np.ndarray:
        return rng.uniform(low, high, (h, w)).astype(np.float32)

    return Problem(
        some(0.1, 1), some(0, 1), some(0.5, 2), some(0.5, 2), some(-0.1, 0.1), some(-0.1, 0.1)
    )


class Field(unittest.TestCase):
    def test_small_problems_are_solved(self) -> None:
        for h, w in ((1, 1), (1, 9), (7, 5), (20, 23)):
            with self.subTest(f"{h}x{w}"):
                p = problem(h, w)
                np.testing.assert_allclose(solve(p), dense(p), atol=2e-3)

    def test_coarse_to_fine_arrives_too(self) -> None:
        p = problem(48, 52)
        np.testing.assert_allclose(solve(p), dense(p), atol=1e-2)
