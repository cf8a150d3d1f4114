"""Pictures inside answers."""

import base64

import imagecodecs

from nubilis.arrays import Codes
from nubilis.engine.overlay import Show, display
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines

QUALITY = 88


def jpeg_address(codes: Codes, quality: int) -> str:
    """A picture as a JPEG in a data address."""
    jpeg = bytes(imagecodecs.jpeg8_encode(codes, level=quality))
    return "data:image/jpeg;base64," + base64.b64encode(jpeg).decode()


def data_address(codes: Codes) -> str:
    """A picture as a PNG in a data address."""
    png = bytes(imagecodecs.png_encode(codes, level=1))
    return "data:image/png;base64," + base64.b64encode(png).decode()


def drawn_small(photo: Photo, recipe: Recipe, show: Show, cast: str | None, edge: int) -> bytes:
    """The whole photo under a recipe as a JPEG, its long edge at most `edge` pixels. Raises NubilisError."""
    engine = engines.get(photo)
    view = View.fit(engine.photo, edge)
    codes = display(engine, recipe, view, show, cast)
    return bytes(imagecodecs.jpeg8_encode(codes, level=QUALITY))
