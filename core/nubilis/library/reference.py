"""A colour kept for later: what something should look like, in any photo."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints, field_validator

from nubilis.readable import readable
from nubilis.recipe.model import Model

Group = Literal["neutral", "skin", "material"]
Lab = tuple[
    Annotated[float, Field(ge=0.0, le=100.0, allow_inf_nan=False)],
    Annotated[float, Field(ge=-128.0, le=128.0, allow_inf_nan=False)],
    Annotated[float, Field(ge=-128.0, le=128.0, allow_inf_nan=False)],
]
LONGEST_NAME = 80


class Reference(Model):
    """lab: CIELAB D50; note: where it comes from, in the editor's words."""

    name: Annotated[
        str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME)
    ]
    group: Group
    lab: Lab
    note: Annotated[str, Field(max_length=200)] = ""

    @field_validator("name", "note")
    @classmethod
    def _one_line(cls, text: str) -> str:
        return readable(" ".join(text.split()))
