"""What a remedy that shapes colours is set over: the colours it finds, its curves, its warped plane."""

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.acting import casts_until
from nubilis.engine.engine import Engine, around_place
from nubilis.errors import PlaceError
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.proof.plane import BINS, density, drawn
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.model import Place
from nubilis.remedy.by_hue import ByHue, curves
from nubilis.remedy.curves import NAMES, Curves, value_at
from nubilis.remedy.in_plane import InPlane
from nubilis.remedy.kinds import AnyRemedy
from nubilis.remedy.oklab_planes import planes_of
from nubilis.remedy.warp import AXIS, Warp

EDGE = 320  # pixels: enough to count colours, few enough to follow a handle
HUES = 72  # bins
EVERY = 5.0  # degrees at which curves over hue are told
COLOURED = 0.03  # OKLab chroma from which on a hue counts in full
LEVELS = 64
CURVE = 65  # places at which a curve is told
PLANE_RANGE = 0.25  # OKLab a, b of the sheet
SHOWN_LIGHT = 0.68  # OKLab lightness in which its colours are drawn
LINES = 13  # of the warped plane, each way
Way = list[tuple[float, float]]
Tone = Literal["dark", "light"]


@dataclass(frozen=True, eq=False)
class Shaping:
    """hues: how much there is of each hue as the remedy finds them, (HUES,), the fullest 1; levels: of
    lightness and the photo's channels as displayed, (4, LEVELS), the fullest of each 1; plane: RGBA of the
    colours found, over a and b within PLANE_RANGE; by_hue: turn, saturation and light every EVERY degrees;
    curves: by name, at CURVE even places; lines: of the warped plane of dark and light tones; reached: where
    dragged colours come to, by id; at: OKLab lightness, a, b of a place that was asked for."""

    hues: Floats
    levels: Floats
    plane: Codes
    by_hue: Floats
    curves: dict[str, Floats] = field(default_factory=dict)
    lines: dict[Tone, list[Way]] = field(default_factory=dict)
    reached: dict[str, tuple[float, float]] = field(default_factory=dict)
    at: tuple[float, float, float] | None = None


def shaping(
    engine: Engine, recipe: Recipe, cast_id: str, remedy_id: str, at: Place | None = None
) -> Shaping:
    """Of one remedy of a cast. Raises PlaceError."""
    cast, remedy = _found(recipe, cast_id, remedy_id)
    view = View.fit(engine.photo, EDGE)
    rgb = engine.found_by(recipe.state, [*_earlier(recipe, cast), cast], remedy_id, view)
    weight = engine.mask(cast.mask, view, recipe.state)
    if not weight.any():
        weight = np.ones_like(weight)
    lab = planes_of(rgb)
    in_plane = remedy if isinstance(remedy, InPlane) else None
    return Shaping(
        _hues(lab, weight),
        _levels(lab, rgb, weight),
        drawn(density(lab[1], lab[2], weight, PLANE_RANGE), _plane_colours()),
        _over_hue(remedy),
        _drawn_curves(remedy),
        {tone: _lines(warp) for tone, warp in _warps(in_plane)} if in_plane else {},
        in_plane.reached() if in_plane else {},
        None if at is None else _colour_at(rgb, at, view),
    )


def _found(recipe: Recipe, cast_id: str, remedy_id: str) -> tuple[Cast, AnyRemedy]:
    for cast in recipe.settled_casts():
        for remedy in cast.remedies:
            if (cast.id, remedy.id) == (cast_id, remedy_id):
                return cast, remedy
    raise PlaceError("the recipe has no such remedy")


def _earlier(recipe: Recipe, cast: Cast) -> list[Cast]:
    """What acts before a cast, whether or not it acts itself."""
    acting = cast.model_copy(
        update={
            "on": True,
            "remedies": tuple(r.model_copy(update={"on": True}) for r in cast.remedies),
        }
    )
    casts = tuple(acting if c.id == cast.id else c for c in recipe.casts)
    return casts_until(recipe.model_copy(update={"casts": casts}), cast.id)[:-1]


def _hues(lab: Floats, weight: Floats) -> Floats:
    chroma = np.hypot(lab[1], lab[2])
    hue = np.degrees(np.arctan2(lab[2], lab[1])) % 360.0
    return _counted(hue / 360.0, weight * np.minimum(chroma / COLOURED, 1.0), HUES)


def _levels(lab: Floats, rgb: Floats, weight: Floats) -> Floats:
    codes = np.moveaxis(encode(rgb, srgb()).astype(np.float32) / np.float32(255.0), 2, 0)
    return np.stack([_counted(p, weight, LEVELS) for p in (lab[0], *codes)])


def _counted(value: Floats, weight: Floats, bins: int) -> Floats:
    """By the root, or a plain wall would press everything else to the ground."""
    at = np.clip(value * bins, 0, bins - 1).astype(np.int64)
    counts = np.bincount(at.ravel(), weight.ravel(), bins)
    return np.sqrt(counts / max(float(counts.max()), 1e-9)).astype(np.float32)


def _over_hue(remedy: AnyRemedy) -> Floats:
    at = np.arange(0.0, 360.0 + EVERY, EVERY)
    if not isinstance(remedy, ByHue):
        return np.zeros((3, 0), dtype=np.float32)
    return curves(remedy.points, remedy.width, at).astype(np.float32)


def _drawn_curves(remedy: AnyRemedy) -> dict[str, Floats]:
    if not isinstance(remedy, Curves):
        return {}
    at = np.linspace(0.0, 1.0, CURVE)
    given = {name: getattr(remedy, name) for name in NAMES}
    return {name: (value_at(c, at) if c else at).astype(np.float32) for name, c in given.items()}


def _warps(remedy: InPlane) -> list[tuple[Tone, Warp]]:
    dark, light = remedy.warps()
    return [("dark", dark), ("light", light)] if remedy.apart else [("light", light)]


def _lines(warp: Warp) -> list[Way]:
    """Lines of even a and of even b, where the warp takes them."""
    inside = np.flatnonzero(np.abs(AXIS) <= PLANE_RANGE + 1e-9)
    some = inside[np.linspace(0, len(inside) - 1, LINES).round().astype(int)]
    along = inside[::2]
    a, b = AXIS + warp.table[0], AXIS[:, None] + warp.table[1]
    across = [[(float(a[y, x]), float(b[y, x])) for x in along] for y in some]
    down = [[(float(a[y, x]), float(b[y, x])) for y in along] for x in some]
    return [*across, *down]


def _plane_colours() -> Codes:
    steps = ((np.arange(BINS) + 0.5) * 2.0 / BINS - 1.0) * PLANE_RANGE
    a, b = np.meshgrid(steps, -steps)
    lab = np.stack([np.full_like(a, SHOWN_LIGHT), a, b], axis=-1)
    rgb = np.moveaxis(oklab_to_linear_rgb(lab), -1, 0).astype(np.float32)
    return encode(np.ascontiguousarray(rgb), srgb())


def _colour_at(rgb: Floats, at: Place, view: View) -> tuple[float, float, float]:
    mean = rgb[around_place(at, view)].mean(axis=(1, 2))
    light, a, b = (float(v) for v in linear_rgb_to_oklab(np.maximum(mean, 0.0)))
    return light, a, b
