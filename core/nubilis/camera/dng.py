"""Write a raw photo as DNG, an open format.

Source: Digital Negative specification 1.4 (2012), chapters 2 to 4; TIFF/EP (ISO 12234-2:2001) for the mosaic.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import tifffile

from nubilis.arrays import Codes
from nubilis.camera.sensor import BLACK, PATTERN, WHITE, XYZ_TO_SENSOR, Exposed
from nubilis.photo.exif_block import EXIF_IFD, Value
from nubilis.photo.export import Wanted, exported
from nubilis.photo.picture import Photo
from nubilis.photo.write import append_directories, written_beside

MAKE, MODEL = "Quillwick", "Prompt box"
CFA, ROWS, D65_ILLUMINANT = 32803, 64, 21
PREVIEW = 1024  # pixels of its long edge
PARTS = 10_000  # of a whole, in rational numbers
_BYTE, _ASCII, _SHORT, _LONG, _RATIONAL, _SRATIONAL = 1, 2, 3, 4, 5, 10


@dataclass(frozen=True)
class Shot:
    """taken: as EXIF has it; orientation: EXIF's, 1..8."""

    iso: int
    taken: str
    orientation: int = 1
    lens: str = "Quillwick 50 mm f/2"


def write_dng(path: Path, raw: Exposed, preview: Codes, shot: Shot) -> None:
    """A preview first, then the mosaic in a directory of its own. Raises PhotoError."""
    with written_beside(path) as out:
        with tifffile.TiffWriter(out, byteorder="<") as tiff:
            tiff.write(
                preview,
                photometric="ycbcr",
                compression="jpeg",
                subsampling=(1, 1),
                subfiletype=1,
                subifds=1,
                extratags=_about(raw, shot),
                metadata=None,
                software=False,
                rowsperstrip=len(preview),
            )
            tiff.write(
                raw.codes,
                photometric=CFA,
                subfiletype=0,
                extratags=_mosaic(),
                metadata=None,
                software=False,
                rowsperstrip=ROWS,
            )
        append_directories(out, {EXIF_IFD: _exif(shot)})


Tag = tuple[int, int, int, object, bool]


def _about(raw: Exposed, shot: Shot) -> list[Tag]:
    neutral = _parts(raw.neutral)
    matrix = _parts(XYZ_TO_SENSOR.ravel().tolist())
    name = f"{MAKE} {MODEL}"
    return [
        (271, _ASCII, 0, MAKE, True),
        (272, _ASCII, 0, MODEL, True),
        (274, _SHORT, 1, shot.orientation, True),
        (50706, _BYTE, 4, bytes((1, 4, 0, 0)), True),
        (50707, _BYTE, 4, bytes((1, 1, 0, 0)), True),
        (50708, _ASCII, 0, name, True),
        (50721, _SRATIONAL, 9, matrix, True),
        (50728, _RATIONAL, 3, neutral, True),
        (50778, _SHORT, 1, D65_ILLUMINANT, True),
    ]


def _mosaic() -> list[Tag]:
    return [
        (33421, _SHORT, 2, (2, 2), True),
        (33422, _BYTE, 4, bytes(PATTERN), True),
        (50710, _BYTE, 3, bytes((0, 1, 2)), True),
        (50711, _SHORT, 1, 1, True),
        (50714, _LONG, 1, BLACK, True),
        (50717, _LONG, 1, WHITE, True),
    ]


def _parts(values: Sequence[float]) -> tuple[int, ...]:
    """Numerators and denominators in turn."""
    return tuple(n for v in values for n in (round(v * PARTS), PARTS))


def _exif(shot: Shot) -> list[Value]:
    return [
        Value(0x8827, _SHORT, 1, shot.iso.to_bytes(2, "little")),
        _text(0x9003, shot.taken),
        _text(0xA434, shot.lens),
    ]


def _text(tag: int, text: str) -> Value:
    data = text.encode() + b"\0"
    return Value(tag, _ASCII, len(data), data)


def preview_of(photo: Photo, edge: int = PREVIEW) -> Codes:
    """A small RGB picture, 8 bits."""
    small = exported(photo, Wanted("jpeg", "srgb", edge))
    return small.codes
