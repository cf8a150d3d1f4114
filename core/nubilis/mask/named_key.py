"""Colour keys under a name, to be used again: and as an open file, JSON."""

import json
from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import Field, ValidationError, field_validator

from nubilis.errors import RecipeError
from nubilis.mask.colour_key import ColourKey, Colours, Range
from nubilis.readable import readable
from nubilis.recipe.model import Model, first_fault

LONGEST_NAME = 60
MOST = 500


class NamedKey(Model):
    """A colour key (see colour_key.py) without its place in a mask."""

    name: Annotated[str, Field(min_length=1, max_length=LONGEST_NAME)]
    hue: Range
    saturation: Range
    luminance: Range
    left_out: Colours = ()

    def part(self, part_id: str) -> ColourKey:
        """As a part of a mask."""
        ranges = {n: getattr(self, n) for n in ("hue", "saturation", "luminance")}
        return ColourKey(id=part_id, **ranges, left_out=self.left_out)

    @field_validator("name")
    @classmethod
    def _told(cls, name: str) -> str:
        if not name.strip():
            raise ValueError("a key needs a name")
        return readable(name.strip())


class _File(Model):
    format: Literal["nubilis-keys"] = "nubilis-keys"
    version: Literal[1] = 1
    keys: Annotated[tuple[NamedKey, ...], Field(max_length=MOST)]


def write_keys(keys: Iterable[NamedKey]) -> str:
    """A file's text; read_keys gives the same keys back."""
    return _File(keys=tuple(keys)).model_dump_json(indent=1) + "\n"


def read_keys(text: str) -> tuple[NamedKey, ...]:
    """Raises RecipeError with one line that says what is wrong."""
    try:
        parsed = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise RecipeError("the file of keys is not valid JSON") from error
    if not isinstance(parsed, dict) or parsed.get("format") != "nubilis-keys":
        raise RecipeError("this is not a file of Nubilis keys")
    try:
        return _File.model_validate_json(text).keys
    except ValidationError as error:
        place, text = first_fault(error)
        raise RecipeError(f"the file of keys is not valid at {place}: {text}") from error
