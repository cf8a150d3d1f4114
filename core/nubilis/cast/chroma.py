"""Log cone chroma: the plane in which a cast is a shift.

Light of another colour multiplies the cone signals (von Kries), so in the logarithm it adds. What
it adds along (1, 1, 1) is brightness; the rest is a vector in the plane spanned here by N1 and N2.
"""

import math
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis import kernel_types as of
from nubilis.arrays import Floats, planar
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import constants, f32, kernel, log

FLOOR = 1e-3  # of the cone signal of white: below it lies noise, whose logarithm says nothing
N1 = np.array([1.0, -1.0, 0.0]) / math.sqrt(2.0)
N2 = np.array([1.0, 1.0, -2.0]) / math.sqrt(6.0)
_AXES = np.stack([N1, N2])
_CONES32 = REC2020_TO_CONES.astype(np.float32)
_LUMINANCE32 = LUMINANCE.astype(np.float32)


def chroma_of(rgb_linear: npt.ArrayLike) -> npt.NDArray[np.float64]:
    """Log cone chroma (2,) of one colour, linear Rec. 2020 (3,)."""
    cones = np.maximum(REC2020_TO_CONES @ np.asarray(rgb_linear, dtype=np.float64), FLOOR)
    return np.asarray(_AXES @ np.log(cones))


def luminance_of(rgb_linear: npt.ArrayLike) -> float:
    """Relative luminance of one colour, white = 1."""
    return float(LUMINANCE @ np.asarray(rgb_linear, dtype=np.float64))


def levelled(
    rgb_linear: tuple[float, float, float], like: tuple[float, float, float]
) -> tuple[float, float, float]:
    """A colour under as much light as another has: same paint, same hue, the other's luminance."""
    factor = max(luminance_of(like), 1e-6) / max(luminance_of(rgb_linear), 1e-6)
    red, green, blue = (c * factor for c in rgb_linear)
    return red, green, blue


def log_gains(shift: npt.ArrayLike) -> npt.NDArray[np.float64]:
    """Natural-log cone gains (3,) of a cast `shift` in log chroma, scaled to keep a neutral's luminance."""
    k = np.asarray(shift, dtype=np.float64) @ _AXES
    return np.asarray(k - math.log(float(LUMINANCE @ CONES_TO_REC2020 @ np.exp(k))))


@kernel(of.planes, of.plane, of.line, of.planes)
def _planes(rows: Any, rgb: Floats, m: Floats, lum: Floats, out: Floats) -> None:
    m = constants(m)
    floor = f32(FLOOR)
    s1 = f32(math.sqrt(0.5))
    s2 = f32(1.0 / math.sqrt(6.0))
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            l = log(max(m[0][0] * r + m[0][1] * g + m[0][2] * b, floor))
            n = log(max(m[1][0] * r + m[1][1] * g + m[1][2] * b, floor))
            s = log(max(m[2][0] * r + m[2][1] * g + m[2][2] * b, floor))
            out[0, y, x] = (l - n) * s1
            out[1, y, x] = (l + n - s - s) * s2
            out[2, y, x] = (l + n + s) * f32(1.0 / 3.0)
            out[3, y, x] = max(lum[0] * r + lum[1] * g + lum[2] * b, f32(0.0))


def luminance_plane(rgb_linear: Floats) -> Floats:
    """Relative luminance (h, w) of a planar picture, linear Rec. 2020, never below 0."""
    return np.maximum(np.tensordot(_LUMINANCE32, rgb_linear, axes=1), np.float32(0.0))


def chroma_planes(rgb_linear: npt.NDArray[Any]) -> Floats:
    """(4, h, w): log chroma along N1 and N2, mean log cone signal, relative luminance.

    rgb_linear: float32 (3, h, w) linear Rec. 2020. Raises ShapeError.
    """
    rgb = planar("rgb_linear", rgb_linear)
    out = np.empty((4, *rgb.shape[1:]), dtype=np.float32)
    _planes(rgb.shape[1], rgb, _CONES32, _LUMINANCE32, out)
    return out
