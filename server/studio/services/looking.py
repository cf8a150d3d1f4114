"""Looking for casts: step by step, so that it can be told and stopped; and what was seen is kept."""

from collections.abc import Hashable, Iterator
from dataclasses import dataclass, replace

from nubilis.arrays import Codes
from nubilis.cache import Cache
from nubilis.cast.direction import MeasuredPair, common_shift
from nubilis.engine.engine import Engine
from nubilis.engine.sample import measure_place, neutral_of
from nubilis.find.field import Words
from nubilis.find.look import Survey
from nubilis.find.map import map_picture
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import LinearRgb, Model, Place
from shoots.models import Photo
from studio.engines import engines
from studio.services.ready_photos import ready_photo

KEPT = 4  # surveys and their maps, each some 10 MB


class Said(Model):
    """What the editor has said. direction: a shift in log cone chroma; places: tainted ones; neutral:
    a place that should be neutral; pair_of: the cast whose pairs show the direction."""

    direction: tuple[float, float] | None = None
    places: tuple[Place, ...] = ()
    neutral: Place | None = None
    pair_of: str | None = None


@dataclass(frozen=True, eq=False)
class Looked:
    """What was seen; others: how many photos of the shoot lent their palette; key: what it depends on."""

    survey: Survey
    others: int
    key: Hashable


_surveys: Cache[Survey] = Cache(KEPT)
_maps: Cache[Codes] = Cache(KEPT)


def look_in_steps(photo: Photo, recipe: Recipe, said: Said) -> Iterator[float | Looked]:
    """Yields the share done after each step, and at last what was seen. Raises NubilisError."""
    yield 0.05
    engine = engines.get(photo)  # decoding is the longest part of a first look
    yield 0.4
    key, ready = ready_photo(photo, recipe.bare, answers=True)
    yield 0.9

    def look() -> Survey:
        casts = tuple(c for c in recipe.casts if c.id != said.pair_of)
        known = recipe.model_copy(update={"casts": casts})
        words = _words(engine, recipe, said)
        return ready.look(replace(words, explained=ready.explained(engine, known)))

    evidence = tuple((c.id, c.pairs, c.mask) for c in recipe.casts)
    key = key, evidence, recipe.dismissed, said
    yield Looked(_surveys.get(key, look), ready.others, key)


def field_map(photo: Photo, recipe: Recipe, said: Said) -> Codes:
    """The map of the last look, as code values at the analysis size. Raises NubilisError."""
    *_, seen = look_in_steps(photo, recipe, said)
    assert isinstance(seen, Looked)
    engine = engines.get(photo)
    settled = engine.settled(engine.analysis_view, recipe.state)
    return _maps.get(seen.key, lambda: map_picture(seen.survey, settled))


def _words(engine: Engine, recipe: Recipe, said: Said) -> Words:
    """Raises PlaceError for a place outside the photo."""
    words = Words(said.direction, said.places)
    shown = next((c for c in recipe.settled_casts() if c.id == said.pair_of), None)
    pairs = shown.heard_pairs() if shown else []
    if said.neutral is not None:
        settled = recipe.bare
        rgb: LinearRgb = measure_place(engine, said.neutral, recipe=settled).rgb
        pairs = [MeasuredPair(rgb, neutral_of(rgb), said.neutral)]
    if not pairs:
        return words
    places = tuple(p.tainted_at for p in pairs if p.tainted_at is not None)
    return replace(words, direction=common_shift(pairs), places=words.places + places)
