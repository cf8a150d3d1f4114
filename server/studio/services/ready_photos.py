"""Photos made ready to be looked at, kept while the editor talks with the finder."""

from collections.abc import Hashable, Iterator
from contextlib import suppress
from functools import partial

import imagecodecs
import numpy as np

from nubilis.cache import Cache
from nubilis.colour.profile import srgb
from nubilis.engine.acting import active_casts
from nubilis.errors import NubilisError, PhotoError
from nubilis.find.colours import Reduced, reduced
from nubilis.find.look import Surveyor
from nubilis.photo.sampling import decode
from nubilis.recipe.document import Recipe
from nubilis.settle.state import Settled
from shoots.models import Photo
from shoots.thumbnails import read_thumbnail
from studio.engines import engines
from studio.services.people import people_or_nobody
from studio.services.save_recipe import current

READY_KEPT = 4  # each some 20 MB
OTHERS = 6  # photos of the shoot that lend their palette, the nearest ones

JUDGED = 3  # treated ones among them, which have to be read whole

_ready: Cache[Surveyor] = Cache(READY_KEPT)
_treated: Cache[Reduced] = Cache(60)
_smalls: Cache[Reduced] = Cache(60)


def ready_photo(photo: Photo, recipe: Recipe, answers: bool = False) -> tuple[Hashable, Surveyor]:
    """The photo as a recipe leaves it, with the shoot's other photos as its palette; and a key that changes
    when any of these does. answers: let the photos that the editor has treated, or found to be in order,
    speak as they were left. Raises PhotoError."""
    near = _neighbours(photo)
    judged = _judged(near) if answers else []
    spoken = {o.id for o, _ in judged}
    others = [o for o in near if o.id not in spoken]
    lent = tuple((o.content_hash, r) for o, r in judged), tuple(o.content_hash for o in others)
    key = photo.content_hash, recipe, lent

    def make() -> Surveyor:
        palettes = list(_palettes(others, recipe.state)), list(_left(judged))
        return Surveyor(engines.get(photo), recipe, *palettes, people=people_or_nobody(photo))

    return key, _ready.get(key, make)


def _neighbours(photo: Photo) -> list[Photo]:
    """The nearest other photos of the shoot, in the order of the sheet."""
    others = list(photo.shoot.photos.exclude(id=photo.id))
    return sorted(others, key=lambda o: (abs(o.id - photo.id), o.id))[:OTHERS]


def _judged(photos: list[Photo]) -> list[tuple[Photo, Recipe]]:
    """Those on which the editor has had a word, and what was made of them: the nearest ones."""
    recipes = [(p, current(p).recipe) for p in photos]
    return [(p, r) for p, r in recipes if r.answered or active_casts(r)][:JUDGED]


def _left(judged: list[tuple[Photo, Recipe]]) -> Iterator[Reduced]:
    """The colours that the editor's treatment leaves. What cannot be read lends nothing."""
    for photo, recipe in judged:
        with suppress(NubilisError):
            yield _treated.get((photo.content_hash, recipe), partial(_sight, photo, recipe))


def _sight(photo: Photo, recipe: Recipe) -> Reduced:
    engine = engines.get(photo)
    return reduced(engine.render(recipe, engine.analysis_view))


def _palettes(photos: list[Photo], state: Settled) -> Iterator[Reduced]:
    """A photo whose files are lost lends nothing, and keeps none of the others from being looked at."""
    for photo in photos:
        with suppress(PhotoError):
            yield _small(photo, state)


def _small(photo: Photo, state: Settled) -> Reduced:
    """In the same state: the photos of a shoot are taken to be balanced alike."""
    make = partial(_read_small, photo, state)
    return _smalls.get((photo.content_hash, state), make)


def _read_small(photo: Photo, state: Settled) -> Reduced:
    jpeg = read_thumbnail(lambda: engines.get(photo), photo.content_hash)
    codes = imagecodecs.jpeg8_decode(jpeg)
    return reduced(state.applied(decode(np.asarray(codes, dtype=np.uint8), srgb())))
