"""What is masked at a place and by what, and how much of a cast lies there."""

from dataclasses import dataclass

from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View, pixel_at
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import Place

LEAST = 0.1  # coverage: what is hardly there was not meant


@dataclass(frozen=True)
class Covering:
    """cover: of the part alone, inverted and as strong as it is, 0..1."""

    cast: str
    part: str
    cover: float


def parts_at(engine: Engine, recipe: Recipe, at: Place) -> list[Covering]:
    """The parts, switched on, that cover a place, those of each cast together, fullest first."""
    view = engine.analysis_view
    x, y = pixel_at(at, view.shape)
    here = View(view.size, (x, y, x + 1, y + 1))
    found = []
    for cast in recipe.casts:
        covers = [
            Covering(
                cast.id, p.id, float(engine.mask(cast.mask.only(p.id), here, recipe.state)[0, 0])
            )
            for p in cast.mask.parts
            if p.on
        ]
        found += sorted((c for c in covers if c.cover > LEAST), key=lambda c: -c.cover)
    return found


def amount_at(engine: Engine, recipe: Recipe, cast_id: str, at: Place) -> float | None:
    """How much of a cast's strongest direction is found at a place; None where nothing is masked, or the cast
    does nothing. Raises PlaceError."""
    view = engine.analysis_view
    x, y = pixel_at(at, view.shape)
    here = View(view.size, (x, y, x + 1, y + 1))
    cast = next((c for c in recipe.casts if c.id == cast_id), None)
    if cast is None or not engine.mask(cast.mask, here, recipe.state).any():
        return None
    amounts = engine.amounts(recipe, cast_id, here)
    return float(amounts[0][1][0, 0]) if amounts else None
