"""The colour of light by temperature and tint, and the photo rebalanced for it."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from nubilis.colour.adaptation import BRADFORD, D65_XYZ, adaptation_matrix
from nubilis.colour.rgb import REC2020_TO_XYZ, XYZ_TO_REC2020, Matrix

NEUTRAL_KELVIN = 6504.0  # the light that a photo as it comes is balanced for
COLDEST, WARMEST = 15000.0, 2000.0
TINT_UNIT = 1e-3  # Duv
MOST_TINT = 50.0


def locus(kelvin: Matrix) -> Matrix:
    """Chromaticity (u, v) of CIE 1960 of black bodies, (n, 2). Source: Krystek (1985), equation 3."""
    t = np.atleast_1d(np.asarray(kelvin, dtype=np.float64))
    u = (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) / (
        1.0 + 8.42420235e-4 * t + 7.08145163e-7 * t * t
    )
    v = (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) / (
        1.0 - 2.89741816e-5 * t + 1.61456053e-7 * t * t
    )
    return np.stack([u, v], axis=1)


def _normal(kelvin: float) -> Matrix:
    """The unit vector (u, v) across the locus, towards green."""
    warm, cold = locus(np.array([kelvin * 0.999, kelvin * 1.001]))
    along = (warm - cold) / np.hypot(*(warm - cold))
    return np.array([-along[1], along[0]])


def light_xyz(kelvin: float, tint: float) -> Matrix:
    """Tristimulus values, Y = 1, of a light; tint in thousandths of Duv."""
    u, v = locus(np.array([kelvin]))[0] + tint * TINT_UNIT * _normal(kelvin)
    # CIE 1960 to XYZ at Y = 1.
    return np.array([1.5 * u / v, 1.0, (4.0 - u - 10.0 * v) / (2.0 * v)])


def balance_matrix(kelvin: float, tint: float) -> Matrix:
    """Linear Rec. 2020 (3, 3): what a light made coloured becomes neutral."""
    neutral = light_xyz(NEUTRAL_KELVIN, 0.0)
    adapted = adaptation_matrix(light_xyz(kelvin, tint), neutral)
    return np.asarray(XYZ_TO_REC2020 @ adapted @ REC2020_TO_XYZ)


def light_of_neutral(rgb: Sequence[float]) -> tuple[float, float]:
    """Temperature and tint under which a colour, linear Rec. 2020, is a neutral; held to their ranges.

    The nearest point of the locus is searched in mireds, as in Ohno (2014).
    """
    red, green, blue = (float(v) for v in rgb)
    return _light_of_neutral((red, green, blue))


@lru_cache(maxsize=2048)  # a proof asks for the same samples again and again
def _light_of_neutral(rgb: tuple[float, float, float]) -> tuple[float, float]:
    cones = BRADFORD @ (REC2020_TO_XYZ @ np.maximum(np.asarray(rgb, dtype=np.float64), 1e-6))
    neutral = BRADFORD @ light_xyz(NEUTRAL_KELVIN, 0.0)
    x, y, z = np.linalg.solve(BRADFORD, cones * neutral / (BRADFORD @ D65_XYZ))
    total = x + 15.0 * y + 3.0 * z
    uv = np.array([4.0 * x, 6.0 * y]) / total
    low, high = 1e6 / COLDEST, 1e6 / WARMEST
    for _ in range(4):
        mired = np.linspace(low, high, 101)
        away = np.hypot(*(locus(1e6 / mired) - uv).T)
        at, step = mired[int(away.argmin())], mired[1] - mired[0]
        low, high = max(at - step, 1e6 / COLDEST), min(at + step, 1e6 / WARMEST)
    kelvin = float(1e6 / at)
    tint = float((uv - locus(np.array([kelvin]))[0]) @ _normal(kelvin)) / TINT_UNIT
    return kelvin, min(max(tint, -MOST_TINT), MOST_TINT)
