"""Small pictures for the contact sheet, made once per photo and recipe."""

import hashlib
from collections.abc import Callable
from pathlib import Path

import imagecodecs
from django.conf import settings

from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots.files import written_whole

EDGE = 560  # pixels: sharp at 280 on a screen of double density
QUALITY = 88
_UNTREATED = Recipe()


def thumbnail_path(content: str, recipe: Recipe = _UNTREATED) -> Path:
    """Where the thumbnail of an original under a recipe is or will be."""
    key = hashlib.sha256(recipe.model_dump_json().encode()).hexdigest()[:16]
    return Path(settings.THUMBNAILS) / f"{content}-{key}.jpg"


def write_thumbnail(engine: Engine, content: str, recipe: Recipe = _UNTREATED) -> bytes:
    """Render, store, and return it."""
    view = View.fit(engine.photo, EDGE)
    codes = display(engine, recipe, view, Show.NOW, None)
    jpeg = bytes(imagecodecs.jpeg8_encode(codes, level=QUALITY))
    path = thumbnail_path(content, recipe)
    written_whole(path, lambda part: part.write_bytes(jpeg))
    # One of the untouched photo and one as it is now; what was made for earlier recipes is litter.
    for other in path.parent.glob(f"{content}-*.jpg"):
        if other not in (path, thumbnail_path(content)):
            other.unlink(missing_ok=True)
    return jpeg


def read_thumbnail(
    engine_of: Callable[[], Engine], content: str, recipe: Recipe = _UNTREATED
) -> bytes:
    """The stored one, or made now; one that an older one's making swept away is made again."""
    try:
        return thumbnail_path(content, recipe).read_bytes()
    except FileNotFoundError:
        return write_thumbnail(engine_of(), content, recipe)
