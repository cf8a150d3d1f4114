"""The recipe: what is wrong with a photo and what is done about it. Format described in docs/recipe.md."""

import json
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator

from nubilis.errors import RecipeError
from nubilis.mask.combine import Mask
from nubilis.recipe.base import Identifier, LinearRgb, Model, Place
from nubilis.remedy.direction import Pair as MeasuredPair
from nubilis.remedy.kinds import AnyRemedy

FORMAT: Literal["nubilis-recipe"] = "nubilis-recipe"
VERSION: Literal[1] = 1
_Radius = Annotated[float, Field(ge=0.0, le=0.5, allow_inf_nan=False)]


class Sample(Model):
    """A measured place. rgb: robust mean, linear Rec. 2020; radius: fraction of the long edge.

    A colour that was made (such as a neutral) has no place.
    """

    at: Place | None
    radius: _Radius = 0.0025
    rgb: LinearRgb


class Pair(Model):
    """A tainted sample and what it should be. Without a reference the pair waits for one."""

    id: Identifier
    tainted: Sample
    reference: Sample | None = None
    reference_kind: Literal["place", "neutral"] = "place"

    def measured(self) -> MeasuredPair | None:
        if self.reference is None:
            return None
        return MeasuredPair(
            self.tainted.rgb, self.reference.rgb, self.tainted.at, self.reference.at
        )


class Guard(Model):
    """A colour that must not change."""

    id: Identifier
    sample: Sample


class Cast(Model):
    """One taint: its evidence, where it lies, and what is done about it."""

    id: Identifier
    name: Annotated[str, Field(max_length=120)] = ""
    on: bool = True
    pairs: Annotated[tuple[Pair, ...], Field(max_length=50)] = ()
    guards: Annotated[tuple[Guard, ...], Field(max_length=50)] = ()
    mask: Mask = Mask()
    remedies: Annotated[tuple[AnyRemedy, ...], Field(max_length=20)] = ()

    def measured_pairs(self) -> list[MeasuredPair]:
        """The complete pairs."""
        return [m for p in self.pairs if (m := p.measured()) is not None]


class Recipe(Model):
    """Version 1."""

    format: Literal["nubilis-recipe"] = FORMAT
    version: Literal[1] = VERSION
    casts: Annotated[tuple[Cast, ...], Field(max_length=52)] = ()

    @model_validator(mode="before")
    @classmethod
    def _known(cls, document: Any) -> Any:
        """Say what is wrong with the whole before what is wrong with a detail."""
        if isinstance(document, dict):
            if document.get("format", FORMAT) != FORMAT:
                raise RecipeError("this is not a Nubilis recipe")
            version = document.get("version", VERSION)
            if isinstance(version, int) and version > VERSION:
                raise RecipeError(
                    f"the recipe is of version {version}; this program reads up to {VERSION}"
                )
            if version != VERSION:
                raise RecipeError(f"the recipe's version {version!r} is unknown")
        return document

    @model_validator(mode="after")
    def _told_apart(self) -> "Recipe":
        names = [c.id for c in self.casts]
        if len(set(names)) < len(names):
            raise RecipeError("two casts have the same id")
        return self


def read_recipe(document: str | bytes) -> Recipe:
    """Validate a recipe file. Raises RecipeError with one line that names the first fault."""
    try:
        parsed = json.loads(document)
    except (ValueError, RecursionError) as error:
        raise RecipeError("the recipe is not valid JSON") from error
    if not isinstance(parsed, dict) or "format" not in parsed or "version" not in parsed:
        raise RecipeError("this is not a Nubilis recipe")
    try:
        return Recipe.model_validate_json(document)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(p) for p in first["loc"])
        text = first["msg"].removeprefix("Value error, ")
        raise RecipeError(
            f"the recipe is not valid at {place}: {text}" if place else text
        ) from error


def write_recipe(recipe: Recipe) -> str:
    """The document as text; read_recipe gives the same recipe back."""
    return recipe.model_dump_json(indent=1) + "\n"


def write_schema(path: Path) -> None:
    """Write the JSON Schema of the current version."""
    path.write_text(json.dumps(Recipe.model_json_schema(), indent=1) + "\n")
