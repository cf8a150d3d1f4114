"""Each pair of a cast: how far its sample was from its reference, how far it is now."""

from dataclasses import dataclass, replace
from itertools import takewhile

import numpy as np

from nubilis.cast.chroma import levelled
from nubilis.cast.direction import same_cast
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.engine.acting import active_casts
from nubilis.engine.engine import Engine
from nubilis.engine.sample import Measured, describe, measure_place
from nubilis.recipe.document import Cast, Pair, Recipe, Sample
from nubilis.remedy.match import Match

Rgb = tuple[float, float, float]


@dataclass(frozen=True)
class PairProof:
    """is_before, is_now, should_be: the sample and its reference, levelled to the sample's luminance;
    reference: as it was sampled.

    before, after: CIEDE2000 to the levelled reference, after only where the sample has a place;
    lightness_gap: L* of the reference as it was sampled minus L* of the sample; other_way: its direction
    is not that of most of the cast's pairs; outvoted: it contradicts the others and does not count;
    residual: CIEDE2000 that the cast's match leaves at full amount. What needs a reference is None while
    the pair has none.
    """

    id: str
    is_before: Measured
    is_now: Measured
    should_be: Measured | None
    reference: Measured | None
    before: float | None
    after: float | None
    lightness_gap: float | None
    other_way: bool = False
    outvoted: bool = False
    residual: float | None = None


def prove_pairs(engine: Engine, recipe: Recipe, cast: Cast) -> tuple[PairProof, ...]:
    complete = [p for p in cast.pairs if p.reference is not None]
    out = cast.outvoted()
    groups = same_cast(cast.heard_pairs())
    heard = [p.id for p in complete if p.id not in out]
    most = max(groups, key=len, default=[])
    others = {heard[i] for group in groups if group is not most for i in group}
    left = residuals(engine, recipe, cast)
    left_of = dict(zip((p.id for p in complete), left, strict=True)) if left else {}
    return tuple(
        replace(
            _pair(engine, recipe, p),
            other_way=p.id in others,
            outvoted=p.id in out,
            residual=left_of.get(p.id),
        )
        for p in cast.pairs
    )


def residuals(engine: Engine, recipe: Recipe, cast: Cast) -> list[float]:
    """CIEDE2000 that the first match of an active cast leaves of each pair; empty without one."""
    match = next((r for r in cast.remedies if isinstance(r, Match) and r.acts), None)
    until = list(takewhile(lambda c: c.id != cast.id, active_casts(recipe)))
    if match is None or not cast.on:
        return []
    evidence = engine.evidence(recipe.state, [*until, cast], match.id)
    return match.residuals(evidence) if evidence.pairs else []


def _pair(engine: Engine, recipe: Recipe, pair: Pair) -> PairProof:
    profile = engine.photo.profile
    now_rgb = colour_now(engine, recipe, pair.tainted)
    is_before, is_now = describe(pair.tainted.rgb, profile), describe(now_rgb, profile)
    measured = pair.measured()
    if measured is None or pair.reference is None:
        return PairProof(pair.id, is_before, is_now, None, None, None, None, None)
    reference = describe(pair.reference.rgb, profile)
    return PairProof(
        pair.id,
        is_before,
        is_now,
        describe(levelled(measured.reference, pair.tainted.rgb), profile),
        reference,
        distance(pair.tainted.rgb, measured.reference),
        distance(now_rgb, measured.reference) if pair.tainted.at is not None else None,
        reference.lab[0] - is_before.lab[0],
    )


def colour_now(engine: Engine, recipe: Recipe, sample: Sample) -> Rgb:
    """A sample's colour in the treated photo."""
    if sample.at is None:
        return sample.rgb
    return measure_place(engine, sample.at, sample.radius, recipe, sample.further).rgb


def distance(sample: Rgb, reference: Rgb) -> float:
    """CIEDE2000 of a sample from its levelled reference."""
    return ciede2000(linear_rgb_to_lab(sample), linear_rgb_to_lab(levelled(reference, sample)))


def is_skin(pair: Pair, proof: PairProof) -> bool:
    """Whether a pair's reference is skin, as it was said to be or as it looks."""
    if pair.reference is None or proof.should_be is None:
        return False
    return (pair.reference.kind or proof.should_be.kind) == "skin"


def offset(pairs: list[tuple[Measured, Measured | None]]) -> tuple[float, float] | None:
    away = [np.subtract(one.lab[1:], two.lab[1:]) for one, two in pairs if two is not None]
    if not away:
        return None
    away = np.mean(away, axis=0)
    return float(away[0]), float(away[1])
