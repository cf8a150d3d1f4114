"""Neutralise: take a cast off by von Kries gains, as much as each pixel carries of it."""

import math
from typing import Annotated, Any, Literal

import numba as nb
import numpy as np
import numpy.typing as npt
from pydantic import Field

from nubilis.arrays import Floats, planar, plane
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.rgb import LUMINANCE
from nubilis.kernels import exp2, f32, kernel
from nubilis.photo.pyramid import View
from nubilis.recipe.base import Identifier, Model, Share
from nubilis.remedy.amount import AmountField
from nubilis.remedy.chroma import log_gains


class Neutralise(Model):
    """amount: 1 takes off the whole measured cast; follow: 1 as much as each pixel carries of it,
    0 the same everywhere in the mask; hold_lightness: how much of each pixel's luminance is kept."""

    id: Identifier
    kind: Literal["neutralise"] = "neutralise"
    on: bool = True
    amount: Annotated[float, Field(ge=0.0, le=1.5, allow_inf_nan=False)] = 1.0
    follow: Share = 1.0
    hold_lightness: Share = 1.0

    def strength(self, mask: Floats, tainted: Floats) -> Floats:
        """What take_off wants: mask and amount field joined, float32 (h, w)."""
        if self.follow < 1.0:
            tainted = np.float32(1.0 - self.follow) + np.float32(self.follow) * tainted
        return mask * tainted * np.float32(self.amount)


_CONES32 = REC2020_TO_CONES.astype(np.float32)
_BACK32 = CONES_TO_REC2020.astype(np.float32)
_LUMINANCE32 = LUMINANCE.astype(np.float32)


@kernel
def _apply(
    rgb: Any, strength: Any, gains: Any, hold: Any, m: Any, back: Any, lum: Any, out: Any
) -> None:
    for y in nb.prange(rgb.shape[1]):
        for x in range(rgb.shape[2]):
            s = strength[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            # What changes is computed as a difference, so that strength 0 is the identity to the bit.
            c0 = max(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b, f32(0.0)) * (
                exp2(s * gains[0]) - f32(1.0)
            )
            c1 = max(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b, f32(0.0)) * (
                exp2(s * gains[1]) - f32(1.0)
            )
            c2 = max(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b, f32(0.0)) * (
                exp2(s * gains[2]) - f32(1.0)
            )
            dr = back[0, 0] * c0 + back[0, 1] * c1 + back[0, 2] * c2
            dg = back[1, 0] * c0 + back[1, 1] * c1 + back[1, 2] * c2
            db = back[2, 0] * c0 + back[2, 1] * c1 + back[2, 2] * c2
            before = lum[0] * r + lum[1] * g + lum[2] * b
            moved = lum[0] * dr + lum[1] * dg + lum[2] * db
            keep = f32(1.0) - hold * moved / max(before + moved, f32(1e-4))
            out[0, y, x] = (r + dr) * keep
            out[1, y, x] = (g + dg) * keep
            out[2, y, x] = (b + db) * keep


def take_off(
    rgb_linear: npt.NDArray[Any],
    strength: npt.NDArray[Any],
    shift: npt.ArrayLike,
    *,
    hold_luminance: float = 1.0,
) -> Floats:
    """Divide a cast out of a picture.

    rgb_linear: float32 (3, h, w) linear Rec. 2020; strength: (h, w), 1 takes the whole cast off,
    0 leaves the pixel bit for bit as it is; shift: the cast in log chroma (2,);
    hold_luminance: 0..1, how much of every pixel's own luminance is restored.
    Returns float32 (3, h, w), unclipped. Raises ShapeError.
    Source: von Kries (1902) gains in Bradford cones (Lam 1985).
    """
    rgb = planar("rgb_linear", rgb_linear)
    s = plane("strength", strength, rgb)
    gains = (-log_gains(shift) / math.log(2.0)).astype(np.float32)
    out = np.empty_like(rgb)
    _apply(rgb, s, gains, f32(hold_luminance), _CONES32, _BACK32, _LUMINANCE32, out)
    return out


@kernel
def _read(
    coefficients: Any, rgb: Any, lum: Any, x0: Any, y0: Any, x_step: Any, y_step: Any, out: Any
) -> None:
    h, w = coefficients.shape[1:]
    for y in nb.prange(out.shape[0]):
        fy = min(max((y0 + f32(y) + f32(0.5)) * y_step - f32(0.5), f32(0.0)), f32(h - 1))
        iy = max(min(int(fy), h - 2), 0)
        ty = fy - f32(iy)
        jy = min(iy + 1, h - 1)
        # One line of coefficients between two rows, then only one direction is left to interpolate.
        line = np.empty((4, w), dtype=np.float32)
        for c in range(4):
            for i in range(w):
                line[c, i] = coefficients[c, iy, i] + ty * (
                    coefficients[c, jy, i] - coefficients[c, iy, i]
                )
        for x in range(out.shape[1]):
            fx = min(max((x0 + f32(x) + f32(0.5)) * x_step - f32(0.5), f32(0.0)), f32(w - 1))
            i = max(min(int(fx), w - 2), 0)
            j = min(i + 1, w - 1)
            t = fx - f32(i)
            slope = line[0, i] + t * (line[0, j] - line[0, i])
            offset = line[1, i] + t * (line[1, j] - line[1, i])
            least = line[2, i] + t * (line[2, j] - line[2, i])
            most = line[3, i] + t * (line[3, j] - line[3, i])
            light = lum[0] * rgb[0, y, x] + lum[1] * rgb[1, y, x] + lum[2] * rgb[2, y, x]
            guide = np.sqrt(min(max(light, f32(0.0)), f32(1.0)))
            out[y, x] = min(max(slope * guide + offset, least), most)


def read_amount(field: AmountField, rgb_linear: Floats, view: View) -> Floats:
    """The amount over a view, float32 (h, w).

    rgb_linear: the untouched photo in that view, float32 (3, h, w) linear Rec. 2020.
    """
    out = np.empty(rgb_linear.shape[1:], dtype=np.float32)
    h, w = field.coefficients.shape[1:]
    steps = f32(w / view.size[0]), f32(h / view.size[1])
    corner = f32(view.region[0]), f32(view.region[1])
    _read(field.coefficients, rgb_linear, _LUMINANCE32, *corner, *steps, out)
    return out
