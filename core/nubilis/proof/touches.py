"""Which colours a cast's remedies touch: those of the photo, and all that there are, masked or not.

A mask that is a little too wide, or a key that takes in more than was meant, shows here first.
"""

from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.cast.field import read_amount
from nubilis.colour.cielab import lab_planes, lab_to_linear_rgb
from nubilis.colour.difference import ciede2000
from nubilis.colour.profile import srgb
from nubilis.engine.acting import casts_until
from nubilis.engine.engine import Engine
from nubilis.engine.sample import Measured, describe
from nubilis.errors import PlaceError
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.remedy import Ground, applied_in_order
from nubilis.settle.state import Settled

COLOURS = 12  # that a photo is summed up in
SHADING = 0.6  # weight of lightness: a colour in light and shade is one colour
LIGHTNESS = 62.0  # of the chart, where most chroma lies within the gamut
HUES, CHROMAS = range(0, 360, 15), (14.0, 30.0, 48.0, 68.0)
ALIKE = 3.0  # CIELAB, lightness at SHADING: main colours nearer than this are one
ONE_PIXEL = View((1, 1), (0, 0, 1, 1))
EVERY = 3  # pixels of the analysis size that count

Rgb = tuple[float, float, float]


@dataclass(frozen=True)
class ChartPoint:
    """Any colour, and what the cast's remedies would make of it, where they act in full."""

    before: Measured
    after: Measured


@dataclass(frozen=True)
class PhotoColour:
    """A main colour of the photo. share: of the pixels; now: as the whole recipe leaves it; moved:
    CIEDE2000 from before; unmasked, would_move: the same if the cast's mask were everywhere."""

    share: float
    before: Measured
    now: Measured
    moved: float
    unmasked: Measured
    would_move: float


@dataclass(frozen=True)
class Touches:
    chart: tuple[ChartPoint, ...]
    colours: tuple[PhotoColour, ...]


def touches(engine: Engine, recipe: Recipe, cast_id: str) -> Touches:
    """Of one cast; of one that is switched off, nothing moves. Raises PlaceError."""
    if not any(c.id == cast_id for c in recipe.casts):
        raise PlaceError("the recipe has no such cast")
    chart = _chart()
    profile = engine.photo.profile
    made = _everywhere(engine, recipe, cast_id, chart)
    points = tuple(
        ChartPoint(describe(_rgb(b), profile), describe(_rgb(a), profile))
        for b, a in zip(chart.T, made.T, strict=True)
    )
    return Touches(points, tuple(_colours(engine, recipe, cast_id)))


def _chart() -> npt.NDArray[np.float64]:
    """Linear Rec. 2020 (3, n), greys to strong colours, within sRGB."""
    turns = np.radians(np.array(HUES, dtype=np.float64))
    colours = [(LIGHTNESS, 0.0, 0.0)]
    colours += [(LIGHTNESS, c * np.cos(t), c * np.sin(t)) for c in CHROMAS for t in turns]
    rgb = np.array([lab_to_linear_rgb(c) for c in colours]).T
    device = srgb().encoding_matrix @ rgb
    return rgb[:, ((device >= 0.0) & (device <= 1.0)).all(axis=0)]


def _everywhere(
    engine: Engine, recipe: Recipe, cast_id: str, colours: npt.NDArray[np.float64]
) -> npt.NDArray[np.float64]:
    """Colours (3, n) after a cast's remedies, as if its mask were full and they carried all of it."""
    casts = casts_until(recipe, cast_id)
    if not casts:
        return colours
    return np.stack([_alone(engine, recipe.state, casts, c) for c in colours.T], axis=1)


def _alone(
    engine: Engine, state: Settled, casts: list[Cast], colour: npt.NDArray[np.float64]
) -> npt.NDArray[np.float64]:
    """One colour (3,), as if the photo had no other."""
    came = np.ascontiguousarray(colour[:, None, None], dtype=np.float32)
    full = np.ones((1, 1), dtype=np.float32)
    ground = Ground(
        came=came,
        settled=came,
        evidence_for=partial(engine.evidence, state, casts),
        passes=lambda _: [(step.shift, full) for step in engine.passes(state, casts)],
        measured=lambda statistic: statistic.of(came, lambda: full),
        read=lambda field: read_amount(field, came, full, ONE_PIXEL),
        # Strokes and noise are of places: a colour by itself has none.
        drawn=lambda _: None,
        grain_for=lambda _: None,
        before_look=lambda: None,
        table=engine.table,
        to_device=engine.to_device,
        view=ONE_PIXEL,
        scale=1.0,
    )
    rgb = applied_in_order(casts[-1].remedies, came, full, ground)
    return np.asarray(rgb[:, 0, 0], dtype=np.float64)


def _colours(engine: Engine, recipe: Recipe, cast_id: str) -> list[PhotoColour]:
    view, profile = engine.analysis_view, engine.photo.profile
    before, after = (
        rgb[:, ::EVERY, ::EVERY].reshape(3, -1)
        for rgb in (engine.render(r, view) for r in (recipe.uncast, recipe))
    )
    groups = _gathered(before)
    means = [(before[:, g].mean(axis=1), after[:, g].mean(axis=1)) for g in groups]
    unmasked = _everywhere(engine, recipe, cast_id, np.stack([b for b, _ in means], axis=1))
    found = []
    for group, (was, now), would in zip(groups, means, unmasked.T, strict=True):
        told = [describe(_rgb(c), profile) for c in (was, now, would)]
        moved, would_move = (ciede2000(told[0].lab, t.lab) for t in told[1:])
        share = float(group.mean())
        found.append(PhotoColour(share, told[0], told[1], moved, told[2], would_move))
    return sorted(found, key=lambda c: -c.share)


def _gathered(rgb: Floats) -> list[npt.NDArray[np.bool_]]:
    """Which pixels (3, n) belong to each main colour."""
    if rgb.shape[1] == 1:  # which would be taken for three points of one number each
        return [np.ones(1, dtype=np.bool_)]
    lab = lab_planes(np.ascontiguousarray(rgb[:, None]))[:, 0].T
    points = np.ascontiguousarray(lab * (SHADING, 1.0, 1.0), dtype=np.float32)
    count = min(COLOURS, len(points))
    cv2.setRNGSeed(1)  # the same photo is always summed up the same way
    ends = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 20, 0.5)
    _, labels, middles = cv2.kmeans(points, count, None, ends, 2, cv2.KMEANS_PP_CENTERS)
    # Fewer colours than asked for are cut in pieces, which belong together.
    apart = np.linalg.norm(middles[:, None] - middles[None], axis=2)
    same = (apart < ALIKE).argmax(axis=1)
    groups = [np.isin(labels[:, 0], np.flatnonzero(same == i)) for i in np.unique(same)]
    return [g for g in groups if g.any()]


def _rgb(colour: npt.NDArray[np.float64] | Floats) -> Rgb:
    red, green, blue = (float(v) for v in colour)
    return red, green, blue
