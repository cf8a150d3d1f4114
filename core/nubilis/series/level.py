"""A photo whose colour is off the rest, brought level: an ordinary cast, to be adjusted like any other."""

from collections.abc import Callable
from contextlib import suppress
from uuid import uuid4

from nubilis.engine.engine import Engine
from nubilis.engine.sample import sampled
from nubilis.errors import PlaceError
from nubilis.mask.combine import AnyPart, Mask
from nubilis.mask.part import Join
from nubilis.mask.people import Feature
from nubilis.mask.similar import Similar
from nubilis.people.areas import face_at, part_of
from nubilis.people.people import People
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import Cast, Pair, Sample
from nubilis.recipe.model import LinearRgb, Place
from nubilis.remedy.neutralise import Neutralise

RADIUS = 0.006  # of the long edge: what is averaged
# The face too, since skin that is off is not like the rest of its skin; lips and eyes stay as they are.
OF_A_FACE: dict[Feature, Join] = {
    "face": "add",
    "skin": "add",
    "lips": "subtract",
    "eyes": "subtract",
}
ALIKE = 16.0  # tolerance of the mask, CIELAB: a little more than what is off


def levelled(
    engine: Engine,
    people: People | None,
    at: Place,
    wanted: LinearRgb,
    name: str,
    keep: Callable[[bytes], Asset],
) -> Cast:
    """A cast that brings what lies at a place to a colour, linear Rec. 2020, at its own lightness. Its mask
    is that person's skin where the place lies on a face, else what resembles the place and hangs together
    with it. Raises PlaceError."""
    tainted = sampled(engine, at, RADIUS)
    reference = Sample(at=None, rgb=wanted, origin="photo", name=name)
    pair = Pair(id="pair-1", tainted=tainted, reference=reference, level=True)
    return Cast(
        id=uuid4().hex[:10],
        name=f"Level with {name}"[:120],
        pairs=(pair,),
        mask=Mask(parts=_parts(engine, people, at, keep)),
        remedies=(Neutralise(id="neutralise"),),
    )


def _parts(
    engine: Engine, people: People | None, at: Place, keep: Callable[[bytes], Asset]
) -> tuple[AnyPart, ...]:
    who = people and face_at(people, at)
    if not people or not who:
        return (Similar(id="similar", seeds=(at,), tolerance=ALIKE),)
    parts: list[AnyPart] = []
    for of, join in OF_A_FACE.items():
        with suppress(PlaceError):  # such as lips behind a hand
            part = part_of(people, engine.sight(), of, who, keep, of)
            parts.append(part.model_copy(update={"join": join}))
    return tuple(parts)
