"""The people in a photo: looked for once, and kept with it."""

import hashlib
from contextlib import suppress
from dataclasses import asdict

from pydantic import BaseModel, TypeAdapter

from nubilis.arrays import Floats
from nubilis.cache import Cache
from nubilis.colour.profile import srgb
from nubilis.engine.sample import Measured, describe
from nubilis.errors import PlaceError
from nubilis.mask.people import Feature
from nubilis.mask.people import People as PeoplePart
from nubilis.people.areas import part_of
from nubilis.people.nets import MODEL, ModelsMissing
from nubilis.people.people import Face, People, look_for_people, people_of
from nubilis.people.places import LitSkin, alike, lit_skins
from nubilis.proof.features import FeaturesMoved, feature_planes, features_moved
from nubilis.proof.outcome import Outcome
from nubilis.proof.skin_of_people import SkinOf, skin_of_people
from nubilis.recipe.document import Cast
from nubilis.recipe.model import Place
from shoots.models import Photo
from shoots.store import keep_asset
from studio.engines import engines
from studio.models import KeptPeople

KEPT = 12  # photos' people, and their features at the analysis size, each some 4 MB
SAME_SKIN, MOST_ELSEWHERE = 10.0, 6  # CIEDE2000, as light as each other; photos
# Another way of finding people looks anew; masks that were made keep what they were made of.
STATE = hashlib.sha256(MODEL.encode()).hexdigest()

_people: Cache[People] = Cache(KEPT)
_planes: Cache[dict[Feature, Floats]] = Cache(KEPT)


def people_in(photo: Photo) -> People:
    """Raises ModelsMissing when the networks are not there."""
    return _people.get((photo.id, photo.content_hash), lambda: _looked_for(photo))


def people_or_nobody(photo: Photo) -> People | None:
    """Nobody where people cannot be looked for: finding and following then do without."""
    with suppress(ModelsMissing):
        return people_in(photo)
    return None


def _looked_for(photo: Photo) -> People:
    if kept := KeptPeople.of(photo, STATE):
        return people_of(bytes(kept.data))
    engine = engines.get(photo)
    found = look_for_people(engine.sight())
    lit = lit_skins(found, engine.untouched(engine.analysis_view))
    skins = [asdict(one) for one in lit]
    KeptPeople.keep(photo, STATE, data=found.to_bytes(), skins=skins)
    return found


class SkinElsewhere(BaseModel):
    """A face of another photo of the shoot whose skin is about the same. distance: CIEDE2000, as light as
    each other."""

    photo: int
    title: str
    at: Place
    colour: Measured
    distance: float


def skin_elsewhere(photo: Photo, who: int) -> list[SkinElsewhere]:
    """The nearest skin of each other photo whose people are known, the most alike first. Skins are compared,
    not faces: it may be somebody else's."""
    people_in(photo)
    rows = KeptPeople.objects.filter(
        photo__shoot=photo.shoot, photo__removed=None, state=STATE
    ).select_related("photo")
    known = {row.photo: TypeAdapter(list[LitSkin]).validate_python(row.skins) for row in rows}
    own = next((s for s in known.get(photo, []) if s.who == who), None)
    if own is None:
        return []
    found = []
    for other, lit in known.items():
        near = min(lit, key=lambda s: alike(own.rgb, s.rgb), default=None)
        if other != photo and near and (off := alike(own.rgb, near.rgb)) < SAME_SKIN:
            found.append(
                SkinElsewhere(
                    photo=other.id,
                    title=other.title,
                    at=near.at,
                    colour=describe(near.rgb, srgb()),
                    distance=off,
                )
            )
    return sorted(found, key=lambda s: s.distance)[:MOST_ELSEWHERE]


def found_anew(cast: Cast, photo: Photo) -> Cast:
    """A cast that comes from another photo, with its people found in this one: the same of them from the
    left, or all. Where there is nobody, that part is left out: no face's mask leaves its own photo."""
    anew = (_anew(p, photo) if isinstance(p, PeoplePart) else p for p in cast.mask.parts)
    mask = cast.mask.model_copy(update={"parts": tuple(p for p in anew if p)})
    return cast.model_copy(update={"mask": mask})


def _anew(part: PeoplePart, photo: Photo) -> PeoplePart | None:
    try:
        people = people_in(photo)
        who = part.who if part.who and part.who <= len(people.faces) else None
        sight = engines.get(photo).sight()
        made = part_of(people, sight, part.of, who, lambda data: keep_asset(data, photo), part.id)
    except (ModelsMissing, PlaceError):
        return None
    told = {name: getattr(part, name) for name in ("join", "on", "invert", "strength", "sure")}
    return made.model_copy(update=told)


def known_people(photo: Photo) -> People | None:
    """Nobody where nobody has looked for people yet."""
    there = KeptPeople.objects.filter(photo=photo, state=STATE).exists()
    return people_in(photo) if there else None


def _features(photo: Photo, people: People) -> dict[Feature, Floats]:
    key = photo.id, photo.content_hash
    return _planes.get(key, lambda: feature_planes(engines.get(photo), people))


def known_lips(photo: Photo) -> Floats | None:
    """Where lips are, at the analysis size; None where nobody has looked for people yet."""
    people = known_people(photo)
    return _features(photo, people)["lips"] if people else None


def faces_of(people: People | None) -> tuple[Face, ...]:
    return () if people is None else people.faces


def told_of_people(
    photo: Photo, people: People | None, outcome: Outcome
) -> tuple[tuple[FeaturesMoved, ...], tuple[SkinOf, ...]]:
    """What a treatment does to lips and eyes, and to the skin of each face, where people are known."""
    if people is None or not people.faces:
        return (), ()
    return features_moved(outcome, _features(photo, people)), skin_of_people(outcome, people)
