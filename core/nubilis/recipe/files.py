"""Recipes as text: documents that are kept, and files that travel and carry their pictures inside."""

import json
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from nubilis.errors import RecipeError
from nubilis.recipe.asset import Bundle, Resolver, nowhere, pack
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import first_fault
from nubilis.recipe.modest import refuse_overlong
from nubilis.recipe.versions import Keep, upgraded
from nubilis.recipe.versions import nowhere as nowhere_kept

ASSETS = "assets"


def read_recipe(document: str | bytes, keep: Keep = nowhere_kept) -> Recipe:
    """Validate a document of any version. keep: takes what older ones carry inside. Raises RecipeError with
    one line that names the first fault."""
    return _validated(upgraded(_parsed(document), keep))


def read_file(document: str | bytes) -> tuple[Recipe, Bundle]:
    """The same of a file, with the pictures that it carries. Raises RecipeError."""
    parsed, bundle = _parsed(document), Bundle()
    packed = parsed.pop(ASSETS, {})
    if not isinstance(packed, dict) or not all(isinstance(v, str) for v in packed.values()):
        raise RecipeError("the recipe is not valid at assets: they are files in base64, by SHA-256")
    bundle.unpack(packed)
    recipe = _validated(upgraded(parsed, bundle.keep))
    for sha256 in recipe.assets:
        bundle(sha256)
    return recipe, bundle


def write_file(recipe: Recipe, assets: Resolver = nowhere) -> str:
    """A file that needs nothing else; read_file gives the same back. Raises RecipeError."""
    document = recipe.model_dump(mode="json")
    if recipe.assets:
        document[ASSETS] = pack(recipe.assets.values(), assets)
    return json.dumps(document, indent=1) + "\n"


def _parsed(document: str | bytes) -> dict[str, Any]:
    refuse_overlong(document)
    try:
        parsed = json.loads(document)
    except (ValueError, RecursionError) as error:
        raise RecipeError("the recipe is not valid JSON") from error
    if not isinstance(parsed, dict) or "format" not in parsed or "version" not in parsed:
        raise RecipeError("this is not a Nubilis recipe")
    return parsed


def _validated(document: dict[str, Any]) -> Recipe:
    try:
        return Recipe.model_validate(document)
    except ValidationError as error:
        place, text = first_fault(error)
        raise RecipeError(
            f"the recipe is not valid at {place}: {text}" if place else text
        ) from error


def write_schema(path: Path) -> None:
    """Write the JSON Schema of the current version."""
    path.write_text(json.dumps(Recipe.model_json_schema(), indent=1) + "\n")
