"""Documents that are refused before they take seconds: far too large, or wrong a hundred thousand times."""

from collections.abc import Iterable
from typing import Any

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema

from nubilis.errors import RecipeError

# What one may come to before its details are looked at: values in all, fields of an object, entries of lists.
MOST_VALUES, MOST_FIELDS, MOST_ENTRIES = 300_000, 64, 100_000


def refuse_overlong(document: str | bytes) -> None:
    """Before it is parsed: there is a comma between two values. Raises RecipeError."""
    commas = document.count(",") if isinstance(document, str) else document.count(b",")
    if commas > MOST_VALUES:
        raise RecipeError(f"the document is too long: more than {MOST_VALUES} values")


class FailsFast:
    """For models whose lists end at their first fault: telling a hundred thousand takes seconds."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        schema = handler(source)
        inside: list[Any] = [schema]
        while inside:
            part = inside.pop()
            if isinstance(part, dict):
                if part.get("type") in ("list", "tuple"):
                    part["fail_fast"] = True
                inside += part.values()
            elif isinstance(part, list | tuple):
                inside += part
        return schema


def modest(document: object) -> None:
    """Raises RecipeError for one that comes to far more than anybody makes by hand. Takes milliseconds."""
    inside, entries = [document], 0
    while inside:
        part = inside.pop()
        if isinstance(part, dict):
            if len(part) > MOST_FIELDS:
                raise RecipeError(f"the recipe has an object of more than {MOST_FIELDS} fields")
            inside += _lists_and_objects(part.values())
        elif isinstance(part, list):
            entries += len(part)
            if entries > MOST_ENTRIES:
                raise RecipeError(f"the recipe's lists have more than {MOST_ENTRIES} entries")
            # Lists in a list are places: as many entries as they are.
            if part and not isinstance(part[0], list):
                inside += _lists_and_objects(part)


def _lists_and_objects(parts: Iterable[object]) -> list[object]:
    return [p for p in parts if isinstance(p, dict | list)]
