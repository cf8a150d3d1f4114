"""What AVIF and HEIF files say of themselves beyond what our libraries tell.

Sources: AV1 Image File Format 1.1 (2022), section 2; AV1 codec ISO media file format binding 1.2, section
2.3; ISO/IEC 23001-8 (2016), tables 2 and 3.
"""

import struct
from dataclasses import dataclass

from nubilis.colour.numbered import HLG, PQ, hdr
from nubilis.colour.standard import Standard, standard_icc

LOOKED_THROUGH = 65536  # bytes of an AVIF or HEIF in which its properties stand
_P3, _REC2020 = 12, 9


@dataclass(frozen=True)
class CodedSays:
    """bits: of a sample; icc: of the space that it names by number, None for sRGB or none."""

    bits: int
    icc: bytes | None


def coded_says(start: bytes) -> CodedSays:
    """Of the file's first LOOKED_THROUGH bytes. Raises PhotoError for light that is no photo's."""
    bits, icc = 8, None
    at = start.find(b"av1C")
    if 0 <= at < len(start) - 7:
        flags = start[at + 6]
        bits = (12 if flags & 0x20 else 10) if flags & 0x40 else 8
    at = start.find(b"colrnclx")
    if 0 <= at < len(start) - 12:
        primaries, transfer = struct.unpack_from(">HH", start, at + 8)
        if transfer in (PQ, HLG):
            raise hdr()
        space: Standard | None = {_P3: "display-p3", _REC2020: "rec2020"}.get(primaries)  # type: ignore[assignment]
        icc = standard_icc(space) if space else None
    return CodedSays(bits, icc)
