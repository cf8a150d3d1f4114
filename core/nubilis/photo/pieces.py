"""How many pieces a file may be in. Readers go through them one after the other, so that a small file of
nothing but pieces would take them minutes.

Sources: PNG 1.2 (RFC 2083), section 3.2; ITU-T T.81 (1992), annex B.
"""

import re
from collections.abc import Iterator
from typing import BinaryIO

from nubilis.errors import PhotoError
from nubilis.photo.png import PIXELS, SIGNATURE, chunks

JPEG = b"\xff\xd8"
MOST = 20_000  # pieces that say something
MOST_OF_PIXELS = 300_000  # of a PNG; those of 8 kB in a gigabyte are half of it
# Of a JPEG, each of which goes over the whole picture: encoders make ten. And the pixels gone over by all.
MOST_SCANS, MOST_SCANNED = 100, 4_000_000_000
MOST_FILL = 1000  # bytes between the segments of a JPEG that mean nothing
_BLOCK = 2**24  # bytes that are looked through at once
_SCAN, _ALONE = b"\xff\xda", {0x01, *range(0xD0, 0xD8)}  # markers


def check_pieces(start: bytes, file: BinaryIO) -> int:
    """How often its pixels are gone over. start: its first bytes. The file is left anywhere. Raises
    PhotoError."""
    if start.startswith(SIGNATURE):
        _check_png(file)
    return _checked_scans(file) if start.startswith(JPEG) else 1


def check_scans(scans: int, size: tuple[int, int]) -> None:
    """size: (width, height). Raises PhotoError."""
    if scans * size[0] * size[1] > MOST_SCANNED:
        raise refuse_pieces("JPEG")


def refuse_pieces(kind: str) -> PhotoError:
    return PhotoError(f"the {kind} file is in far more pieces than any camera or program makes")


def _check_png(file: BinaryIO) -> None:
    said = pixels = 0
    for kind, _ in chunks(file):
        pixels += kind in PIXELS
        said += kind not in PIXELS
        if said > MOST or pixels > MOST_OF_PIXELS:
            raise refuse_pieces("PNG")


def _checked_scans(file: BinaryIO) -> int:
    if sum(1 for _ in _segments(file)) > MOST:
        raise refuse_pieces("JPEG")
    file.seek(0)
    scans, kept = 0, b""
    while block := file.read(_BLOCK):
        scans += (kept + block).count(_SCAN)
        kept = block[-1:]
    if scans > MOST_SCANS:
        raise refuse_pieces("JPEG")
    return scans


def _segments(file: BinaryIO) -> Iterator[int]:
    """Markers before the first scan, at most one more than may be; what is damaged ends them."""
    file.seek(len(JPEG))
    for _ in range(MOST + 1):
        fill = file.read(MOST_FILL)
        found = re.match(rb"\xff+([^\xff])", fill, re.DOTALL)
        if found is None:
            if len(fill) == MOST_FILL and not fill.strip(b"\xff"):
                raise refuse_pieces("JPEG")
            return
        file.seek(found.end() - len(fill), 1)
        (marker,) = found[1]
        yield marker
        if marker in _ALONE:
            continue
        length = file.read(2)
        if marker in (0xD9, 0xDA) or len(length) < 2:
            return
        file.seek(int.from_bytes(length, "big") - 2, 1)
