"""The pixels behind the figures of a proof, and the finder's field before and after it."""

from collections.abc import Hashable

from nubilis.arrays import Codes
from nubilis.cache import Cache
from nubilis.find.look import Survey
from nubilis.find.map import map_picture
from nubilis.proof.figures import Figure, Key, of_field
from nubilis.proof.outcome import Outcome
from nubilis.proof.pixels import When, pixels_picture
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import Model
from shoots.models import Photo
from studio.engines import engines
from studio.services.ready_photos import ready_photo

KEPT = 6  # pictures and surveys, each some 10 MB at most


class ShownFigure(Model):
    key: Key
    when: When = "now"


_pictures: Cache[Codes] = Cache(KEPT)
_surveys: Cache[Survey] = Cache(KEPT)


def figure_picture(photo: Photo, recipe: Recipe, shown: ShownFigure, cast: str | None) -> Codes:
    """sRGB code values (h, w, 3) at the analysis size. Raises NubilisError."""
    figure = shown.key
    if figure == "field":
        return _field_picture(photo, _as_left(recipe, shown.when))
    return _pictures.get(
        (photo.content_hash, recipe, shown, cast),
        lambda: pixels_picture(Outcome(engines.get(photo), recipe), figure, shown.when, cast),
    )


def field_change(photo: Photo, recipe: Recipe) -> Figure:
    """What the finder takes for taint when nothing is said to it. Raises NubilisError."""
    return of_field(*(_mean(photo, _as_left(recipe, when)) for when in ("before", "now")))


def _field_picture(photo: Photo, recipe: Recipe) -> Codes:
    key, survey = _field(photo, recipe)
    engine = engines.get(photo)
    picture = engine.render(recipe, engine.analysis_view)
    return _pictures.get(key, lambda: map_picture(survey, picture))


def _mean(photo: Photo, recipe: Recipe) -> float:
    return float(_field(photo, recipe)[1].taint.mean())


def _as_left(recipe: Recipe, when: str) -> Recipe:
    return recipe.uncast if when == "before" else recipe


def _field(photo: Photo, recipe: Recipe) -> tuple[Hashable, Survey]:
    key, ready = ready_photo(photo, recipe)
    return key, _surveys.get(key, ready.look)
