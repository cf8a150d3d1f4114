"""Fast elementary functions against numpy's."""

import unittest

import numba as nb
import numpy as np

from nubilis.kernels import cbrt, exp2, log, smoothstep


@nb.njit
def _each(x, which, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        if which == 0:
            out[i] = exp2(x[i])
        elif which == 1:
            out[i] = cbrt(x[i])
        elif which == 2:
            out[i] = log(x[i])
        else:
            out[i] = smoothstep(x[i])


def _run(x: np.ndarray, which: int) -> np.ndarray:
    out = np.empty_like(x)
    _each(x, which, out)
    return out


class Elementary(unittest.TestCase):
    def test_exp2(self) -> None:
        x = np.linspace(-30, 30, 20001).astype(np.float32)
        np.testing.assert_allclose(_run(x, 0), np.exp2(x.astype(np.float64)), rtol=4e-7)
        self.assertEqual(_run(np.zeros(1, np.float32), 0)[0], 1.0)

    def test_cbrt(self) -> None:
        x = np.concatenate([-np.geomspace(1e-12, 1e3, 5000), [0.0], np.geomspace(1e-12, 1e3, 5000)])
        x = x.astype(np.float32)
        np.testing.assert_allclose(_run(x, 1), np.cbrt(x.astype(np.float64)), rtol=6e-7, atol=1e-30)

    def test_log(self) -> None:
        x = np.geomspace(1e-6, 1e4, 20001).astype(np.float32)
        np.testing.assert_allclose(_run(x, 2), np.log(x.astype(np.float64)), atol=1.5e-6)
        self.assertEqual(_run(np.ones(1, np.float32), 2)[0], 0.0)

    def test_smoothstep(self) -> None:
        x = np.array([-1.0, 0.0, 0.25, 0.5, 1.0, 2.0], dtype=np.float32)
        np.testing.assert_allclose(_run(x, 3), [0, 0, 0.15625, 0.5, 1, 1], atol=1e-7)
