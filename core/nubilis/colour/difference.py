"""CIEDE2000. Source: Sharma, Wu, Dalal (2005), "The CIEDE2000 color-difference formula", eqs. 2-22."""

import math
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats, planar
from nubilis.errors import ShapeError
from nubilis.kernels import compiled, kernel, serial

_25_TO_7 = 25.0**7


@compiled
def _ciede2000(L1: float, a1: float, b1: float, L2: float, a2: float, b2: float) -> float:
    mean_c7 = ((math.hypot(a1, b1) + math.hypot(a2, b2)) / 2.0) ** 7
    stretch = 1.5 - 0.5 * math.sqrt(mean_c7 / (mean_c7 + _25_TO_7))
    a1 *= stretch
    a2 *= stretch
    C1 = math.hypot(a1, b1)
    C2 = math.hypot(a2, b2)
    h1 = math.atan2(b1, a1) % (2.0 * math.pi)
    h2 = math.atan2(b2, a2) % (2.0 * math.pi)
    dh = 0.0
    h_mean = h1 + h2
    if C1 * C2 != 0.0:
        dh = h2 - h1
        h_mean /= 2.0
        if abs(dh) > math.pi:
            h_mean += math.pi if h_mean < math.pi else -math.pi
            dh += 2.0 * math.pi if dh < 0.0 else -2.0 * math.pi
    dL = L2 - L1
    dC = C2 - C1
    dH = 2.0 * math.sqrt(C1 * C2) * math.sin(dh / 2.0)
    L_mean = (L1 + L2) / 2.0
    C_mean = (C1 + C2) / 2.0
    T = (
        1.0
        - 0.17 * math.cos(h_mean - math.pi / 6.0)
        + 0.24 * math.cos(2.0 * h_mean)
        + 0.32 * math.cos(3.0 * h_mean + math.pi / 30.0)
        - 0.20 * math.cos(4.0 * h_mean - 63.0 * math.pi / 180.0)
    )
    turn = math.pi / 6.0 * math.exp(-(((math.degrees(h_mean) - 275.0) / 25.0) ** 2))
    c7 = C_mean**7
    rotation = -2.0 * math.sqrt(c7 / (c7 + _25_TO_7)) * math.sin(2.0 * turn)
    lightness = (L_mean - 50.0) ** 2
    l_term = dL / (1.0 + 0.015 * lightness / math.sqrt(20.0 + lightness))
    c_term = dC / (1.0 + 0.045 * C_mean)
    h_term = dH / (1.0 + 0.015 * C_mean * T)
    total = l_term**2 + c_term**2 + h_term**2 + rotation * c_term * h_term
    return math.sqrt(max(total, 0.0))


@serial(*[of.double] * 6)
def _between_two(L1: float, a1: float, b1: float, L2: float, a2: float, b2: float) -> float:
    return _ciede2000(L1, a1, b1, L2, a2, b2)


@kernel(of.planes, of.planes, of.plane)
def _planes(rows: Any, one: Floats, two: Floats, out: Floats) -> None:
    for y in range(*rows):
        for x in range(out.shape[1]):
            L1, a1, b1 = one[0, y, x], one[1, y, x], one[2, y, x]
            L2, a2, b2 = two[0, y, x], two[1, y, x], two[2, y, x]
            # Outside the masks nothing differs, and the formula is long.
            same = L1 == L2 and a1 == a2 and b1 == b2
            out[y, x] = 0.0 if same else _ciede2000(L1, a1, b1, L2, a2, b2)


def ciede2000(one: npt.ArrayLike, two: npt.ArrayLike) -> float:
    """Difference between two colours, each L*, a*, b*. Weights kL = kC = kH = 1."""
    L1, a1, b1 = (float(v) for v in np.asarray(one, dtype=np.float64))
    L2, a2, b2 = (float(v) for v in np.asarray(two, dtype=np.float64))
    return float(_between_two(L1, a1, b1, L2, a2, b2))


def as_light_apart(one: npt.ArrayLike, two: npt.ArrayLike) -> float:
    """The same, as if both were as light as their mean."""
    (L1, a1, b1), (L2, a2, b2) = np.asarray(one), np.asarray(two)
    mean = (L1 + L2) / 2.0
    return ciede2000((mean, a1, b1), (mean, a2, b2))


def difference_plane(lab_one: npt.NDArray[Any], lab_two: npt.NDArray[Any]) -> Floats:
    """Differences between two pictures in CIELAB, float32 (3, h, w) each. Returns (h, w).

    Raises ShapeError.
    """
    one = planar("lab_one", lab_one)
    two = planar("lab_two", lab_two)
    if one.shape != two.shape:
        raise ShapeError("lab_two", str(one.shape), two.shape)
    out = np.empty(one.shape[1:], dtype=np.float32)
    _planes(len(out), one, two, out)
    return out
