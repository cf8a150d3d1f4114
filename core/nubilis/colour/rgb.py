"""RGB spaces: matrices derived from primaries and white, and sRGB's transfer curve.

Working space: linear-light Rec. 2020 primaries, D65 white, unclipped. (Rec. ITU-R BT.2020-2, table 4.)
"""

from typing import Any

import numpy as np
import numpy.typing as npt

Matrix = npt.NDArray[np.floating[Any]]

D65 = (0.3127, 0.3290)
REC2020_PRIMARIES = ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046))
SRGB_PRIMARIES = ((0.640, 0.330), (0.300, 0.600), (0.150, 0.060))


def white_xyz(xy: tuple[float, float]) -> Matrix:
    """Tristimulus values with Y = 1 of a chromaticity."""
    x, y = xy
    return np.array([x / y, 1.0, (1.0 - x - y) / y])


def rgb_to_xyz_matrix(
    primaries: tuple[tuple[float, float], ...], white: tuple[float, float]
) -> Matrix:
    """Linear RGB to CIE XYZ, Y of white = 1. Source: SMPTE RP 177 (1993), section 3.3."""
    columns = np.array([[x, y, 1.0 - x - y] for x, y in primaries]).T
    scale = np.linalg.solve(columns, white_xyz(white))
    return np.asarray(columns * scale)


REC2020_TO_XYZ = rgb_to_xyz_matrix(REC2020_PRIMARIES, D65)
XYZ_TO_REC2020: Matrix = np.linalg.inv(REC2020_TO_XYZ)
SRGB_TO_XYZ = rgb_to_xyz_matrix(SRGB_PRIMARIES, D65)
SRGB_TO_REC2020: Matrix = XYZ_TO_REC2020 @ SRGB_TO_XYZ
REC2020_TO_SRGB: Matrix = np.linalg.inv(SRGB_TO_REC2020)
LUMINANCE: Matrix = REC2020_TO_XYZ[1]


def srgb_to_linear(encoded: npt.ArrayLike) -> npt.NDArray[Any]:
    """sRGB code values 0..1 to linear light. Source: IEC 61966-2-1 (1999)."""
    v = np.asarray(encoded, dtype=np.float64)
    return np.where(v <= 0.04045, v / 12.92, ((np.maximum(v, 0.0) + 0.055) / 1.055) ** 2.4)


def linear_to_srgb(linear: npt.ArrayLike) -> npt.NDArray[Any]:
    """Linear light to sRGB code values; inverse of srgb_to_linear, unclipped above 1."""
    v = np.asarray(linear, dtype=np.float64)
    return np.where(
        v <= 0.0031308, v * 12.92, 1.055 * np.maximum(v, 0.0031308) ** (1 / 2.4) - 0.055
    )
