"""Small pictures for the contact sheet, made once per photo and recipe."""

import hashlib
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import cv2
import imagecodecs
import numpy as np

from config.errors import is_disk_full
from nubilis.arrays import Codes
from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots import files
from shoots.small import folder_of

EDGE = 560  # pixels: sharp at 280 on a screen of double density
QUALITY = 88
_UNTREATED = Recipe()


def thumbnail_name(content: str, recipe: Recipe = _UNTREATED) -> str:
    """Under which the thumbnail of an original under a recipe is or will be stored."""
    key = hashlib.sha256(recipe.model_dump_json().encode()).hexdigest()[:16]
    return f"{folder_of(content)}/{key}.jpg"


def thumbnail_path(content: str, recipe: Recipe = _UNTREATED) -> Path:
    """A file to read it from. Raises FileNotFoundError where files lie elsewhere."""
    return files.local(thumbnail_name(content, recipe))


def thumbnail_is_there(content: str) -> bool:
    return files.size(thumbnail_name(content)) is not None


def write_thumbnail(engine: Engine, content: str, recipe: Recipe = _UNTREATED) -> bytes:
    """Render, store if there is room, and return it."""
    view = View.fit(engine.photo, EDGE)
    codes = display(engine, recipe, view, Show.NOW, None)
    jpeg = bytes(imagecodecs.jpeg8_encode(codes, level=QUALITY))
    name = thumbnail_name(content, recipe)
    try:
        files.put(name, lambda part: part.write_bytes(jpeg))
    except OSError as error:
        if not is_disk_full(error):
            raise
        return jpeg
    # One of the untouched photo and one as it is now; what was made for earlier recipes is litter.
    for other in files.listed(folder_of(content)):
        if other not in (name, thumbnail_name(content)):
            files.forget(other)
    return jpeg


def keep_preview(codes: Codes, content: str) -> None:
    """codes: uint8 (h, w, 3) in sRGB: what a camera made of its raw file, until that is developed."""
    wide, tall = View.within((codes.shape[1], codes.shape[0]), EDGE).size
    small = cv2.resize(codes, (wide, tall), interpolation=cv2.INTER_AREA)
    jpeg = bytes(imagecodecs.jpeg8_encode(np.ascontiguousarray(small), level=QUALITY))
    files.put(thumbnail_name(content), lambda part: part.write_bytes(jpeg))


def kept_thumbnail(content: str, recipe: Recipe = _UNTREATED) -> bytes | None:
    """The stored one, if there is any."""
    with suppress(FileNotFoundError), files.reading(thumbnail_name(content, recipe)) as path:
        return path.read_bytes()
    return None


def read_thumbnail(
    engine_of: Callable[[], Engine], content: str, recipe: Recipe = _UNTREATED
) -> bytes:
    """The stored one, or made now; one that an older one's making swept away is made again."""
    return kept_thumbnail(content, recipe) or write_thumbnail(engine_of(), content, recipe)
