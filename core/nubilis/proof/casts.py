"""How far was each sample from its reference, how far is it now, and what else moved."""

import math
from collections import Counter
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from nubilis.arrays import Floats
from nubilis.colour.cielab import lab_planes, linear_rgb_to_lab
from nubilis.colour.difference import ciede2000, difference_plane
from nubilis.engine import Engine
from nubilis.proof.judgement import HELD, Change, Concern, beyond, contradict, judge, not_kept
from nubilis.proof.pairs import PairProof, colour_now, offset, prove_pairs
from nubilis.proof.scopes import skin_angle
from nubilis.recipe.document import Cast, Guard, Recipe
from nubilis.remedy.even_out import EvenOut
from nubilis.remedy.match import contrary
from nubilis.sample import Measured, describe

Rgb = tuple[float, float, float]
CLIPPED = 0.9999
CODE_8_BIT = 0.5  # CIELAB of one code value, about: .39 in lightness, more in colour
# Ends of the hue angles, in CIELAB, that go by each word.
HUE_WORDS = (
    (12.0, "pink"),
    (48.0, "red"),
    (75.0, "orange"),
    (110.0, "yellow"),
    (140.0, "yellow-green"),
    (190.0, "green"),
    (240.0, "cyan"),
    (290.0, "blue"),
    (320.0, "violet"),
    (350.0, "magenta"),
    (360.1, "pink"),
)


@dataclass(frozen=True)
class GuardProof:
    """moved: CIEDE2000 between the guard's colour before and now; held: whether that is little enough."""

    id: str
    colour: Measured
    moved: float
    held: bool


@dataclass(frozen=True)
class TargetProof:
    """The colour that a remedy draws others towards; id: the remedy's."""

    id: str
    colour: Measured


@dataclass(frozen=True)
class CastProof:
    """before, after: mean over the pairs that count; None without one. skin_before, skin_after: degrees off
    the skin line, of the samples whose reference is skin.

    towards: the hue that the cast adds, in a word; offset_before, offset_after: mean (a*, b*) of the
    samples minus their references, for the dial; area: share of the photo under the mask;
    lightness_change: mean L* change in the mask; concerns: what looks overdone.
    """

    id: str
    towards: str | None
    pairs: tuple[PairProof, ...]
    guards: tuple[GuardProof, ...]
    targets: tuple[TargetProof, ...]
    before: float | None
    after: float | None
    offset_before: tuple[float, float] | None
    offset_after: tuple[float, float] | None
    skin_before: float | None
    skin_after: float | None
    area: float
    edge: tuple[float, float] | None
    lightness_change: float
    concerns: tuple[Concern, ...]


@dataclass(frozen=True)
class PhotoProof:
    """outside_mean, outside_most: CIEDE2000 where no mask reaches; newly_clipped: share of pixels with
    a channel at an end of the photo's own gamut that was not there before."""

    casts: tuple[CastProof, ...]
    outside_mean: float
    outside_most: float
    inside_mean: float
    newly_clipped: float


def prove(engine: Engine, recipe: Recipe) -> PhotoProof:
    """Figures for a recipe on one photo, from the analysis size and, at samples, from full size."""
    view = engine.analysis_view
    before, after = engine.settled(view, recipe.base), engine.render(recipe, view)
    lab_before, lab_after = lab_planes(before), lab_planes(after)
    moved = difference_plane(lab_before, lab_after)
    masks = [engine.mask(c.mask, view, recipe.base) for c in recipe.casts]
    on = [m for m, c in zip(masks, recipe.casts, strict=True) if c.on]
    union = np.max(on, axis=0) if on else np.zeros_like(moved)
    outside, inside = moved[union == 0.0], moved[union > 0.0]
    clipped = _newly_clipped(engine, before, after)
    code = CODE_8_BIT if engine.photo.bits == 8 else 0.0
    change = Change(lab_before, lab_after, clipped, code)
    return PhotoProof(
        tuple(
            _cast(engine, recipe, came, cast, change, mask)
            for came, cast, mask in zip(recipe.casts, recipe.settled_casts(), masks, strict=True)
        ),
        float(outside.mean()) if outside.size else 0.0,
        float(outside.max()) if outside.size else 0.0,
        float(inside.mean()) if inside.size else 0.0,
        float(clipped.mean()),
    )


def _cast(
    engine: Engine, recipe: Recipe, came: Cast, cast: Cast, change: Change, mask: Floats
) -> CastProof:
    """came, cast: with its samples as the photo came, and as the base shows them."""
    lightness_change = change.after[0] - change.before[0]
    pairs = prove_pairs(engine, recipe, cast)
    heard = [p for p in pairs if not p.outvoted]
    skins = [
        p
        for p, pair in zip(pairs, cast.pairs, strict=True)
        if p.should_be and ((pair.reference and pair.reference.kind) or p.should_be.kind) == "skin"
    ]
    weight = float(mask.sum())
    guards = tuple(_guard(engine, recipe, g) for g in cast.guards)
    before = offset([(p.is_before, p.should_be) for p in heard])
    return CastProof(
        cast.id,
        hue_word(before) if before else None,
        pairs,
        guards,
        tuple(
            TargetProof(r.id, describe(r.target, engine.photo.profile))
            for r in cast.remedies
            if isinstance(r, EvenOut)
        ),
        _mean([p.before for p in heard]),
        _mean([p.after for p in heard]),
        before,
        offset([(p.is_now, p.should_be) for p in heard if p.after is not None]),
        _mean([skin_angle(p.is_before.rgb) for p in skins]),
        _mean([skin_angle(p.is_now.rgb) for p in skins]),
        float((mask > 0.5).mean()),
        _upper_rim(mask),
        float((mask * lightness_change).sum() / weight) if weight else 0.0,
        (*_contradictions(cast, pairs), *_concerns(came, pairs, guards, change, mask)),
    )


def _concerns(
    cast: Cast,
    pairs: tuple[PairProof, ...],
    guards: tuple[GuardProof, ...],
    change: Change,
    mask: Floats,
) -> tuple[Concern, ...]:
    """cast: its samples as the photo came."""
    if not cast.on or not any(r.on and r.amount > 0.0 for r in cast.remedies):
        return ()
    numbers = cast.numbers()
    found: list[Concern | None] = []
    for pair, proof in zip(cast.pairs, pairs, strict=True):
        was, now = (offset([(c, proof.should_be)]) for c in (proof.is_before, proof.is_now))
        if was and now and not proof.outvoted:
            found.append(beyond(numbers[pair.id], pair.tainted.at, was, now))
    for guard, kept in zip(cast.guards, guards, strict=True):
        sample = guard.sample
        found.append(not_kept(numbers[guard.id], sample.at, kept.moved, sample.rgb))
    return (*(c for c in found if c is not None), *judge(change, mask))


def _contradictions(cast: Cast, pairs: tuple[PairProof, ...]) -> list[Concern]:
    """Pairs that no match can serve together: those that may be left out, so that the rest agree."""
    told = [(pair, p.residual) for pair, p in zip(cast.pairs, pairs, strict=True) if p.residual]
    against = contrary([m for pair, _ in told if (m := pair.measured()) is not None])
    numbers = [cast.numbers()[pair.id] for pair, _ in told]
    found = []
    while against:
        often = Counter(i for two in against for i in two)
        worst = max(often, key=lambda i: (often[i], told[i][1]))
        others = [numbers[i] for two in against if worst in two for i in two if i != worst]
        pair, left = told[worst]
        found.append(contradict(numbers[worst], others, left, pair.tainted.at, pair.id))
        against = [two for two in against if worst not in two]
    return found


def _upper_rim(mask: Floats) -> tuple[float, float] | None:
    """The middle of the topmost masked row, in fractions of the long edge."""
    rows = np.flatnonzero((mask > 0.5).any(axis=1))
    if not rows.size:
        return None
    columns = np.flatnonzero(mask[rows[0]] > 0.5)
    long_edge = max(mask.shape)
    return float(columns.mean() + 0.5) / long_edge, float(rows[0] + 0.5) / long_edge


def _mean(values: list[float | None]) -> float | None:
    known = [v for v in values if v is not None]
    return float(np.mean(known)) if known else None


def _guard(engine: Engine, recipe: Recipe, guard: Guard) -> GuardProof:
    sample = guard.sample
    now = colour_now(engine, recipe, sample)
    moved = ciede2000(linear_rgb_to_lab(sample.rgb), linear_rgb_to_lab(now))
    return GuardProof(guard.id, describe(sample.rgb, engine.photo.profile), moved, moved < HELD)


def hue_word(offset: tuple[float, float]) -> str | None:
    """The hue of a move (a*, b*) in a word; None when it is too small to have one."""
    if math.hypot(*offset) < 0.5:
        return None
    angle = math.degrees(math.atan2(offset[1], offset[0])) % 360.0
    return next(word for end, word in HUE_WORDS if angle < end)


def _newly_clipped(engine: Engine, before: Floats, after: Floats) -> npt.NDArray[np.bool_]:
    m = engine.photo.profile.encoding_matrix

    def clipped(rgb: Floats) -> np.ndarray:
        device = np.tensordot(m, rgb, axes=1)
        return np.asarray(((device > CLIPPED) | (device < -1e-4)).any(axis=0))

    return np.asarray(clipped(after) & ~clipped(before))
