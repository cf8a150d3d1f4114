"""Curves: monotone ones over lightness, over the photo's own channels, and over their opposites, the inks.

Between points a curve is a cubic whose slopes are limited so that it never turns back (Fritsch, Carlson 1980,
"Monotone piecewise cubic interpolation", with the slopes of Fritsch, Butland 1984).
"""

from itertools import pairwise
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field, field_validator

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.colour.transfer import coded
from nubilis.colour.transfer import light as light_of
from nubilis.kernels import between, compiled, constants, constants_of_6, f32, kernel
from nubilis.recipe.model import Share
from nubilis.remedy.oklab_planes import to_oklab
from nubilis.remedy.remedy import Ground, Remedy
from nubilis.remedy.tint import matrices, relit

ENTRIES = 1024  # of a curve's table
NAMES = ("lightness", "red", "green", "blue", "cyan", "magenta", "yellow", "black")
LEAST_APART = 0.01
Curve = Annotated[tuple[tuple[Share, Share], ...], Field(max_length=16)]


class Curves(Remedy):
    """Points (from, to), 0..1 each, of OKLab lightness; of the photo's own channels as code values have them
    (sRGB's curve); of their opposites; and of the black that three inks have in common. A curve without
    points is at rest."""

    title: ClassVar[str] = "curves"

    kind: Literal["curves"] = "curves"
    lightness: Curve = ()
    red: Curve = ()
    green: Curve = ()
    blue: Curve = ()
    cyan: Curve = ()
    magenta: Curve = ()
    yellow: Curve = ()
    black: Curve = ()

    @field_validator(*NAMES)
    @classmethod
    def _rising(cls, curve: Curve) -> Curve:
        ordered = tuple(sorted(curve))
        for (x0, y0), (x1, y1) in pairwise(ordered):
            if x1 - x0 < LEAST_APART - 1e-9:
                raise ValueError(f"points of a curve lie at least {LEAST_APART} apart")
            if y1 < y0:
                raise ValueError("a curve never falls")
        return ordered

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        given = [getattr(self, name) for name in NAMES]
        if not any(given):
            return rgb
        tables = np.stack([table(curve) for curve in given]).astype(np.float32)
        bent = np.array([bool(curve) for curve in given])
        back = np.linalg.inv(ground.to_device).astype(np.float32)
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _bend(
            rgb.shape[1], rgb, mask * np.float32(min(self.amount, 1.0)), tables, bent, back, m, out
        )
        return out


def table(curve: Curve) -> npt.NDArray[np.float64]:
    """A curve at ENTRIES even places from 0 to 1; flat beyond its outermost points, from corner to corner
    where it has none."""
    at = np.linspace(0.0, 1.0, ENTRIES)
    return at if not curve else value_at(curve, at)


def value_at(curve: Curve, at: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """A curve's values; one point alone bends the diagonal."""
    points = np.array(_with_corners(curve))
    x, y = points.T
    wide, slope = np.diff(x), np.diff(y) / np.diff(x)
    slopes = np.concatenate([[slope[0]], np.zeros(len(x) - 2), [slope[-1]]])
    if len(x) > 2:
        before, after = slope[:-1], slope[1:]
        w0, w1 = 2.0 * wide[1:] + wide[:-1], wide[1:] + 2.0 * wide[:-1]
        both = np.minimum(before, after) > 1e-9  # neither falls
        mean = (w0 + w1) / (w0 / np.where(both, before, 1.0) + w1 / np.where(both, after, 1.0))
        slopes[1:-1] = np.where(both, mean, 0.0)
    i = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(x) - 2)
    t = np.clip((at - x[i]) / wide[i], 0.0, 1.0)
    h00, h10 = (1.0 + 2.0 * t) * (1.0 - t) ** 2, t * (1.0 - t) ** 2
    h01, h11 = t * t * (3.0 - 2.0 * t), t * t * (t - 1.0)
    value = h00 * y[i] + h10 * wide[i] * slopes[i] + h01 * y[i + 1] + h11 * wide[i] * slopes[i + 1]
    return np.asarray(np.clip(value, 0.0, 1.0))


def _with_corners(curve: Curve) -> list[tuple[float, float]]:
    """Ends that were not set stay in their corners."""
    points = list(curve)
    if points[0][0] > LEAST_APART:
        points.insert(0, (0.0, 0.0))
    if points[-1][0] < 1.0 - LEAST_APART:
        points.append((1.0, 1.0))
    return points


@compiled
def _bent(table: Any, v: Any) -> Any:
    """A curve's value; outside 0..1 as far beyond the end as before."""
    inside = between(v, f32(1.0))
    f = inside * f32(ENTRIES - 1)
    i = min(int(f), ENTRIES - 2)
    low = table[i]
    return low + (f - f32(i)) * (table[i + 1] - low) + (v - inside)


@kernel(of.planes, of.plane, of.plane, of.flags, of.plane, of.planes, of.planes)
def _bend(
    rows: Any, rgb: Any, share: Any, tables: Any, bent: Any, back: Any, m: Any, out: Any
) -> None:
    m, back = constants_of_6(m), constants(back)
    channels = bent[1] or bent[2] or bent[3] or bent[4] or bent[5] or bent[6] or bent[7]
    one = f32(1.0)
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = share[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                nr, ng, nb_ = r, g, b
                if channels:
                    u0 = coded(m[4][0][0] * r + m[4][0][1] * g + m[4][0][2] * b)
                    u1 = coded(m[4][1][0] * r + m[4][1][1] * g + m[4][1][2] * b)
                    u2 = coded(m[4][2][0] * r + m[4][2][1] * g + m[4][2][2] * b)
                    v0 = one - _bent(tables[4], one - _bent(tables[1], u0))
                    v1 = one - _bent(tables[5], one - _bent(tables[2], u1))
                    v2 = one - _bent(tables[6], one - _bent(tables[3], u2))
                    ink = one - max(v0, v1, v2)
                    more = _bent(tables[7], ink) - ink
                    v0, v1, v2 = light_of(v0 - more), light_of(v1 - more), light_of(v2 - more)
                    nr = back[0][0] * v0 + back[0][1] * v1 + back[0][2] * v2
                    ng = back[1][0] * v0 + back[1][1] * v1 + back[1][2] * v2
                    nb_ = back[2][0] * v0 + back[2][1] * v1 + back[2][2] * v2
                if bent[0]:
                    light, a, c = to_oklab(m, nr, ng, nb_)
                    nr, ng, nb_ = relit(m, nr, ng, nb_, light, _bent(tables[0], light), a, c)
                r, g, b = r + w * (nr - r), g + w * (ng - g), b + w * (nb_ - b)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
