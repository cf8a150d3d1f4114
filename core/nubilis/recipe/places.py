"""Samples lie on the photo that they were taken from."""

from collections.abc import Iterator

from nubilis.errors import RecipeError
from nubilis.recipe.document import Cast, Recipe, Sample


def refuse_outside(recipe: Recipe, size: tuple[int, int]) -> None:
    """size: (width, height) of the photo. Raises RecipeError, with the place of the fault."""
    long_edge = max(size)
    wide, tall = size[0] / long_edge, size[1] / long_edge
    for i, cast in enumerate(recipe.casts):
        for where, sample in _samples(cast):
            places = (*((sample.at,) if sample.at else ()), *sample.further)
            if not all(0.0 <= x < wide and 0.0 <= y < tall for x, y in places):
                raise RecipeError(f"casts.{i}.{where}.at: the place lies outside the photo")


def _samples(cast: Cast) -> Iterator[tuple[str, Sample]]:
    for i, pair in enumerate(cast.pairs):
        yield f"pairs.{i}.tainted", pair.tainted
        if pair.reference is not None:
            yield f"pairs.{i}.reference", pair.reference
    for i, guard in enumerate(cast.guards):
        yield f"guards.{i}.sample", guard.sample
