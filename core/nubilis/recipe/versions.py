"""Recipes of earlier versions, brought up to this one step by step.

Who adds or changes a field raises the version, adds the step that brings older documents there, and
freezes a document of the new version for the tests (core/tests/recipes).
"""

from collections.abc import Callable
from typing import Any

from nubilis.errors import RecipeError
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import VERSION

Document = dict[str, Any]
Keep = Callable[[bytes], Asset]  # where a file goes that a document no longer carries


def nowhere(data: bytes) -> Asset:
    """Of whoever keeps no files. Raises RecipeError."""
    raise RecipeError("a mask picture of an older recipe can only be kept with a photo")


# Of a version: what makes a document of the next one of it.
STEPS: dict[int, Callable[[Document, Keep], Document]] = {}


def upgraded(document: Document, keep: Keep = nowhere) -> Document:
    """A document of any version that is known, as one of this version. Raises RecipeError."""
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise RecipeError(f"the recipe's version {version!r:.20} is unknown")
    if version > VERSION:
        raise RecipeError(f"the recipe is of version {version}; this program reads up to {VERSION}")
    oldest = min(STEPS, default=VERSION)
    if version < oldest:
        raise RecipeError(
            f"the recipe is of version {version}; this program reads from {oldest} on"
        )
    for number in range(version, VERSION):
        try:
            document = STEPS[number](document, keep) | {"version": number + 1}
        except (TypeError, AttributeError, KeyError) as error:
            raise RecipeError(f"the recipe is not one of version {number}") from error
    return document
