"""Colour figures by a library of another make than ours; only tests know it."""

import warnings
from typing import Any

import numba  # noqa: F401 (before the other, which puts a dummy in the place of a missing scipy)
import numpy as np
import numpy.typing as npt

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # it misses libraries for drawing, which nobody asks of it
    import colour

Values = npt.NDArray[np.float64]
D65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
D50 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D50"]


def xyz(linear: npt.NDArray[Any]) -> Values:
    """Linear Rec. 2020 (..., 3) to XYZ under D65."""
    space = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
    return np.asarray(colour.RGB_to_XYZ(linear, space, apply_cctf_decoding=False))


def lab(linear: npt.NDArray[Any]) -> Values:
    """Linear Rec. 2020 (..., 3) to CIELAB D50."""
    return lab_of_xyz(xyz(linear))


def lab_of_xyz(values: npt.NDArray[Any]) -> Values:
    """XYZ under D65 (..., 3), adapted, to CIELAB D50."""
    white, paper = colour.xy_to_XYZ(D65), colour.xy_to_XYZ(D50)
    ways = {"method": "Von Kries", "transform": "Bradford"}
    return np.asarray(
        colour.XYZ_to_Lab(colour.chromatic_adaptation(values, white, paper, **ways), D50)
    )


def lab_of_srgb(codes: npt.NDArray[np.uint8]) -> Values:
    """sRGB code values (h, w, 3) to CIELAB D50."""
    return lab_of_xyz(colour.sRGB_to_XYZ(codes / 255.0))


def lab_of_planes(planes: npt.NDArray[Any]) -> Values:
    """(3, h, w) to (h, w, 3)."""
    return lab(np.moveaxis(planes.astype(np.float64), 0, 2))


def difference(one: Values, two: Values) -> Values:
    """CIEDE2000."""
    return np.asarray(colour.delta_E(one, two, method="CIE 2000"))


def oklab(linear: npt.NDArray[Any]) -> Values:
    return np.asarray(colour.XYZ_to_Oklab(xyz(linear)))


def temperature(light: npt.NDArray[Any]) -> tuple[float, float]:
    """Correlated colour temperature, kelvin, and Duv of a light's XYZ (Ohno 2013)."""
    uv = colour.UCS_to_uv(colour.XYZ_to_UCS(light))
    kelvin, duv = colour.temperature.uv_to_CCT_Ohno2013(uv)
    return float(kelvin), float(duv)
