"""Looking for casts: step by step, so that it can be told and stopped; and what was seen is kept."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from nubilis.arrays import Codes
from nubilis.cache import Cache
from nubilis.find.field import Words
from nubilis.find.look import Survey
from nubilis.find.map import map_picture
from nubilis.recipe.base import LinearRgb, Model, Place
from nubilis.recipe.document import Recipe
from nubilis.remedy.direction import Pair
from nubilis.sample import measure_place, neutral_of
from shoots.models import Photo
from studio.engines import engines
from studio.sights import sight

MAPS_KEPT = 8


class Said(Model):
    """What the editor has said. direction: a shift in log cone chroma; places: tainted ones; neutral:
    a place that should be neutral; pair_of: the cast whose pairs show the direction."""

    direction: tuple[float, float] | None = None
    places: tuple[Place, ...] = ()
    neutral: Place | None = None
    pair_of: str | None = None


@dataclass(frozen=True, eq=False)
class Seen:
    """What was seen, and after what words."""

    said: Said
    survey: Survey


_maps: Cache[Codes] = Cache(MAPS_KEPT)


def look_in_steps(photo: Photo, recipe: Recipe, said: Said) -> Iterator[float | Seen]:
    """Yields the share done after each step, and at last what was seen. Raises NubilisError."""
    yield 0.05
    engines.get(photo)  # decoding is the longest part of a first look
    yield 0.4
    ready = sight(photo, recipe.base)
    yield 0.9
    words = _words(photo, recipe, said)
    casts = tuple(c for c in recipe.casts if c.id != said.pair_of)
    known = recipe.model_copy(update={"casts": casts})
    explained = ready.explained(engines.get(photo), known)
    seen = ready.look(replace(words, explained=explained))
    _maps.get(_key(photo, recipe, said), lambda: _map(photo, recipe, seen))
    yield Seen(said, seen)


def look_at_once(photo: Photo, recipe: Recipe, said: Said) -> Survey:
    """The same without telling. Raises NubilisError."""
    *_, last = look_in_steps(photo, recipe, said)
    assert isinstance(last, Seen)
    return last.survey


def field_map(photo: Photo, recipe: Recipe, said: Said) -> Codes:
    """The map of the last look, as code values at the analysis size. Raises NubilisError."""
    key = _key(photo, recipe, said)
    return _maps.get(key, lambda: _map(photo, recipe, look_at_once(photo, recipe, said)))


def _map(photo: Photo, recipe: Recipe, seen: Survey) -> Codes:
    engine = engines.get(photo)
    return map_picture(seen, engine.settled(engine.analysis_view, recipe.base))


def _key(photo: Photo, recipe: Recipe, said: Said) -> tuple[object, ...]:
    casts = tuple((c.pairs, c.mask) for c in recipe.casts)
    return photo.content_hash, recipe.base, casts, recipe.dismissed, said


def _words(photo: Photo, recipe: Recipe, said: Said) -> Words:
    """Raises PlaceError for a place outside the photo."""
    words = Words(said.direction, said.places)
    shown = next((c for c in recipe.settled_casts() if c.id == said.pair_of), None)
    pairs = shown.measured_pairs() if shown else []
    if said.neutral is not None:
        settled = Recipe(base=recipe.base)
        rgb: LinearRgb = measure_place(engines.get(photo), said.neutral, recipe=settled).rgb
        pairs = [Pair(rgb, neutral_of(rgb), said.neutral)]
    if not pairs:
        return words
    shift = [float(sum(p.shift[i] for p in pairs)) for i in (0, 1)]
    places = tuple(p.tainted_at for p in pairs if p.tainted_at is not None)
    return replace(words, direction=(shift[0], shift[1]), places=words.places + places)
