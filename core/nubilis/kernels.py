"""numba's flags in one place, and float32 elementary functions that vectorise.

libm's calls do not vectorise; a bit trick and a few multiplications do, and float32 has only
24 bits to get right.

What is called from Python declares the types of its arguments: set-up compiles just these
(precompile.py), and other types are refused.
"""

import threading
from collections.abc import Callable, Sequence
from functools import wraps
from typing import Any, TypeVar

import numba as nb
import numpy as np

from nubilis.cores import share_out

F = TypeVar("F", bound=Callable[..., Any])
f32 = np.float32

_ROWS = nb.types.UniTuple(nb.uintp, 2)  # a row that may lie below 0 would be looked at first

# 'fast' may reorder sums and fuse multiplications. It stays off 'nnan' and 'ninf', so that a
# stray NaN in a float TIFF does not turn into undefined behaviour.
_FAST = {"reassoc", "contract", "arcp", "nsz"}
BAND = 64  # rows: a call costs nothing beside them


def compiled(function: F) -> F:
    """Compile a function for kernels to call. LLVM is told to inline it; numba's own inlining makes several
    times as much to compile, and nothing faster."""
    made: F = nb.njit(
        function, fastmath=_FAST, cache=True, nogil=True, error_model="numpy", forceinline=True
    )
    return made


def _apart(flags: Any) -> Any:
    """Say that the arrays of a call share no memory, unless none of them is written. numba says so of what it
    runs in parallel itself, and has no word for it. Without, tables are read again for each pixel, and hardly
    anything vectorises."""
    flags.noalias = True
    return flags


def _entry(function: Any) -> Any:
    dispatcher = compiled(function)
    dispatcher._compiler._customize_flags = _apart
    return dispatcher


class Compiled:
    """A function that Python calls without its lock, for the declared types of arguments alone."""

    everything: list["Compiled"] = []

    def __init__(self, function: Callable[..., Any], types: Sequence[tuple[Any, ...]]) -> None:
        self.name = f"{function.__module__}.{function.__qualname__}"
        self.types = types
        self._dispatcher = _entry(function)
        self._lock = threading.Lock()
        self._made = False
        self.everything.append(self)

    def make(self) -> None:
        """Compile, or load what was compiled."""
        with self._lock:
            if not self._made:
                for types in self.types:
                    self._dispatcher.compile(types)
                self._dispatcher.disable_compile()
                self._made = True

    def __call__(self, *arguments: Any) -> Any:
        if not self._made:
            self.make()
        return self._dispatcher(*arguments)


def serial(*types: Any) -> Callable[[F], F]:
    """A loop on one thread. types: of its arguments, or a list of them for each set."""

    def made(function: F) -> F:
        return wraps(function)(Compiled(function, _sets(types)))  # type: ignore[return-value]

    return made


def kernel(*types: Any, least: int = BAND) -> Callable[[F], F]:
    """Share the rows of a picture out over the cores.

    The function takes the rows that it is to do, (first, one past the last), and arguments of these types, or
    of one of several lists of types. What comes of it is called with the number of rows instead.
    least: rows that are worth a call.
    """

    def made(function: F) -> F:
        work = Compiled(function, [(_ROWS, *of) for of in _sets(types)])

        @wraps(function)
        def shared(count: int, *arrays: Any) -> None:
            share_out(lambda rows: work(rows, *arrays), count, least)

        return shared  # type: ignore[return-value]

    return made


def _sets(types: tuple[Any, ...]) -> list[tuple[Any, ...]]:
    return [tuple(of) for of in types] if isinstance(types[0], list) else [types]


@compiled
def between(v: Any, top: Any) -> Any:
    """From 0 to top: a place in a table, whatever light came. In this order what is no number becomes 0."""
    return min(max(f32(0.0), v), top)


@compiled
def constants(m: Any) -> Any:
    """The numbers of a matrix (3, 3), for functions that kernels call: there the compiler cannot know that no
    picture lies in an array, would read it again for each pixel, and not vectorise."""
    return (
        (m[0, 0], m[0, 1], m[0, 2]),
        (m[1, 0], m[1, 1], m[1, 2]),
        (m[2, 0], m[2, 1], m[2, 2]),
    )


@compiled
def constants_of_4(m: Any) -> Any:
    """Of each of four matrices."""
    return constants(m[0]), constants(m[1]), constants(m[2]), constants(m[3])


@compiled
def constants_of_6(m: Any) -> Any:
    """Of each of six matrices."""
    return (
        constants(m[0]), constants(m[1]), constants(m[2]), constants(m[3]), constants(m[4]), constants(m[5]),
    )  # fmt: skip


@compiled
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


@compiled
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


@compiled
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


@compiled
def smoothstep(t: Any) -> Any:
    """0 below 0, 1 above 1, and a cubic without corners between."""
    t = min(max(t, f32(0.0)), f32(1.0))
    return t * t * (f32(3.0) - f32(2.0) * t)
