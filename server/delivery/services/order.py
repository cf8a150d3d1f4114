"""What is wanted of a delivery, as it is asked for, kept under a name, and handed to the work."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

from nubilis.deliver.names import LONGEST_PATTERN, PATTERN, checked
from nubilis.deliver.pieces import Beside, MaskFormat
from nubilis.photo.about import About
from nubilis.photo.coding import (
    LEAST_KB,
    LEAST_QUALITY,
    MOST_KB,
    MOST_QUALITY,
    Coding,
    Subsampling,
)
from nubilis.photo.export import FEWEST, LARGEST, MOST_MEGAPIXELS, SMALLEST, Space, Wanted

Format = Literal[
    "jpeg", "png", "png16", "tiff", "tiff16", "avif", "avif10", "avif12", "jxl", "jxl16", "ora"
]
ProofForm = Literal["page", "pdf", "json", "csv"]


class Order(BaseModel):
    """space: the photo's own or a standard one; long_edge, megapixels: at most, None for all there are;
    quality, subsampling, limit_kb: of JPEG, the first of AVIF too; about: which metadata go along; names: a
    pattern; masks, table, recipe, proof: what goes beside each photo; folder: into a folder on the server's
    machine, else to be fetched."""

    model_config = ConfigDict(extra="forbid")

    file_format: Format
    space: Space = "keep"
    long_edge: Annotated[int, Field(ge=SMALLEST, le=LARGEST)] | None = None
    megapixels: Annotated[float, Field(ge=FEWEST, le=MOST_MEGAPIXELS)] | None = None
    quality: Annotated[int, Field(ge=LEAST_QUALITY, le=MOST_QUALITY)] | None = None
    subsampling: Subsampling = "444"
    limit_kb: Annotated[int, Field(ge=LEAST_KB, le=MOST_KB)] | None = None
    about: About = "all"
    names: Annotated[str, Field(max_length=LONGEST_PATTERN)] = PATTERN
    masks: MaskFormat | None = None
    table: bool = False
    recipe: bool = False
    proof: tuple[ProofForm, ...] = ()
    folder: bool = False

    @field_validator("names")
    @classmethod
    def _pattern(cls, names: str) -> str:
        return checked(names)

    @property
    def wanted(self) -> Wanted:
        coding = Coding(self.quality, self.subsampling, self.limit_kb)
        size = self.long_edge, self.megapixels
        return Wanted(self.file_format, self.space, *size, self.about, coding)

    @property
    def beside(self) -> Beside:
        return Beside(self.masks, self.table, self.recipe)

    @property
    def alone(self) -> bool:
        """Whether a photo comes to one file."""
        return self.beside == Beside() and not self.proof
