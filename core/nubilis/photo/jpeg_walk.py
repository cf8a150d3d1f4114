"""Through a JPEG from marker to marker, to its picture's own end. What cameras and phones put behind that
(further pictures, films) says nothing of the picture.

Source: ITU-T T.81 (1992), annex B.
"""

import re
from dataclasses import dataclass

from nubilis.errors import PhotoError
from nubilis.photo.pieces import MOST, refuse_pieces

JPEG = b"\xff\xd8"
MOST_SCANS = 100  # each of which goes over the whole picture: encoders make ten
MOST_FILL = 1000  # bytes between two segments that mean nothing
_END, _SCAN = 0xD9, 0xDA
_ALONE = {0x01, *range(0xD0, 0xD9)}  # markers of segments without content
_MARKER = re.compile(rb"\xff+([^\x00\xff])", re.DOTALL)
# In a scan, where a stuffed 0 or a restart marker means that it goes on.
_AFTER_SCAN = re.compile(rb"\xff[^\x00\xff\xd0-\xd7]", re.DOTALL)


@dataclass(frozen=True)
class Walked:
    """end: bytes up to which the picture goes, None where its end is missing; scans: how often its pixels are
    gone over."""

    end: int | None
    scans: int


def walk(data: bytes) -> Walked:
    """Raises PhotoError for more pieces than any camera or program makes."""
    at, scans = len(JPEG), 0
    for _ in range(MOST):
        # Readers go over what is no marker, and so do we, as far as such bytes are few.
        found = _MARKER.search(data, at, at + MOST_FILL + 2)
        if found is None:
            if at + MOST_FILL < len(data):
                raise refuse_pieces("JPEG")
            return Walked(None, scans)
        (marker,) = found[1]
        at = found.end()
        if marker == _END:
            return Walked(at, scans)
        if marker in _ALONE:
            continue
        at += int.from_bytes(data[at : at + 2], "big")
        if marker != _SCAN:
            continue
        scans += 1
        if scans > MOST_SCANS:
            raise refuse_pieces("JPEG")
        after = _AFTER_SCAN.search(data, at)
        if after is None:
            return Walked(None, scans)
        at = after.start()
    raise refuse_pieces("JPEG")


def picture_of(data: bytes) -> bytes:
    """Without what lies behind its end. Raises PhotoError where that is missing: libjpeg paints what is not
    there grey and merely warns, and half a photo is not a photo."""
    end = walk(data).end
    if end is None:
        raise PhotoError("the JPEG file is incomplete: its end is missing")
    return data[:end]
