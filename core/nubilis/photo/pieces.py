"""How many pieces a file may be in. Readers go through them one after the other, so that a small file of
nothing but pieces would take them minutes.

Source: PNG 1.2 (RFC 2083), section 3.2.
"""

from typing import BinaryIO

from nubilis.errors import PhotoError
from nubilis.photo.png import PIXELS, chunks

MOST = 20_000  # pieces that say something
MOST_OF_PIXELS = 300_000  # of a PNG; those of 8 kB in a gigabyte are half of it
MOST_SCANNED = 4_000_000_000  # pixels that all scans of a JPEG go over


def check_chunks(file: BinaryIO) -> None:
    """Of a PNG. The file is left anywhere. Raises PhotoError."""
    said = pixels = 0
    for kind, _ in chunks(file):
        pixels += kind in PIXELS
        said += kind not in PIXELS
        if said > MOST or pixels > MOST_OF_PIXELS:
            raise refuse_pieces("PNG")


def check_scans(scans: int, size: tuple[int, int]) -> None:
    """Of a JPEG; size: (width, height). Raises PhotoError."""
    if scans * size[0] * size[1] > MOST_SCANNED:
        raise refuse_pieces("JPEG")


def refuse_pieces(kind: str) -> PhotoError:
    return PhotoError(f"the {kind} file is in far more pieces than any camera or program makes")
