"""Recipes of earlier versions, brought up to this one step by step: 1 -> 2 -> ...

Whoever adds or changes a field raises the version, adds the step that brings older documents there, and
freezes a document of the new version for the tests (core/tests/recipes).
"""

from collections.abc import Callable
from typing import Any

from nubilis.errors import RecipeError
from nubilis.recipe.asset import Asset, from_base64
from nubilis.recipe.document import VERSION

Document = dict[str, Any]
Keep = Callable[[bytes], Asset]  # where a file goes that a document no longer carries


def nowhere(data: bytes) -> Asset:
    """Of whoever keeps no files. Raises RecipeError."""
    raise RecipeError("a mask picture of an older recipe can only be kept with a photo")


def upgraded(document: Document, keep: Keep = nowhere) -> Document:
    """A document of any version up to this one, as one of this version. Raises RecipeError."""
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise RecipeError(f"the recipe's version {version!r:.20} is unknown")
    if version > VERSION:
        raise RecipeError(f"the recipe is of version {version}; this program reads up to {VERSION}")
    for number in range(version, VERSION):
        try:
            document = STEPS[number](document, keep) | {"version": number + 1}
        except (TypeError, AttributeError, KeyError) as error:
            raise RecipeError(f"the recipe is not one of version {number}") from error
    return document


def _masks_kept_apart(document: Document, keep: Keep) -> Document:
    """1 -> 2: pictures are kept by their content; what early documents of version 1 said otherwise."""

    def part(old: Document) -> Document:
        if old.get("kind") != "picture":
            return old
        rest = {name: value for name, value in old.items() if name != "png"}
        return rest | {"asset": keep(from_base64(old["png"])).model_dump()}

    def cast(old: Document) -> Document:
        mask = old.get("mask", {})
        return old | {
            "pairs": [_pair(p) for p in old.get("pairs", [])],
            "mask": mask | {"parts": [part(p) for p in mask.get("parts", [])]},
            "remedies": [_remedy(r) for r in old.get("remedies", [])],
        }

    return document | {"casts": [cast(c) for c in document.get("casts", [])]}


def _pair(old: Document) -> Document:
    """At first a pair said whether its reference was a place or a made neutral."""
    pair = {name: value for name, value in old.items() if name != "reference_kind"}
    if old.get("reference_kind") == "neutral" and pair.get("reference"):
        pair["reference"] = {"origin": "neutral"} | pair["reference"]
    return pair


def _remedy(old: Document) -> Document:
    """At first a match was the same everywhere in the mask."""
    if old.get("kind") == "match" and "hold_luminance" in old and "follow" not in old:
        return old | {"follow": 0.0}
    return old


def _nothing_touched(document: Document, keep: Keep) -> Document:
    """2 -> 3: amounts touched by hand and the finder's question came; what is not said of them rests."""
    return document


def _more_remedies(document: Document, keep: Keep) -> Document:
    """3 -> 4: six kinds of remedies came, and the pivot of contrast, which was the middle."""
    return document


def _colours_shaped(document: Document, keep: Keep) -> Document:
    """4 -> 5: four kinds of remedies came that shape colours; what is not said of them rests."""
    return document


def _people_known(document: Document, keep: Keep) -> Document:
    """5 -> 6: masks may be made of people."""
    return document


STEPS: dict[int, Callable[[Document, Keep], Document]] = {
    1: _masks_kept_apart,
    2: _nothing_touched,
    3: _more_remedies,
    4: _colours_shaped,
    5: _people_known,
}
