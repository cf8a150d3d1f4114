"""Measuring a place: a robust mean over a disc, in the units that a retoucher reads."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.chroma import luminance_of
from nubilis.colour.cielab import lab_to_linear_rgb, linear_rgb_to_lab
from nubilis.colour.kind import Kind, kind_of
from nubilis.colour.oklab import (
    linear_rgb_to_oklab,
    oklab_to_linear_rgb,
    oklab_to_oklch,
    oklch_to_oklab,
)
from nubilis.colour.profile import Profile, srgb
from nubilis.colour.temperature import (
    COLDEST,
    MOST_TINT,
    WARMEST,
    balance_matrix,
    light_of_neutral,
)
from nubilis.engine.engine import Engine
from nubilis.errors import ColourError, PlaceError
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import decode, encode
from nubilis.recipe.document import Recipe, Sample

DEFAULT_RADIUS = 0.0025  # of the long edge: 3 pixels at 1200, 15 at 6000
PATCH_REACH = 16  # pixels each way
_LARGEST_RADIUS = 200  # pixels, so that no request can ask for the whole photo


Code = tuple[int, int, int]


@dataclass(frozen=True)
class Measured:
    """rgb: linear Rec. 2020; lab: CIELAB D50; lch: OKLCh; codes: the photo's own 8-bit values; display:
    8-bit sRGB for a screen; temperature, tint: of the light under which this would be a neutral, kelvin
    and thousandths of Duv; kind: a guess at the surface; spread: standard deviation of the kept pixels
    as a distance in CIELAB; count: pixels kept."""

    rgb: tuple[float, float, float]
    lab: tuple[float, float, float]
    lch: tuple[float, float, float]
    codes: Code
    display: Code
    temperature: float
    tint: float
    kind: Kind
    spread: float
    count: int


def place_of(photo: Photo, x: float, y: float) -> tuple[float, float]:
    """Pixel coordinates of the upright photo to fractions of its long edge. Raises PlaceError."""
    if not (0 <= x < photo.width and 0 <= y < photo.height):
        raise PlaceError(
            f"{x:g},{y:g} lies outside the photo, which is {photo.width} x {photo.height}"
        )
    return (x + 0.5) / photo.long_edge, (y + 0.5) / photo.long_edge


def measure_place(
    engine: Engine,
    at: tuple[float, float],
    radius: float = DEFAULT_RADIUS,
    recipe: Recipe | None = None,
    further: Sequence[tuple[float, float]] = (),
) -> Measured:
    """Measure a disc of the untouched photo, or of the treated one when a recipe is given.

    at, radius: fractions of the long edge; further: places whose discs count with it, pixel by pixel.
    Raises PlaceError.
    """
    photo = engine.photo
    discs = []
    for place in (at, *further):
        view = _around(photo, place, radius)
        rgb = engine.untouched(view) if recipe is None else engine.render(recipe, view)
        discs.append(_kept(rgb, view, place, radius, photo.long_edge))
    kept = np.concatenate(discs, axis=1)
    mean = kept.mean(axis=1)
    lab = linear_rgb_to_lab(kept.T)
    red, green, blue = (float(v) for v in mean)
    return describe(
        (red, green, blue), photo.profile, float(np.sqrt(lab.var(axis=0).sum())), kept.shape[1]
    )


def sampled(
    engine: Engine,
    at: tuple[float, float],
    radius: float = DEFAULT_RADIUS,
    further: Sequence[tuple[float, float]] = (),
) -> Sample:
    """A place of the untouched photo, or several together, as a recipe keeps them. Raises PlaceError."""
    measured = measure_place(engine, at, radius, further=further)
    return Sample(
        at=at,
        further=tuple(further),
        radius=radius,
        rgb=measured.rgb,
        spread=measured.spread,
        count=measured.count,
    )


def describe(
    rgb: tuple[float, float, float], profile: Profile, spread: float = 0.0, count: int = 0
) -> Measured:
    """A colour in every unit. rgb: linear Rec. 2020."""
    L, a, b = (float(v) for v in linear_rgb_to_lab(rgb))
    lch = oklab_to_oklch(linear_rgb_to_oklab(rgb))
    temperature, tint = light_of_neutral(rgb)
    return Measured(
        rgb,
        (L, a, b),
        (float(lch[0]), float(lch[1]), float(lch[2])),
        _codes(rgb, profile),
        _codes(rgb, srgb()),
        temperature,
        tint,
        kind_of((L, a, b)),
        spread,
        count,
    )


def _codes(rgb: tuple[float, float, float], profile: Profile) -> Code:
    codes = encode(np.array(rgb, dtype=np.float32).reshape(3, 1, 1), profile)[0, 0]
    return int(codes[0]), int(codes[1]), int(codes[2])


def _around(photo: Photo, at: tuple[float, float], radius: float) -> View:
    x, y = at[0] * photo.long_edge, at[1] * photo.long_edge
    if not (0 <= x < photo.width and 0 <= y < photo.height):
        raise PlaceError("the place lies outside the photo")
    r = min(radius * photo.long_edge, _LARGEST_RADIUS)
    x0, y0 = max(0, int(x - r)), max(0, int(y - r))
    x1, y1 = min(photo.width, int(x + r) + 1), min(photo.height, int(y + r) + 1)
    return View((photo.width, photo.height), (x0, y0, x1, y1))


def _kept(
    rgb: Floats, view: View, at: tuple[float, float], radius: float, long_edge: int
) -> Floats:
    """Pixels (3, n) in the disc, without the darkest and lightest tenth: a speck must not count."""
    x0, y0, x1, y1 = view.region
    ys, xs = np.mgrid[y0:y1, x0:x1] + 0.5
    away = np.hypot(xs - at[0] * long_edge, ys - at[1] * long_edge)
    inside = away <= max(min(radius * long_edge, _LARGEST_RADIUS), 0.75)
    if not inside.any():
        inside[:] = True
    pixels = rgb[:, inside]
    order = np.argsort(pixels[1])
    cut = len(order) // 10
    return np.asarray(pixels[:, order[cut : len(order) - cut]])


Space = Literal["lab", "lch", "codes", "light"]
# Least and most of each value of each space.
_BOUNDS: dict[Space, tuple[tuple[float, float], ...]] = {
    "lab": ((0.0, 100.0), (-128.0, 128.0), (-128.0, 128.0)),
    "lch": ((0.0, 1.0), (0.0, 0.5), (0.0, 360.0)),
    "codes": ((0.0, 255.0),) * 3,
    "light": ((0.0, 100.0), (WARMEST, COLDEST), (-MOST_TINT, MOST_TINT)),
}


def typed(
    space: Space, values: tuple[float, float, float], profile: Profile
) -> tuple[float, float, float]:
    """A colour by its values, to linear Rec. 2020. lab: CIELAB D50; lch: OKLCh; codes: the photo's own,
    8 bit; light: L* of a grey, and kelvin and tint of the light on it. Raises ColourError."""
    for value, (least, most) in zip(values, _BOUNDS[space], strict=True):
        if not least <= value <= most:
            raise ColourError(f"{value:g} is not within {least:g} to {most:g}")
    if space == "lab":
        rgb = lab_to_linear_rgb(values)
    elif space == "lch":
        rgb = oklab_to_linear_rgb(oklch_to_oklab(np.array(values)))
    elif space == "codes":
        codes = np.rint(np.array(values)).astype(np.uint8).reshape(1, 1, 3)
        rgb = decode(codes, profile).ravel()
    else:
        lit = np.linalg.solve(balance_matrix(values[1], values[2]), np.full(3, 0.2))
        # Light scales a colour's Y, of which L* is the cube root.
        rgb = lit * ((values[0] + 16.0) / (float(linear_rgb_to_lab(lit)[0]) + 16.0)) ** 3
    red, green, blue = (float(v) for v in rgb)
    return red, green, blue


def neutral_of(rgb: tuple[float, float, float]) -> tuple[float, float, float]:
    """The made neutral of a colour's own luminance, linear Rec. 2020."""
    y = max(luminance_of(rgb), 1e-4)
    return y, y, y


def patch_around(engine: Engine, at: tuple[float, float], reach: int = PATCH_REACH) -> Floats:
    """The untouched photo's own pixels around a place, (3, n, n) with n = 2 reach + 1.

    Beyond the photo's rim its last pixel goes on. Raises PlaceError.
    """
    photo = engine.photo
    view = _around(photo, at, 0.0)
    cx, cy = view.region[:2]
    x0, y0 = max(0, cx - reach), max(0, cy - reach)
    x1, y1 = min(photo.width, cx + reach + 1), min(photo.height, cy + reach + 1)
    rgb = engine.untouched(View(view.size, (x0, y0, x1, y1)))
    rim = ((0, 0), (reach - (cy - y0), reach + 1 - (y1 - cy)),
           (reach - (cx - x0), reach + 1 - (x1 - cx)))  # fmt: skip
    return np.pad(rgb, rim, mode="edge")
