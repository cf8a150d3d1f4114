"""The people in a photo: looked for once, and kept with it."""

import hashlib

from nubilis.arrays import Floats
from nubilis.cache import Cache
from nubilis.mask.people import Feature
from nubilis.people.nets import MODEL
from nubilis.people.people import People, look_for_people, people_of
from nubilis.proof.features import FeaturesMoved, feature_planes, features_moved
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines
from studio.models import KeptPeople

# Another way of finding people looks anew; masks that were made keep what they were made of.
PLANES_KEPT = 12  # each some 4 MB
STATE = hashlib.sha256(MODEL.encode()).hexdigest()


_people: Cache[People] = Cache(PLANES_KEPT)
_planes: Cache[dict[Feature, Floats]] = Cache(PLANES_KEPT)


def people_in(photo: Photo) -> People:
    """Raises ModelsMissing when the networks are not there."""
    return _people.get((photo.id, photo.content_hash), lambda: _looked_for(photo))


def _looked_for(photo: Photo) -> People:
    if kept := KeptPeople.of(photo, STATE):
        return people_of(bytes(kept.data))
    found = look_for_people(engines.get(photo).sight())
    KeptPeople.keep(photo, STATE, data=found.to_bytes())
    return found


def known_features(photo: Photo) -> dict[Feature, Floats]:
    """Lips and eyes at the analysis size; nothing where nobody has looked for people yet."""
    if KeptPeople.of(photo, STATE) is None:
        return {}
    key = photo.id, photo.content_hash
    return _planes.get(key, lambda: feature_planes(engines.get(photo), people_in(photo)))


def moved_features(photo: Photo, recipe: Recipe) -> tuple[FeaturesMoved, ...]:
    """What a treatment does to lips and eyes, where they are known."""
    return features_moved(engines.get(photo), recipe, known_features(photo))
