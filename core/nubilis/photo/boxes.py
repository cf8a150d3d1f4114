"""What AVIF, HEIF and JPEG XL files say of themselves beyond what our libraries tell.

Sources: AV1 Image File Format 1.1 (2022), section 2; AV1 codec ISO media file format binding 1.2, section
2.3; ISO/IEC 23001-8 (2016), tables 2 and 3; ISO/IEC 18181-1 (2024), annex D; 18181-2, section 9.
"""

import struct
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import count

from nubilis.colour.standard import Standard, standard_icc
from nubilis.errors import PhotoError
from nubilis.photo.pieces import MOST, refuse_pieces

JXL_BARE, JXL_BOXED = b"\xff\x0a", b"\0\0\0\x0cJXL "
LOOKED_THROUGH = 65536  # bytes of an AVIF or HEIF in which its properties stand
_P3, _REC2020, _PQ, _HLG = 12, 9, 16, 18
# Width over height, by the number that stands for it.
_RATIOS = ((1, 1), (12, 10), (4, 3), (3, 2), (16, 9), (5, 4), (2, 1))


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
        if transfer in (_PQ, _HLG):
            raise PhotoError(
                "the picture is HDR (PQ or HLG); please export it in its standard range"
            )
        space: Standard | None = {_P3: "display-p3", _REC2020: "rec2020"}.get(primaries)  # type: ignore[assignment]
        icc = standard_icc(space) if space else None
    return CodedSays(bits, icc)


@dataclass(frozen=True)
class JxlSays:
    size: tuple[int, int]
    exif: bytes | None
    xmp: bytes | None


def jxl_says(data: bytes) -> JxlSays:
    """Raises PhotoError when its header is damaged."""
    try:
        if data.startswith(JXL_BARE):
            return JxlSays(_jxl_size(data[2:64]), None, None)
        stream, exif, xmp = b"", None, None
        for name, body in _boxes(data):
            if name in (b"jxlc", b"jxlp") and not stream:
                stream = body[4 if name == b"jxlp" else 0 :][:64]
            elif name == b"Exif":
                (skipped,) = struct.unpack_from(">I", body)
                exif = body[4 + skipped :]
            elif name == b"xml ":
                xmp = body
        if not stream.startswith(JXL_BARE):
            raise PhotoError("the JPEG XL file holds no picture")
        return JxlSays(_jxl_size(stream[2:]), exif, xmp)
    except (struct.error, IndexError) as error:
        raise PhotoError("the file's header is damaged") from error


def _boxes(data: bytes) -> Iterator[tuple[bytes, bytes]]:
    at = 0
    for number in count():
        if at + 8 > len(data):
            return
        if number > MOST:
            raise refuse_pieces("JPEG XL")
        size, name = struct.unpack_from(">I4s", data, at)
        head = 8
        if size == 1:
            (size,) = struct.unpack_from(">Q", data, at + 8)
            head = 16
        size = size or len(data) - at  # 0: to the end
        if size < head:
            return
        yield name, data[at + head : at + size]
        at += size


class _Bits:
    """Read from the lowest bit of each byte on."""

    def __init__(self, data: bytes) -> None:
        self._value, self._at = int.from_bytes(data, "little"), 0
        self._end = 8 * len(data)

    def take(self, count: int) -> int:
        if self._at + count > self._end:
            raise IndexError
        value = self._value >> self._at & ((1 << count) - 1)
        self._at += count
        return value


def _jxl_size(data: bytes) -> tuple[int, int]:
    """(width, height) of a size header."""
    bits = _Bits(data)
    small = bits.take(1)

    def length() -> int:
        if small:
            return 8 * (bits.take(5) + 1)
        return bits.take((9, 13, 18, 30)[bits.take(2)]) + 1

    high = length()
    ratio = bits.take(3)
    if ratio == 0:
        return length(), high
    across, down = _RATIOS[ratio - 1]
    return high * across // down, high
