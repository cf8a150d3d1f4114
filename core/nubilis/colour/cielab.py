"""CIELAB with white D50: the space of all figures. Source: CIE 15:2018, section 8.2.1."""

from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats, planar
from nubilis.colour.adaptation import D50_XYZ, D65_TO_D50
from nubilis.colour.rgb import REC2020_TO_XYZ, Matrix
from nubilis.kernels import cbrt, compiled, constants, f32, kernel

EPSILON = 216.0 / 24389.0
KAPPA = 24389.0 / 27.0

# Linear Rec. 2020 to XYZ under D50, each divided by the white's.
REC2020_TO_RELATIVE_XYZ: Matrix = (D65_TO_D50 @ REC2020_TO_XYZ) / D50_XYZ[:, None]
REC2020_TO_RELATIVE_XYZ /= REC2020_TO_RELATIVE_XYZ.sum(axis=1, keepdims=True)
_TO_XYZ32 = REC2020_TO_RELATIVE_XYZ.astype(np.float32)
_FROM_RELATIVE_XYZ: Matrix = np.linalg.inv(REC2020_TO_RELATIVE_XYZ)


def linear_rgb_to_lab(rgb_linear: npt.ArrayLike) -> npt.NDArray[Any]:
    """Linear Rec. 2020 (..., 3) to CIELAB D50 (..., 3), float64. For samples; pictures: lab_planes."""
    x = np.asarray(rgb_linear, dtype=np.float64) @ REC2020_TO_RELATIVE_XYZ.T
    f = np.where(x > EPSILON, np.cbrt(np.maximum(x, EPSILON)), (KAPPA * x + 16.0) / 116.0)
    return np.stack(
        [
            116.0 * f[..., 1] - 16.0,
            500.0 * (f[..., 0] - f[..., 1]),
            200.0 * (f[..., 1] - f[..., 2]),
        ],
        axis=-1,
    )


def lab_to_linear_rgb(lab_d50: npt.ArrayLike) -> npt.NDArray[Any]:
    """CIELAB D50 (..., 3) to linear Rec. 2020 (..., 3), float64, unclipped."""
    lab = np.asarray(lab_d50, dtype=np.float64)
    fy = (lab[..., 0] + 16.0) / 116.0
    f = np.stack([fy + lab[..., 1] / 500.0, fy, fy - lab[..., 2] / 200.0], axis=-1)
    x = np.where(f**3 > EPSILON, f**3, (116.0 * f - 16.0) / KAPPA)
    return np.asarray(x @ _FROM_RELATIVE_XYZ.T)


@compiled
def _curve(x: Any) -> Any:
    if x > f32(EPSILON):
        return cbrt(x)
    return (f32(KAPPA) * x + f32(16.0)) * f32(1.0 / 116.0)


@kernel(of.planes, of.plane, of.planes)
def _lab_planes(rows: Any, rgb: Floats, m: Floats, out: Floats) -> None:
    m = constants(m)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            fx = _curve(m[0][0] * r + m[0][1] * g + m[0][2] * b)
            fy = _curve(m[1][0] * r + m[1][1] * g + m[1][2] * b)
            fz = _curve(m[2][0] * r + m[2][1] * g + m[2][2] * b)
            out[0, y, x] = f32(116.0) * fy - f32(16.0)
            out[1, y, x] = f32(500.0) * (fx - fy)
            out[2, y, x] = f32(200.0) * (fy - fz)


def lab_planes(rgb_linear: Floats) -> Floats:
    """A picture's CIELAB D50. rgb_linear: float32 (3, h, w) linear Rec. 2020. Returns (3, h, w).

    Raises ShapeError.
    """
    rgb = planar("rgb_linear", rgb_linear)
    out = np.empty_like(rgb)
    _lab_planes(rgb.shape[1], rgb, _TO_XYZ32, out)
    return out
