"""What every part of a recipe shares: strict models, short identifiers, bounded numbers."""

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, ValidationError

from nubilis.recipe.modest import FailsFast

Identifier = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
# They turn the direction in which what follows is read, or break the line.
TURNING = "\u061c\u200e\u200f\u2028\u2029\u202a\u202b\u202c\u202d\u202e\u2066\u2067\u2068\u2069"


def readable(text: str) -> str:
    """A name that may be written anywhere as it is. Raises ValueError."""
    if any(c in TURNING or unicodedata.category(c) in ("Cc", "Cs") for c in text):
        raise ValueError("a name has no control characters, and none that turn its direction")
    return text


Readable = AfterValidator(readable)
Share = Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)]
# Places are fractions of the photo's long edge, so that a recipe fits any size of the same photo.
Place = tuple[
    Annotated[float, Field(ge=-1.0, le=2.0, allow_inf_nan=False)],
    Annotated[float, Field(ge=-1.0, le=2.0, allow_inf_nan=False)],
]
Light = Annotated[float, Field(ge=-10.0, le=100.0, allow_inf_nan=False)]
LinearRgb = tuple[Light, Light, Light]


class Model(FailsFast, BaseModel):
    """Frozen, so that a recipe can be a cache key; strict, so that a typo is not silently lost."""

    model_config = ConfigDict(frozen=True, extra="forbid")


def first_fault(error: ValidationError) -> tuple[str, str]:
    """Where in a document the first fault is, and what is wrong there."""
    first = error.errors()[0]
    return ".".join(str(p) for p in first["loc"]), first["msg"].removeprefix("Value error, ")
