"""JPEG XL's header: how large, how many bits, in which space; read, and written for another space.

Source: ISO/IEC 18181-1 (2024), annexes D (headers) and E (colour encoding); 18181-2, section 9 (boxes).
"""

import struct
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import count

from nubilis.colour.numbered import HLG, PQ, hdr, numbered_icc
from nubilis.colour.rgb import D65, REC2020_PRIMARIES, SRGB_PRIMARIES
from nubilis.colour.standard import P3_PRIMARIES, Primaries, Standard, standard_icc
from nubilis.errors import PhotoError
from nubilis.photo.pieces import MOST, refuse_pieces

JXL_BARE, JXL_BOXED = b"\xff\x0a", b"\0\0\0\x0cJXL "
_LOOKED_THROUGH = 4096  # bytes of the stream, in which its header ends
# Width over height, by the number that stands for it.
_RATIOS = ((1, 1), (12, 10), (4, 3), (3, 2), (16, 9), (5, 4), (2, 1))


def _numbers(*values: tuple[int, int]) -> tuple[int, int]:
    """Values with their sizes in bits, one after the other."""
    whole = at = 0
    for value, size in values:
        whole |= value << at
        at += size
    return whole, at


_ALPHA, _SPOT, _CFA = 0, 2, 5
_GREY, _CUSTOM = 1, 2
_WHITES = {1: D65, 10: (1 / 3, 1 / 3), 11: (0.314, 0.351)}
# How a header names a space, lowest bit first, and in how many bits: nothing unusual; or by numbers of white,
# primaries, curve and intent. Behind that stand three bits: no extensions, no transform of its own.
_NAMES: dict[Standard, tuple[int, int]] = {
    "srgb": (0b1, 1),
    "display-p3": _numbers(
        (0, 1), (0, 1), (0, 2), (1, 2), (2, 2), (9, 4), (0, 1), (2, 2), (11, 4), (1, 2)
    ),
    "rec2020": _numbers((0, 1), (0, 1), (0, 2), (1, 2), (2, 2), (7, 4), (0, 1), (1, 2), (1, 2)),
}
_BEHIND_SPACE, _AS_USUAL = 3, 0b100
_PRIMARIES: dict[int, Primaries] = {1: SRGB_PRIMARIES, 9: REC2020_PRIMARIES, 11: P3_PRIMARIES}


@dataclass(frozen=True)
class JxlSays:
    """bits: of a sample; icc: of the pixels as they are decoded, None where only the decoder knows it;
    associated: whether colours are multiplied by alpha; space: from which bit of the header to which it
    names the space."""

    size: tuple[int, int]
    bits: int = 8
    floats: bool = False
    icc: bytes | None = None
    associated: bool = False
    space: tuple[int, int] = (0, 0)
    exif: bytes | None = None
    xmp: bytes | None = None


def jxl_says(data: bytes) -> JxlSays:
    """Raises PhotoError when its header is damaged, or for HDR."""
    try:
        if data.startswith(JXL_BARE):
            return _of_stream(data[2:_LOOKED_THROUGH])
        stream, exif, xmp = b"", None, None
        for name, body in boxes(data):
            if name in (b"jxlc", b"jxlp") and not stream:
                stream = body[4 if name == b"jxlp" else 0 :][:_LOOKED_THROUGH]
            elif name == b"Exif":
                (skipped,) = struct.unpack_from(">I", body)
                exif = body[4 + skipped :]
            elif name == b"xml ":
                xmp = body
        if not stream.startswith(JXL_BARE):
            raise PhotoError("the JPEG XL file holds no picture")
        return replace(_of_stream(stream[2:]), exif=exif, xmp=xmp)
    except (struct.error, IndexError) as error:
        raise PhotoError("the file's header is damaged") from error


def in_space(boxed: bytes, space: Standard) -> bytes:
    """A file whose pixels are stored as they are, naming another space for them. boxed: as libjxl writes one
    in RGB, in its container."""
    out = b""
    for name, body in boxes(boxed):
        one = _stream_in_space(body, space) if name == b"jxlc" else body
        out += struct.pack(">I4s", 8 + len(one), name) + one
    return out


def _stream_in_space(stream: bytes, space: Standard) -> bytes:
    """Its header ends on a whole byte."""
    start, end = _of_stream(stream[2:_LOOKED_THROUGH]).space
    header = int.from_bytes(stream[2:_LOOKED_THROUGH], "little")
    last = end + _BEHIND_SPACE
    behind = header >> end & ((1 << _BEHIND_SPACE) - 1)
    if behind != _AS_USUAL:
        raise PhotoError("the JPEG XL encoder wrote a header of another kind")
    named, size = _NAMES[space]
    made = header & ((1 << start) - 1) | named << start | behind << (start + size)
    total = start + size + _BEHIND_SPACE
    return stream[:2] + made.to_bytes(-(-total // 8), "little") + stream[2 + -(-last // 8) :]


def boxes(data: bytes) -> Iterator[tuple[bytes, bytes]]:
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
        self._value, self.at = int.from_bytes(data, "little"), 0
        self._end = 8 * len(data)

    def take(self, count: int) -> int:
        if self.at + count > self._end:
            raise IndexError
        value = self._value >> self.at & ((1 << count) - 1)
        self.at += count
        return value

    def one_of(self, *ways: tuple[int, int]) -> int:
        """One of four (bits, what is added to them), by a number of two bits."""
        bits, added = ways[self.take(2)]
        return self.take(bits) + added

    def number(self) -> int:
        """An enumerated value."""
        return self.one_of((0, 0), (0, 1), (4, 2), (6, 18))


def _of_stream(data: bytes) -> JxlSays:
    bits = _Bits(data)
    size = _size(bits)
    if bits.take(1):  # all as usual
        return JxlSays(size, icc=standard_icc("srgb"))
    if bits.take(1):
        _further(bits)
    depth, floats = _depth(bits)
    bits.take(1)  # whether 16 bits are enough on the way
    associated = False
    for _ in range(bits.one_of((0, 0), (0, 1), (4, 2), (12, 1))):
        associated |= _extra_channel(bits)
    # Whether it is stored as light on the eye; decoded, it is in the space that is named.
    bits.take(1)
    start = bits.at
    icc = _space(bits)
    return JxlSays(size, depth, floats, icc, associated, (start, bits.at))


def _further(bits: _Bits) -> None:
    """Orientation, intrinsic size, preview, animation: the decoder sees to them."""
    bits.take(3)
    if bits.take(1):
        _size(bits)
    if bits.take(1):
        _preview(bits)
    if bits.take(1):
        bits.one_of((0, 100), (0, 1000), (10, 1), (30, 1))
        bits.one_of((0, 1), (0, 1001), (8, 1), (10, 1))
        bits.one_of((0, 0), (3, 0), (16, 0), (32, 0))
        bits.take(1)


def _size(bits: _Bits) -> tuple[int, int]:
    """(width, height)."""
    small = bits.take(1)

    def length() -> int:
        if small:
            return 8 * (bits.take(5) + 1)
        return bits.one_of((9, 1), (13, 1), (18, 1), (30, 1))

    high = length()
    ratio = bits.take(3)
    if ratio == 0:
        return length(), high
    across, down = _RATIOS[ratio - 1]
    return high * across // down, high


def _preview(bits: _Bits) -> None:
    by_eight = bits.take(1)
    ways = (
        ((0, 16), (0, 32), (5, 1), (9, 33))
        if by_eight
        else ((6, 1), (8, 65), (10, 321), (12, 1345))
    )
    bits.one_of(*ways)
    if bits.take(3) == 0:
        bits.one_of(*ways)


def _depth(bits: _Bits) -> tuple[int, bool]:
    if bits.take(1):
        depth = bits.one_of((0, 32), (0, 16), (0, 24), (6, 1))
        bits.take(4)
        return depth, True
    return bits.one_of((0, 8), (0, 10), (0, 12), (6, 1)), False


def _extra_channel(bits: _Bits) -> bool:
    """Whether it is an alpha that the colours are multiplied by."""
    if bits.take(1):
        return False
    kind = bits.number()
    _depth(bits)
    bits.one_of((0, 0), (0, 3), (0, 4), (3, 1))
    for _ in range(bits.one_of((0, 0), (4, 0), (5, 16), (10, 48))):
        bits.take(8)
    if kind == _SPOT:
        bits.take(64)
    if kind == _CFA:
        bits.one_of((0, 1), (2, 0), (4, 3), (8, 19))
    return kind == _ALPHA and bool(bits.take(1))


def _space(bits: _Bits) -> bytes | None:
    if bits.take(1):
        return standard_icc("srgb")
    embedded, kind = bits.take(1), bits.number()
    if embedded or kind not in (0, _GREY):
        return None
    white = _place(bits) if (named := bits.number()) == _CUSTOM else _WHITES.get(named)
    primaries: Primaries | None = SRGB_PRIMARIES
    if kind != _GREY:
        named = bits.number()
        primaries = (
            (_place(bits), _place(bits), _place(bits))
            if named == _CUSTOM
            else _PRIMARIES.get(named)
        )
    transfer: int | float
    transfer = 10000000.0 / max(bits.take(24), 1) if bits.take(1) else bits.number()
    if transfer in (PQ, HLG) and isinstance(transfer, int):
        raise hdr()
    bits.number()  # the intent
    if white is None or primaries is None:
        return None
    return numbered_icc(primaries, transfer, white)


def _place(bits: _Bits) -> tuple[float, float]:
    """x and y, in millionths, their signs in the lowest bit."""

    def one() -> float:
        ways = ((19, 0), (19, 524_288), (20, 1_048_576), (21, 2_097_152))
        packed = bits.one_of(*ways)
        return (packed >> 1 ^ -(packed & 1)) / 1e6

    return one(), one()
