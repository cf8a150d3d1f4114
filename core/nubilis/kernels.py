"""numba's flags in one place, and float32 elementary functions that vectorise.

libm's calls do not vectorise; a bit trick and a few multiplications do, and float32 has only
24 bits to get right.
"""

from collections.abc import Callable
from typing import Any, TypeVar

import numba as nb
import numpy as np

F = TypeVar("F", bound=Callable[..., Any])
f32 = np.float32

# 'fast' may reorder sums and fuse multiplications. It stays off 'nnan' and 'ninf', so that a
# stray NaN in a float TIFF does not turn into undefined behaviour.
_FAST = {"reassoc", "contract", "arcp", "nsz"}


def kernel(function: F) -> F:
    """A compiled loop over rows in parallel, cached on disk, without Python's lock."""
    compiled: F = nb.njit(
        function, parallel=True, fastmath=_FAST, cache=True, nogil=True, error_model="numpy"
    )
    return compiled


def serial(function: F) -> F:
    """A compiled loop on one thread."""
    compiled: F = nb.njit(function, fastmath=_FAST, cache=True, nogil=True, error_model="numpy")
    return compiled


def inline(function: F) -> F:
    """A scalar function that is compiled into its callers."""
    compiled: F = nb.njit(
        function, fastmath=_FAST, cache=True, nogil=True, inline="always", error_model="numpy"
    )
    return compiled


@inline
def exp2(x: Any) -> Any:
    """2 to the x for float32; exactly 1 at 0. Relative error below 2e-7 for |x| < 126."""
    x = min(max(x, f32(-125.0)), f32(125.0))
    whole = np.floor(x + f32(0.5))
    t = x - whole
    p = f32(1.54035304e-4)  # Taylor of 2^t on [-1/2, 1/2]: ln2^n / n!
    p = p * t + f32(1.33335581e-3)
    p = p * t + f32(9.61812911e-3)
    p = p * t + f32(5.55041087e-2)
    p = p * t + f32(2.40226507e-1)
    p = p * t + f32(6.93147181e-1)
    p = p * t + f32(1.0)
    scale = np.int32((np.int32(whole) + np.int32(127)) << np.int32(23)).view(np.float32)
    return p * scale


@inline
def log(x: Any) -> Any:
    """Natural logarithm of float32 x > 0. Mantissa by the series of 2 artanh; absolute error 2e-7."""
    bits = np.float32(x).view(np.int32)
    shifted = np.int32(bits - np.int32(0x3F3504F3))  # so that the mantissa is 0.707..1.414
    exponent = np.int32(shifted >> np.int32(23))
    m = np.int32(bits - np.int32(exponent << np.int32(23))).view(np.float32)
    t = (m - f32(1.0)) / (m + f32(1.0))
    s = t * t
    p = s * f32(2.0 / 9.0) + f32(2.0 / 7.0)
    p = p * s + f32(2.0 / 5.0)
    p = p * s + f32(2.0 / 3.0)
    p = p * s + f32(2.0)
    return f32(exponent) * f32(0.6931471806) + p * t


@inline
def cbrt(x: Any) -> Any:
    """Cube root of float32, odd. Bit-trick start and two Halley steps; relative error 3e-7."""
    a = abs(x)
    start = np.int32(np.float32(a).view(np.int32) // np.int32(3) + np.int32(709921077))
    y = start.view(np.float32)
    for _ in range(2):
        y3 = y * y * y
        y = y * (y3 + a + a) / (y3 + y3 + a + f32(1e-30))
    if a < f32(1e-30):
        y = f32(0.0)
    return y if x >= f32(0.0) else -y


@inline
def smoothstep(t: Any) -> Any:
    """0 below 0, 1 above 1, and a cubic without corners between."""
    t = min(max(t, f32(0.0)), f32(1.0))
    return t * t * (f32(3.0) - f32(2.0) * t)
