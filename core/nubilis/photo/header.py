"""What a picture file says before its pixels are decoded."""

from dataclasses import dataclass, field

from nubilis.errors import PhotoError
from nubilis.photo.jxl import JxlSays
from nubilis.photo.metadata import Metadata
from nubilis.photo.png_colour import PngSays

MAX_PIXELS = 200_000_000
FURTHER = "The file holds further pictures: the first was opened"


@dataclass(frozen=True)
class Header:
    """size: (width, height) as stored; mode: as Pillow calls it; png, jxl: what only such a file says; notes:
    for a person."""

    format: str
    size: tuple[int, int]
    mode: str
    icc: bytes | None = field(repr=False)
    metadata: Metadata
    orientation: int
    png: PngSays | None = None
    jxl: JxlSays | None = None
    notes: tuple[str, ...] = ()

    @property
    def of_inks(self) -> bool:
        return self.mode in ("CMYK", "YCCK")


def check_size(width: int, height: int) -> None:
    if width * height > MAX_PIXELS:
        raise PhotoError(
            f"the picture claims {width} x {height} pixels; the limit is {MAX_PIXELS // 10**6} megapixels"
        )
