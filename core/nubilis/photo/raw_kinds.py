"""Which files are raw, by how they begin, and why one cannot be developed.

The marks are those by which LibRaw and libopenraw tell them; a raw TIFF says by its photometric kind what it
is (DNG 1.7.1 (2023), chapter 4; TIFF/EP, ISO 12234-2 (2001), section 5.1).
"""

import io
import logging
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from itertools import islice
from typing import Any, BinaryIO

import tifffile

from nubilis.errors import PhotoError


@dataclass(frozen=True)
class Kind:
    """endings: of such files; at: where the mark stands."""

    endings: str
    at: int
    mark: bytes


KINDS = (
    Kind("CR2", 8, b"CR\x02"),
    Kind("CR3", 4, b"ftypcrx "),
    Kind("CRW", 6, b"HEAPCCDR"),
    Kind("IIQ", 8, b"IIII"),
    Kind("IIQ", 8, b"MMMM"),
    Kind("MRW", 0, b"\0MRM"),
    Kind("ORF", 0, b"IIRO"),
    Kind("ORF", 0, b"IIRS"),
    Kind("ORF", 0, b"MMOR"),
    Kind("RAF", 0, b"FUJIFILMCCD-RAW"),
    Kind("RW2, RWL", 0, b"IIU\0"),
    Kind("X3F", 0, b"FOVb"),
    Kind("R3D", 4, b"RED1"),
    Kind("R3D", 4, b"RED2"),
)
_MOSAICS = (32803, 34892)  # photometric interpretations: colour filter array, linear raw
_DNG_VERSION = 50706
_MOST_DIRECTORIES = 12
# Of a mosaic's compressions, those that nothing here unpacks.
_PACKINGS = {9: "VC-5 (GPR)", 52546: "JPEG XL"}


def is_raw(start: bytes, file: BinaryIO) -> bool:
    """Whether a file is raw. start: its first bytes; file: looked through for TIFFs alone."""
    if _kind(start) is not None:
        return True
    return start[:2] in (b"II", b"MM") and next(_mosaics(file), None) is not None


def refusal(data: bytes, *, unknown: bool = False) -> PhotoError:
    """What to say of a raw file that cannot be developed. unknown: that it looks like none of those known."""
    for page in _mosaics(io.BytesIO(data)):
        if (packing := _PACKINGS.get(int(page.compression))) is not None:
            return PhotoError(f"a raw file packed as {packing} is not known; a DNG without may be")
    kind = _kind(data)
    named = f" ({kind.endings})" if kind else ""
    if unknown:
        return PhotoError(f"this camera's raw files{named} are not known; a DNG of it may be")
    return PhotoError(f"the raw file{named} is damaged or incomplete")


def _kind(start: bytes) -> Kind | None:
    return next((k for k in KINDS if start[k.at : k.at + len(k.mark)] == k.mark), None)


def _mosaics(file: BinaryIO) -> Iterator[Any]:
    """Pages of a TIFF that are a sensor's, or all of those of a DNG; none of what is no TIFF after all."""
    file.seek(0)
    logging.getLogger("tifffile").setLevel(logging.CRITICAL)  # what is wrong is said by us
    with suppress(Exception), tifffile.TiffFile(file) as tiff:
        # A slice would look for the last of them first.
        for page in islice(tiff.pages, _MOST_DIRECTORIES):
            inner = () if page.pages is None else islice(page.pages, _MOST_DIRECTORIES)
            for one in (page, *inner):
                if _DNG_VERSION in page.tags or one.photometric in _MOSAICS:
                    yield one
