"""What the screen is given: display code values, with the mask drawn as asked."""

from enum import StrEnum
from typing import Annotated

import cv2
import numpy as np
from pydantic import Field

from nubilis.arrays import Codes, Floats
from nubilis.cast.chroma import luminance_plane
from nubilis.cast.field import guide_of
from nubilis.cast.take_off import take_off
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.model import Model, Share
from nubilis.settle.state import Settled

HATCH_STEP = 9  # pixels between lines
INK, PAPER = 0.25, 0.85  # OKLab lightness of the overlay on light and on dark ground
OVERLAY_CHROMA = 0.17
PAPER_LIGHT = (
    np.float32(0.22),
    np.float32(0.28),
)  # linear: in the photo's shade, and added in its light
CONTOUR_STEP = np.float32(0.25)  # of amount from line to line
CONTOUR_INK = 0.72


class Show(StrEnum):
    """now: treated; before: untouched; hatch: treated, with the mask hatched and outlined; outline:
    treated, with its outline alone; matte: the mask as grey; isolate: only what is masked in colour; taken:
    the light that is taken off, as it would lie on grey paper, with lines of equal amount."""

    NOW = "now"
    BEFORE = "before"
    HATCH = "hatch"
    OUTLINE = "outline"
    MATTE = "matte"
    ISOLATE = "isolate"
    TAKEN = "taken"


class Ink(Model):
    """What a mask is drawn with. hue: degrees of OKLCh; None: the hue opposite to what lies under the
    mask; opacity: of the hatching."""

    hue: Annotated[float, Field(ge=0.0, le=360.0, allow_inf_nan=False)] | None = None
    opacity: Share = 0.85


def display(
    engine: Engine,
    recipe: Recipe,
    view: View,
    show: Show,
    cast_id: str | None,
    ink: Ink = Ink(),
    part_id: str | None = None,
) -> Codes:
    """sRGB code values uint8 (h, w, 3). cast_id: whose mask; without one, the picture alone; part_id: of
    the mask that part alone. Raises PlaceError."""
    cast = next((c for c in recipe.casts if c.id == cast_id), None)
    if show is Show.BEFORE:
        return encode(engine.untouched(view), srgb())
    if show is Show.NOW or cast is None:
        return encode(engine.render(recipe, view), srgb())
    if show is Show.TAKEN:
        return _taken(engine, recipe, cast, view)
    shown = cast.mask.only(part_id) if part_id else cast.mask
    mask = engine.mask(shown, view, recipe.state)
    if show is Show.MATTE:
        grey = (mask * 255.0 + 0.5).astype(np.uint8)
        return np.repeat(grey[..., None], 3, axis=2)
    rgb = engine.render(recipe, view)
    if show is Show.ISOLATE:
        return encode(_isolated(rgb, mask), srgb())
    codes = encode(rgb, srgb())
    lines = ink.opacity if show is Show.HATCH else 0.0
    _draw(codes, mask, view, _inks(engine, recipe.state, shown, ink.hue), lines)
    return codes


def _taken(engine: Engine, recipe: Recipe, cast: Cast, view: View) -> Codes:
    """The cast's own light on paper that keeps a little of the photo's light and shade."""
    settled = engine.settled(view, recipe.state)
    paper = PAPER_LIGHT[0] + PAPER_LIGHT[1] * guide_of(luminance_plane(settled))
    rgb = np.repeat(paper[None], 3, axis=0)
    steps = np.zeros(paper.shape, dtype=np.int32)
    mask = engine.mask(cast.mask, view, recipe.state)
    for shift, amount in engine.amounts(recipe, cast.id, view):
        rgb = take_off(rgb, mask, amount, (-shift[0], -shift[1]))
        steps = np.maximum(steps, (amount * mask / CONTOUR_STEP).astype(np.int32))
    codes = encode(rgb, srgb())
    lines = np.zeros(paper.shape, dtype=bool)
    lines[:, 1:] |= steps[:, 1:] != steps[:, :-1]
    lines[1:] |= steps[1:] != steps[:-1]
    codes[lines] = (codes[lines] * CONTOUR_INK).astype(np.uint8)
    return codes


def _isolated(rgb: Floats, mask: Floats) -> Floats:
    """Outside the mask, the photo's own luminance without colour, paler."""
    pale = 0.25 + 0.5 * luminance_plane(rgb)
    return np.ascontiguousarray(rgb * mask + pale * (1.0 - mask), dtype=np.float32)


def _inks(engine: Engine, state: Settled, mask: Mask, hue: float | None) -> Codes:
    """Dark and light ink (2, 3)."""
    turn = _against(engine, state, mask) if hue is None else np.radians(hue)
    tint = OVERLAY_CHROMA * np.cos(turn), OVERLAY_CHROMA * np.sin(turn)
    inks = oklab_to_linear_rgb([[INK, *tint], [PAPER, *tint]])
    codes: Codes = encode(np.ascontiguousarray(inks.T[:, None], dtype=np.float32), srgb())[0]
    return codes


def _against(engine: Engine, state: Settled, mask: Mask) -> float:
    """The hue opposite to what lies under a mask, radians.

    Taken at the analysis size, so that it stays as one zooms and pans.
    """
    view = engine.analysis_view
    weight, rgb = engine.mask(mask, view, state), engine.settled(view, state)
    total = float(weight.sum())
    mean = (rgb * weight).sum(axis=(1, 2)) / total if total else np.full(3, 0.2)
    a, b = linear_rgb_to_oklab(np.maximum(mean, 0.0))[1:]
    return float(np.arctan2(-b, -a)) if np.hypot(a, b) > 0.01 else float(np.radians(330.0))


def _draw(codes: Codes, mask: Floats, view: View, inks: Codes, opacity: float) -> None:
    """Diagonal lines where the mask is, denser ink where it is fuller, and the outline at one half."""
    x0, y0 = view.region[:2]
    h, w = mask.shape
    ys, xs = np.ogrid[y0 : y0 + h, x0 : x0 + w]
    lines = (xs + ys) % HATCH_STEP == 0
    inside = (mask > 0.5).astype(np.uint8)
    outline = cv2.morphologyEx(inside, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > 0
    cover = np.where(outline, np.float32(1.0), lines * mask * np.float32(opacity))
    drawn = cover > 0.02
    ground = codes[drawn].astype(np.float32)
    # Light ink on dark ground and dark ink on light, so that it shows on both.
    ink = inks[(ground @ np.array([0.21, 0.72, 0.07], dtype=np.float32) < 110.0).astype(np.intp)]
    share = cover[drawn][:, None]
    codes[drawn] = (ground * (1.0 - share) + ink * share + 0.5).astype(np.uint8)
