"""How far was each sample from its reference, how far is it now, and what else moved."""

import math
from collections import Counter
from dataclasses import dataclass

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.engine.engine import Engine
from nubilis.engine.sample import Measured, describe
from nubilis.proof.judgement import (
    HELD,
    Act,
    Change,
    Concern,
    another_cast,
    beyond,
    contradict,
    judge,
    not_kept,
    undone,
)
from nubilis.proof.outcome import FULL, Outcome
from nubilis.proof.pairs import PairProof, colour_now, is_skin, offset, prove_pairs
from nubilis.proof.scopes import skin_angle
from nubilis.proof.side_effects import Moved, SideEffects, moved_in, side_effects
from nubilis.proof.warmth import Warmth, warmth_back
from nubilis.recipe.document import Cast, Guard, Recipe
from nubilis.remedy.match import contrary
from nubilis.remedy.neutralise import Neutralise

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


# Amount below which less than all was meant, and from which more is no help; follow below which less is none.
MEANT, ALL_OF_IT, EVENLY = 0.5, 0.95, 0.5


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
    lightness_change: mean L* change in the mask; besides: None for a cast that does nothing; concerns:
    what looks overdone; warmth: the glaze that would give its skin back what its reference has, or None.
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
    besides: SideEffects | None
    concerns: tuple[Concern, ...]
    warmth: Warmth | None


@dataclass(frozen=True)
class PhotoProof:
    """outside, inside: where no mask of a cast that is on reaches, and where one does; newly_clipped:
    share of pixels with a channel at an end of the photo's own gamut that was not there before."""

    casts: tuple[CastProof, ...]
    outside: Moved
    inside: Moved
    newly_clipped: float


def prove(engine: Engine, recipe: Recipe) -> PhotoProof:
    """Figures for a recipe on one photo, from the analysis size and, at samples, from full size."""
    return prove_outcome(Outcome(engine, recipe))


def prove_outcome(outcome: Outcome) -> PhotoProof:
    """The same, of planes that serve others too."""
    recipe, reached = outcome.recipe, outcome.reached
    return PhotoProof(
        tuple(
            _cast(outcome, came, cast)
            for came, cast in zip(recipe.casts, recipe.settled_casts(), strict=True)
        ),
        moved_in(outcome.moved, ~reached),
        moved_in(outcome.moved, reached),
        float(outcome.change.clipped.sum() / outcome.moved.size),
    )


def _cast(outcome: Outcome, came: Cast, cast: Cast) -> CastProof:
    """came, cast: with its samples as the photo came, and as the base shows them."""
    engine, recipe, change = outcome.engine, outcome.recipe, outcome.change
    mask = outcome.masks[cast.id]
    near = mask[outcome.area]
    lightness_change = change.after[0] - change.before[0]
    pairs = prove_pairs(engine, recipe, cast)
    heard = [p for p in pairs if not p.outvoted]
    skins = [p for p, pair in zip(pairs, cast.pairs, strict=True) if is_skin(pair, p)]
    weight = float(mask.sum())
    guards = tuple(prove_guard(engine, recipe, g) for g in cast.guards)
    before = offset([(p.is_before, p.should_be) for p in heard])
    return CastProof(
        cast.id,
        hue_word(before) if before else None,
        pairs,
        guards,
        tuple(
            TargetProof(r.id, describe(aim, engine.photo.profile))
            for r in cast.remedies
            if (aim := r.aim) is not None
        ),
        _mean([p.before for p in heard]),
        _mean([p.after for p in heard]),
        before,
        offset([(p.is_now, p.should_be) for p in heard if p.after is not None]),
        _mean([skin_angle(p.is_before.rgb) for p in skins]),
        _mean([skin_angle(p.is_now.rgb) for p in skins]),
        float((mask > FULL).mean()),
        _upper_rim(mask),
        float((near * lightness_change).sum() / weight) if weight else 0.0,
        side_effects(outcome, came),
        (
            *_contradictions(cast, pairs),
            *_concerns(came, pairs, guards, change, near),
            *_another(outcome, came),
        ),
        warmth_back([p for p in skins if p.after is not None and not p.outvoted]),
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
            found.append(_undone(cast, numbers[pair.id], proof, change, mask))
    for guard, kept in zip(cast.guards, guards, strict=True):
        sample = guard.sample
        found.append(not_kept(numbers[guard.id], sample.at, kept.moved, sample.rgb))
    return (*(c for c in found if c is not None), *judge(change, mask))


def _undone(
    cast: Cast, number: str, proof: PairProof, change: Change, mask: Floats
) -> Concern | None:
    """Of a cast that is to be neutralised, with what would help it most."""
    neutralise = next((r for r in cast.remedies if isinstance(r, Neutralise) and r.on), None)
    if neutralise is None or proof.should_be is None or not mask.any():
        return None
    if neutralise.amount < MEANT:
        return None
    act: Act = "sample"
    if neutralise.amount < ALL_OF_IT:
        act = "more"
    elif neutralise.follow > EVENLY:
        act = "even"
    sample, wanted = (np.array(c.lab) for c in (proof.is_before, proof.should_be))
    return undone(number, sample, wanted, change, mask, act)


def _another(outcome: Outcome, cast: Cast) -> list[Concern]:
    found = another_cast(outcome.another(cast), outcome.masks[cast.id])
    return [found] if found else []


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
    rows = np.flatnonzero((mask > FULL).any(axis=1))
    if not rows.size:
        return None
    columns = np.flatnonzero(mask[rows[0]] > FULL)
    long_edge = max(mask.shape)
    return float(columns.mean() + 0.5) / long_edge, float(rows[0] + 0.5) / long_edge


def _mean(values: list[float | None]) -> float | None:
    known = [v for v in values if v is not None]
    return float(np.mean(known)) if known else None


def prove_guard(engine: Engine, recipe: Recipe, guard: Guard) -> GuardProof:
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
