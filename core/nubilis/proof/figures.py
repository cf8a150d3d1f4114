"""The proof line by line, as screens and sheets tell it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from nubilis.proof.casts import CastProof, PhotoProof
from nubilis.proof.side_effects import Moved, SideEffects

OfCast = Literal[
    "distance", "skin", "lightness", "masked", "tainted", "clean", "kept", "noise", "edge"
]
OfPhoto = Literal["outside", "clipped"]
Counted = OfCast | OfPhoto
Key = Counted | Literal["field"]  # the finder's, which draws its own map
DELTA_E, PERCENT = "ΔE2000", "%"
# The value at which a figure's pixels are drawn in full ink, in its own unit.
FULL_INK: dict[Counted, float] = {
    "distance": 10.0, "skin": 20.0, "lightness": 2.0, "masked": 1.0, "tainted": 10.0, "clean": 3.0,
    "kept": 2.0, "noise": 2.0, "edge": 4.0, "outside": 1.0, "clipped": 1.0,
}  # fmt: skip


@dataclass(frozen=True)
class Figure:
    """key: whose pixels can be shown (`proof.pixels`); name, unit, meaning: as people read them; before:
    None where only one value is told; part: the end of its name where it says more of the line above;
    brief: whether it is among the few that stand on the bench; full: what a pixel in full ink stands for,
    None where it is only counted."""

    key: Key
    name: str
    now: float
    unit: str
    meaning: str
    before: float | None = None
    part: str | None = None
    brief: bool = False
    full: float | None = None


@dataclass(frozen=True)
class Figures:
    """casts: by their ids."""

    casts: dict[str, tuple[Figure, ...]]
    photo: tuple[Figure, ...]


def figures_of(proof: PhotoProof) -> Figures:
    return Figures(
        {c.id: tuple(map(_scaled, _of_cast(c))) for c in proof.casts},
        tuple(map(_scaled, _of_photo(proof))),
    )


def of_field(before: float, now: float) -> Figure:
    """Mean over the photo of what the finder takes for taint, CIEDE2000: settled, and treated."""
    return Figure(
        "field", "Finder's field, mean", now, DELTA_E, "What the finder takes for taint", before
    )


def _scaled(figure: Figure) -> Figure:
    if figure.unit == PERCENT or figure.key == "field":
        return figure
    return replace(figure, full=FULL_INK[figure.key])


def _of_cast(cast: CastProof) -> Iterator[Figure]:
    if cast.before is not None and cast.after is not None:
        meaning, name = "Mean of the samples to their references", "Distance to reference"
        yield Figure("distance", name, cast.after, DELTA_E, meaning, cast.before, brief=True)
    if cast.skin_before is not None and cast.skin_after is not None:
        meaning = "Hue of the skin samples off the line on which healthy skin lies"
        name, before = "Off the skin line", cast.skin_before
        yield Figure("skin", name, cast.skin_after, "°", meaning, before, brief=True)
    name, meaning = "Lightness change", "Mean over the mask"
    yield Figure("lightness", name, cast.lightness_change, "L*", meaning, brief=True)
    yield Figure("masked", "Masked", 100.0 * cast.area, PERCENT, "Share of the photo")
    if cast.besides:
        yield from _of_effects(cast.besides)
    if cast.guards:
        most, name = max(g.moved for g in cast.guards), "Kept colours, most"
        yield Figure("kept", name, most, DELTA_E, "Held when below 1", brief=True)


def _of_effects(effects: SideEffects) -> Iterator[Figure]:
    meaning = "Under the mask, where the photo carries the cast"
    yield from _moved("tainted", "Moved where tainted", effects.tainted, meaning)
    if effects.clean is not None:
        meaning = "Under the mask, where the photo does not carry the cast: the less the better"
        yield from _moved("clean", "Moved where clean", effects.clean, meaning, brief=True)
    meaning = "Fine variation where the photo is flat, CIELAB"
    yield Figure("noise", "Noise", effects.noise_after, "Lab", meaning, effects.noise_before)
    if effects.edge is not None:
        meaning = "New steps of colour a pixel along the rim of the mask; seen from 2 on"
        yield Figure("edge", "Edge of the mask", effects.edge, "Lab", meaning)


def _of_photo(proof: PhotoProof) -> Iterator[Figure]:
    meaning, name = "Where no mask reaches: nothing by promise", "Outside the masks"
    yield from _moved("outside", name, proof.outside, meaning)
    yield _part("outside", name, "most", proof.outside.most, f"{meaning}. Most", brief=True)
    meaning, name = "Pixels that reach an end of the gamut and did not before", "Newly clipped"
    yield Figure("clipped", name, 100.0 * proof.newly_clipped, PERCENT, meaning, brief=True)


def _moved(
    key: Key, name: str, moved: Moved, meaning: str, brief: bool = False
) -> Iterator[Figure]:
    """brief: whether the 95 % stands on the bench."""
    yield Figure(key, name, moved.mean, DELTA_E, f"{meaning}. Mean")
    yield _part(key, name, "95 %", moved.p95, f"{meaning}. 95 of 100 are below", brief)


def _part(key: Key, name: str, part: str, now: float, meaning: str, brief: bool) -> Figure:
    return Figure(key, f"{name}, {part}", now, DELTA_E, meaning, part=part, brief=brief)
