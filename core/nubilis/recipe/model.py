"""What every part of a recipe shares: strict models, short identifiers, bounded numbers."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from nubilis.recipe.modest import FailsFast

Identifier = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
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
