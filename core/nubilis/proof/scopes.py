"""The instruments: what colours an area holds, before and now."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.cielab import lab_planes, lab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.colour.skin import LEAST, Skin, off_line, skin_like
from nubilis.engine.engine import Engine
from nubilis.engine.sample import measure_place
from nubilis.errors import PlaceError
from nubilis.people.people import Face
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.proof.known_skin import known_skin
from nubilis.proof.plane import BINS, Plane, density, drawn, outline
from nubilis.recipe.document import Recipe

EDGE = 320  # pixels: enough to count colours, few enough to follow a handle
AB_RANGE = 100.0  # CIELAB at zoom 1
CHROMA_RANGE = 0.5  # Cb, Cr at zoom 1
LEVELS = 64
SHOWN_LIGHT = 62.0  # L* in which the a-b plane's colours are drawn

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Area:
    """cast: the mask of that cast; box: x0, y0, x1, y1 as fractions of the long edge; else the photo.
    skin_at: a place that is skin, if the editor has shown one; faces: of the people who are known."""

    cast: str | None = None
    box: Box | None = None
    skin_at: tuple[float, float] | None = None
    faces: tuple[Face, ...] = ()


@dataclass(frozen=True, eq=False)
class Scopes:
    """vectorscope: Cb, Cr of Rec. ITU-R BT.709 on the display's code values; ab: CIELAB D50;
    before, now: (4, LEVELS), how much there is of each L*, R, G, B, the fullest before being 1;
    empty: nothing lies in the area."""

    vectorscope: Plane
    ab: Plane
    before: Floats
    now: Floats
    skin: Skin | None
    empty: bool


def scopes(engine: Engine, recipe: Recipe, area: Area = Area(), zoom: float = 1.0) -> Scopes:
    """before: the settled photo; now: treated. zoom: how much the planes are enlarged about neutral.
    Raises PlaceError."""
    view = View.fit(engine.photo, EDGE)
    weight = _weight(engine, recipe, area, view)
    pictures = [engine.render(r, view) for r in (recipe.uncast, recipe)]
    codes = [_codes(rgb) for rgb in pictures]
    chroma = [_chroma(c) for c in codes]
    lab = [lab_planes(np.maximum(rgb, 0.0)) for rgb in pictures]
    levels = [_levels(lb, c, weight) for lb, c in zip(lab, codes, strict=True)]
    fullest = max(float(levels[0].max()), 1e-9)
    return Scopes(
        _plane(chroma, weight, CHROMA_RANGE / zoom, _chroma_colours(zoom)),
        _plane([lb[1:] for lb in lab], weight, AB_RANGE / zoom, _ab_colours(zoom)),
        levels[0] / fullest,
        levels[1] / fullest,
        _skin(engine, recipe, area, weight, lab[0], chroma),
        not weight.any(),
    )


def _weight(engine: Engine, recipe: Recipe, area: Area, view: View) -> Floats:
    h, w = view.shape
    if area.box is not None:
        long_edge = max(h, w)
        x0, y0, x1, y1 = (round(v * long_edge) for v in area.box)
        weight = np.zeros((h, w), dtype=np.float32)
        weight[y0 : max(y1, y0 + 1), x0 : max(x1, x0 + 1)] = 1.0
        return weight
    cast = next((c for c in recipe.casts if c.id == area.cast), None)
    if area.cast is not None and cast is None:
        raise PlaceError("the recipe has no such cast")
    if cast is None:
        return np.ones((h, w), dtype=np.float32)
    return engine.mask(cast.mask, view, recipe.state)


def _codes(rgb: Floats) -> Floats:
    """Display code values 0..1, (3, h, w)."""
    return np.moveaxis(encode(rgb, srgb()).astype(np.float32) / np.float32(255.0), 2, 0)


def _chroma(codes: Floats) -> Floats:
    """Cb, Cr (2, h, w), each -.5..+.5. Source: Rec. ITU-R BT.709-6, item 3.3."""
    r, g, b = codes
    luma = 0.2126 * r + 0.7152 * g + 0.0722 * b
    return np.stack([(b - luma) / 1.8556, (r - luma) / 1.5748])


def _levels(lab: Floats, codes: Floats, weight: Floats) -> Floats:
    channels = (lab[0] / 100.0, *codes)
    at = [np.clip(c * LEVELS, 0, LEVELS - 1).astype(np.int32) for c in channels]
    return np.stack([np.bincount(i.ravel(), weight.ravel(), LEVELS) for i in at]).astype(np.float32)


def _plane(of: list[Floats], weight: Floats, half_range: float, colours: Codes) -> Plane:
    before, now = (density(p[0], p[1], weight, half_range) for p in of)
    return Plane(drawn(now, colours), outline(before))


def _skin(
    engine: Engine, recipe: Recipe, area: Area, weight: Floats, lab: Floats, chroma: list[Floats]
) -> Skin | None:
    if area.skin_at is not None:
        before, now = (_angle_at(engine, area.skin_at, r) for r in (recipe.uncast, recipe))
        return Skin(before, now, 1.0)
    there = known_skin(recipe, area.faces, View.fit(engine.photo, EDGE))
    like = skin_like(lab) * there * weight
    share = float(like.sum() / max(float(weight.sum()), 1e-9))
    if share < LEAST:
        return None
    return Skin(off_line(chroma[0], like), off_line(chroma[1], like), share)


def _angle_at(engine: Engine, at: tuple[float, float], recipe: Recipe) -> float:
    return skin_angle(measure_place(engine, at, recipe=recipe).rgb)


def skin_angle(rgb: tuple[float, float, float]) -> float:
    """Degrees by which a colour lies off the skin line, positive towards yellow. rgb: linear Rec. 2020."""
    codes = _codes(np.array(rgb, dtype=np.float32).reshape(3, 1, 1))
    return off_line(_chroma(codes), np.ones((1, 1), dtype=np.float32))


def _grid(half_range: float) -> tuple[Floats, Floats]:
    steps = ((np.arange(BINS) + 0.5) * 2.0 / BINS - 1.0) * half_range
    return np.meshgrid(steps, -steps)


@cache
def _ab_colours(zoom: float) -> Codes:
    a, b = _grid(AB_RANGE / zoom)
    rgb = lab_to_linear_rgb(np.stack([np.full_like(a, SHOWN_LIGHT), a, b], axis=-1))
    return encode(np.ascontiguousarray(np.moveaxis(rgb, 2, 0), dtype=np.float32), srgb())


@cache
def _chroma_colours(zoom: float) -> Codes:
    cb, cr = _grid(CHROMA_RANGE / zoom)
    luma = 0.5
    r, b = luma + 1.5748 * cr, luma + 1.8556 * cb
    g = (luma - 0.2126 * r - 0.0722 * b) / 0.7152
    return np.asarray(np.clip(np.dstack([r, g, b]), 0.0, 1.0) * 255.0 + 0.5, dtype=np.uint8)
