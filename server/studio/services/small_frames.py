"""Photos as small as following and agreeing need them, read from their thumbnails."""

import imagecodecs
import numpy as np

from nubilis.colour.profile import srgb
from nubilis.mask.sight import Sight
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.pyramid import Pyramid
from nubilis.recipe.document import Recipe
from nubilis.series.frame import Frame, frame_of
from shoots.models import Photo
from shoots.thumbnails import read_thumbnail
from studio.engines import engines

_UNTREATED = Recipe()


def small_frame(photo: Photo, recipe: Recipe = _UNTREATED) -> Frame:
    """As a recipe leaves it. Raises PhotoError."""
    jpeg = read_thumbnail(lambda: engines.get(photo), photo.content_hash, recipe)
    codes = np.asarray(imagecodecs.jpeg8_decode(jpeg), dtype=np.uint8)
    pyramid = Pyramid(Decoded(codes, srgb()))
    size = codes.shape[1], codes.shape[0]
    return frame_of(Sight(size, pyramid.read))
