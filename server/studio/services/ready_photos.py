"""Photos made ready to be looked at, kept while the editor talks with the finder."""

from collections.abc import Hashable, Iterator
from contextlib import suppress
from functools import lru_cache

import imagecodecs
import numpy as np

from nubilis.cache import Cache
from nubilis.colour.profile import srgb
from nubilis.errors import PhotoError
from nubilis.find.colours import Reduced, reduced
from nubilis.find.look import Surveyor
from nubilis.photo.sampling import decode
from nubilis.recipe.document import Recipe
from nubilis.settle.state import Settled
from shoots.models import Photo
from shoots.thumbnails import thumbnail_path, write_thumbnail
from studio.engines import engines

READY_KEPT = 4  # each some 20 MB
OTHERS = 6  # photos of the shoot that lend their palette, the nearest ones

_ready: Cache[Surveyor] = Cache(READY_KEPT)


def ready_photo(photo: Photo, recipe: Recipe) -> tuple[Hashable, Surveyor]:
    """The photo as a recipe leaves it, with the shoot's other photos as its palette; and a key that changes
    when any of these does. Raises PhotoError."""
    near = _neighbours(photo)
    key = photo.content_hash, recipe, tuple(o.content_hash for o in near)

    def make() -> Surveyor:
        return Surveyor(engines.get(photo), recipe, list(_palettes(near, recipe.state)))

    return key, _ready.get(key, make)


def _neighbours(photo: Photo) -> list[Photo]:
    """The nearest other photos of the shoot, in the order of the sheet."""
    others = list(photo.shoot.photos.exclude(id=photo.id))
    return sorted(others, key=lambda o: (abs(o.id - photo.id), o.id))[:OTHERS]


def _palettes(photos: list[Photo], state: Settled) -> Iterator[Reduced]:
    """A photo whose files are lost lends nothing, and keeps none of the others from being looked at."""
    for photo in photos:
        with suppress(PhotoError):
            yield _small(photo, state)


def _small(photo: Photo, state: Settled) -> Reduced:
    """In the same state: the photos of a shoot are taken to be balanced alike."""
    if not thumbnail_path(photo.content_hash).is_file():
        write_thumbnail(engines.get(photo), photo.content_hash)
    return _read_small(photo.content_hash, state)


@lru_cache(maxsize=60)
def _read_small(content: str, state: Settled) -> Reduced:
    codes = imagecodecs.jpeg8_decode(thumbnail_path(content).read_bytes())
    return reduced(state.applied(decode(np.asarray(codes, dtype=np.uint8), srgb())))
