"""The pixels behind a figure, as a picture: the photo drained of colour, and ink where it is counted."""

from collections.abc import Sequence
from typing import Literal

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.cielab import lab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.errors import PlaceError
from nubilis.photo.pyramid import View, pixel_at
from nubilis.photo.sampling import encode
from nubilis.proof.casts import prove_guard
from nubilis.proof.figures import FULL_INK, Counted, OfCast
from nubilis.proof.judgement import Change
from nubilis.proof.outcome import FULL, Outcome
from nubilis.proof.pairs import PairProof, is_skin, prove_pairs
from nubilis.proof.scopes import skin_angle
from nubilis.proof.side_effects import rim
from nubilis.recipe.document import Cast, Pair, Sample

When = Literal["before", "now"]
PALE, FLAT = 60.0, 0.4  # L* about which the photo is flattened, and how much of its contrast stays
INK = (26.0, 46.0, -46.0)  # CIELAB
LEAST_SPOT = 0.004  # of the long edge: a sample is drawn at least so large


def pixels_picture(outcome: Outcome, key: Counted, when: When, cast_id: str | None) -> Codes:
    """sRGB code values (h, w, 3) at the analysis size. Raises PlaceError."""
    ink = pixels(outcome, key, when, cast_id) / np.float32(FULL_INK[key])
    return inked(outcome.lab[0][0], np.minimum(ink, np.float32(1.0)))


def pixels(outcome: Outcome, key: Counted, when: When, cast_id: str | None) -> Floats:
    """What a figure counts, in its own unit and 0 elsewhere, float32 (h, w) at the analysis size.

    when: of what is told before and now. Raises PlaceError for a cast that is not there.
    """
    if key == "outside":
        return np.asarray(np.where(outcome.reached, np.float32(0.0), outcome.moved))
    if key == "clipped":
        return outcome.whole(outcome.change.clipped)
    cast = next((c for c in outcome.recipe.casts if c.id == cast_id), None)
    if cast is None:
        raise PlaceError("the recipe has no such cast")
    if key in ("distance", "skin", "kept"):
        return _spots(outcome, key, when, cast)
    return _planes(outcome, key, when, cast)


def drained(lightness: Floats) -> Floats:
    """CIELAB lightness of a photo that something is drawn on."""
    return np.asarray(PALE + FLAT * (lightness - PALE), dtype=np.float32)


def inked(lightness: Floats, ink: Floats) -> Codes:
    """lightness: L* (h, w); ink: 0..1 (h, w)."""
    grey = drained(lightness)
    planes = (grey, np.zeros_like(grey), np.zeros_like(grey))
    return codes_of([p + ink * (i - p) for p, i in zip(planes, INK, strict=True)])


def codes_of(lab: Sequence[Floats]) -> Codes:
    """sRGB code values (h, w, 3) of three planes of CIELAB D50."""
    rgb = np.moveaxis(lab_to_linear_rgb(np.stack(lab, axis=-1)), 2, 0)
    return encode(np.ascontiguousarray(rgb, dtype=np.float32), srgb())


def _planes(outcome: Outcome, key: OfCast, when: When, cast: Cast) -> Floats:
    mask, change = outcome.masks[cast.id], outcome.change
    if key == "masked":
        return mask
    if key == "lightness":
        return outcome.whole(np.abs(mask[outcome.area] * (change.after[0] - change.before[0])))
    if key == "noise":
        return outcome.whole(_noise(change, when)) * mask
    if key == "edge":
        return outcome.whole(change.new_steps) * rim(mask)
    clean = outcome.clean(cast)
    on = mask > FULL
    if clean is not None:
        on &= clean if key == "clean" else ~clean
    elif key == "clean":
        on &= False
    return outcome.moved * on


def _noise(change: Change, when: When) -> Floats:
    """Of each neighbourhood, as far as it is flat."""
    grain = change.grain[0 if when == "before" else 1] * change.flat
    flat = cv2.GaussianBlur(change.flat, (0, 0), 4.0)
    around = cv2.GaussianBlur(grain, (0, 0), 4.0) / np.maximum(flat, np.float32(1e-3))
    return np.asarray(np.sqrt(around) * change.flat)


def _spots(outcome: Outcome, key: OfCast, when: When, cast: Cast) -> Floats:
    """The samples that a figure is the mean of, each over its place."""
    engine, recipe, view = outcome.engine, outcome.recipe, outcome.view
    drawn = np.zeros(view.shape, dtype=np.float32)
    settled = next(c for c in recipe.settled_casts() if c.id == cast.id)
    if key == "kept":
        for guard in settled.guards:
            _spot(drawn, guard.sample, prove_guard(engine, recipe, guard).moved, view)
        return drawn
    for pair, told in zip(settled.pairs, prove_pairs(engine, recipe, settled), strict=True):
        value = _skin(pair, told, when) if key == "skin" else _distance(told, when)
        if value is not None:
            _spot(drawn, pair.tainted, abs(value), view)
    return drawn


def _distance(told: PairProof, when: When) -> float | None:
    if told.outvoted:
        return None
    return told.before if when == "before" else told.after


def _skin(pair: Pair, told: PairProof, when: When) -> float | None:
    if not is_skin(pair, told):
        return None
    return skin_angle((told.is_before if when == "before" else told.is_now).rgb)


def _spot(drawn: Floats, sample: Sample, value: float, view: View) -> None:
    long_edge = max(view.size)
    radius = max(round(max(sample.radius, LEAST_SPOT) * long_edge), 1)
    for at in (sample.at, *sample.further):
        if at is not None:
            cv2.circle(drawn, pixel_at(at, view.shape), radius, value, -1)
