"""By hue: families of hues turned, made stronger or paler, lighter or darker.

A curve over hue is a sum of wide periodic bumps, exp(k (cos d - 1)) of the distance d to each point (the
density of von Mises 1918), whose heights are solved so that the curve passes through all points: smooth to
any order, and at rest away from them. Which hue a pixel has is read from the picture without its noise, so
that skin or sky moves as a whole and never in blotches.
"""

import math
from collections.abc import Sequence
from typing import Annotated, Any, ClassVar, Literal

import cv2
import numpy as np
import numpy.typing as npt
from pydantic import Field

from nubilis import kernel_types as of
from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.cast.field import AmountField, as_field, guide_of
from nubilis.kernels import compiled, constants_of_6, exp2, f32, kernel, smoothstep
from nubilis.recipe.model import Identifier, Model
from nubilis.remedy.oklab_planes import planes_of, room_to_move, to_oklab
from nubilis.remedy.remedy import Ground, Remedy, Statistic
from nubilis.remedy.tint import matrices, relit

WIDE = 40.0  # degrees from a point at which its bump is half as high
RIDGE = 1e-3  # of a bump: points nearer than bumps are wide need not be met to the last digit
GREY = 0.05  # of OKLab chroma
# Of the smoothing that hues are read with: pixels of the analysis size, OKLab.
NEAR, ALIKE = 4.0, 0.06
ACROSS = 9  # pixels
SAME = 0.6  # of the smooth colour that a pixel has: from there on it moves with it wholly
MOST_POINTS = 12
Turn = Annotated[float, Field(ge=-60.0, le=60.0, allow_inf_nan=False)]
Signed = Annotated[float, Field(ge=-1.0, le=1.0, allow_inf_nan=False)]
Light = Annotated[float, Field(ge=-0.3, le=0.3, allow_inf_nan=False)]


class HuePoint(Model):
    """At a hue, degrees of OKLab: turn, degrees; saturation: -1 takes all chroma, 1 doubles it; light: of
    OKLab lightness. With none of them it holds its hue where it is."""

    id: Identifier
    hue: Annotated[float, Field(ge=0.0, le=360.0, allow_inf_nan=False)]
    turn: Turn = 0.0
    saturation: Signed = 0.0
    light: Light = 0.0


def _plane(channel: int) -> Statistic:
    def measure(rgb_linear: Floats) -> AmountField:
        smooth = without_noise(rgb_linear)[channel]
        return as_field(smooth, guide_of(luminance_plane(rgb_linear)))

    return Statistic(f"OKLab plane {channel} without noise", measure)


def without_noise(rgb_linear: Floats) -> Floats:
    """OKLab (3, h, w), smoothed where colours are alike (bilateral filter: Tomasi, Manduchi 1998)."""
    planes = np.ascontiguousarray(np.moveaxis(planes_of(rgb_linear), 0, -1))
    smooth = cv2.bilateralFilter(planes, ACROSS, ALIKE, NEAR)
    return np.ascontiguousarray(np.moveaxis(smooth, -1, 0))


SMOOTH = _plane(1), _plane(2)


class ByHue(Remedy):
    """width: degrees from a point at which its bump is half as high; greys: OKLab chroma up to which colours
    are held back."""

    title: ClassVar[str] = "by hue"
    statistics: ClassVar[tuple[Statistic, ...]] = SMOOTH

    kind: Literal["by-hue"] = "by-hue"
    points: Annotated[tuple[HuePoint, ...], Field(max_length=MOST_POINTS)] = ()
    width: Annotated[float, Field(ge=15.0, le=90.0, allow_inf_nan=False)] = WIDE
    greys: Annotated[float, Field(ge=0.005, le=0.2, allow_inf_nan=False)] = GREY

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        moves = heights(self.points, self.width) * self.amount
        if not moves.any():
            return rgb
        hues = np.radians([p.hue for p in self.points])
        bumps = np.stack([np.cos(hues), np.sin(hues), *moves], axis=1).astype(np.float32)
        numbers = np.array([sharpness(self.width), 1.0 / self.greys], dtype=np.float32)
        smooth = [ground.read(ground.measured(s)) for s in SMOOTH]
        out = np.empty_like(rgb)
        m = matrices(ground.to_device)
        _move(rgb.shape[1], rgb, mask, ground.settled, smooth[0], smooth[1], bumps, numbers, m, out)
        return out


def sharpness(width: float) -> float:
    """k / ln 2 of a bump that is half as high at `width` degrees."""
    return 1.0 / (1.0 - math.cos(math.radians(width)))


def heights(points: Sequence[HuePoint], width: float) -> npt.NDArray[np.float64]:
    """Of the bumps (3, n) of turn (radians), saturation and light, so that curves pass through the points."""
    wanted = np.array([[math.radians(p.turn), p.saturation, p.light] for p in points])
    if not wanted.any():
        return np.zeros((3, len(points)))
    bumps = _bumps(np.array([p.hue for p in points]), points, width)
    return np.asarray(np.linalg.solve(bumps + RIDGE * np.eye(len(points)), wanted).T)


def curves(
    points: Sequence[HuePoint], width: float, hues: npt.ArrayLike
) -> npt.NDArray[np.float64]:
    """Turn (degrees), saturation and light (3, n) at n hues, degrees."""
    at = np.asarray(hues, dtype=np.float64)
    if not points:
        return np.zeros((3, at.size))
    moves = heights(points, width) @ _bumps(at, points, width).T
    moves[0] = np.degrees(moves[0])
    return np.asarray(moves)


def _bumps(
    hues: npt.NDArray[np.float64], points: Sequence[HuePoint], width: float
) -> npt.NDArray[np.float64]:
    apart = np.radians(hues[:, None] - np.array([p.hue for p in points]))
    return np.asarray(np.exp2(sharpness(width) * (np.cos(apart) - 1.0)))


@compiled
def away_from_grey(chroma: Any, per: Any) -> Any:
    """0 at grey, 1 from a chroma of 1 / per on; slopes and bends are continuous (Perlin 2002)."""
    t = min(chroma * per, f32(1.0))
    return t * t * t * (t * (t * f32(6.0) - f32(15.0)) + f32(10.0))


@kernel(of.planes, of.plane, of.planes, of.plane, of.plane, of.plane, of.line, of.planes, of.planes)
def _move(
    rows: Any, rgb: Any, mask: Any, was: Any, smooth_a: Any, smooth_b: Any, bumps: Any, numbers: Any, m: Any,
    out: Any,
) -> None:  # fmt: skip
    """was: the settled photo, whose planes were smoothed: what earlier remedies moved is added to them."""
    m = constants_of_6(m)
    sharp, per_grey = numbers[0], numbers[1]
    for y in range(*rows):
        for x in range(rgb.shape[2]):
            w = mask[y, x]
            r, g, b = rgb[0, y, x], rgb[1, y, x], rgb[2, y, x]
            if w > f32(0.0):
                light, a, c = to_oklab(m, r, g, b)
                _, a_was, c_was = to_oklab(m, was[0, y, x], was[1, y, x], was[2, y, x])
                sa = smooth_a[y, x] + a - a_was
                sc = smooth_b[y, x] + c - c_was
                chroma = np.sqrt(sa * sa + sc * sc)
                per = f32(1.0) / max(chroma, f32(1e-6))
                ua, uc = sa * per, sc * per
                turn = more = lighter = f32(0.0)
                for i in range(bumps.shape[0]):
                    near = exp2(sharp * (ua * bumps[i, 0] + uc * bumps[i, 1] - f32(1.0)))
                    turn += near * bumps[i, 2]
                    more += near * bumps[i, 3]
                    lighter += near * bumps[i, 4]
                # A thread of another colour, finer than what was smoothed, does not move along.
                alike = (a * ua + c * uc) * per * f32(1.0 / SAME)
                w *= away_from_grey(chroma, per_grey) * smoothstep(alike)
                turn *= w
                gain = max(f32(1.0) + w * more, f32(0.0))
                cosine, sine = gain * np.cos(turn), gain * np.sin(turn)
                # The step is that of the smooth colour: the pixel's own noise is not made stronger.
                a += cosine * sa - sine * sc - sa
                c += sine * sa + cosine * sc - sc
                new = light + w * lighter * room_to_move(light)
                r, g, b = relit(m, r, g, b, light, new, a, c)
            out[0, y, x], out[1, y, x], out[2, y, x] = r, g, b
