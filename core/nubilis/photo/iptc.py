"""IPTC's older block of captions, credits and places, as JPEG, TIFF and PNG carry it.

Sources: IPTC-NAA Information Interchange Model 4.2 (2014), chapters 1 and 6; the custom of image
resource blocks, whose marker and kind are fixed bytes of the files.
"""

import struct
from collections.abc import Callable, Collection, Iterator

from PIL import Image, TiffImagePlugin

MARKED = b"Photoshop 3.0\0"
PNG_KEYWORD = "Raw profile type iptc"
_RESOURCE, _ID = b"8BIM", 0x0404
_TAG = 33723
_DATA_SET = 0x1C
# Of record 2: places that it tells of (26, 27), city, part of it, province, country and its code; and who
# made and owns the picture.
PLACES = {26, 27, 90, 92, 95, 100, 101, 103}
OWNED = {80, 85, 110, 115, 116}


def iptc_of(image: Image.Image) -> bytes | None:
    """Of an opened picture."""
    for name, data in getattr(image, "applist", ()):
        if name == "APP13" and data.startswith(MARKED) and (block := _read(data)):
            return block
    if isinstance(image, TiffImagePlugin.TiffImageFile):
        value = image.tag_v2.get(_TAG)
        if isinstance(value, tuple):  # some programs call its bytes long numbers
            value = struct.pack(f"{image.tag_v2._endian}{len(value)}I", *value)
        return value if isinstance(value, bytes) else None
    text = image.info.get(PNG_KEYWORD)
    if not isinstance(text, str):
        return None
    try:
        return _read(bytes.fromhex("".join(text.split()[2:])))
    except ValueError:
        return None


def _read(data: bytes) -> bytes | None:
    try:
        return _of_resources(data)
    except (struct.error, IndexError):
        return None


def _of_resources(data: bytes) -> bytes | None:
    data = data.removeprefix(MARKED)
    at = 0
    while data[at : at + 4] == _RESOURCE:
        (number,) = struct.unpack_from(">H", data, at + 4)
        name = 1 + data[at + 6]
        at += 6 + name + name % 2
        (size,) = struct.unpack_from(">I", data, at)
        if number == _ID:
            return data[at + 4 : at + 4 + size]
        at += 4 + size + size % 2
    return data if data[:1] == bytes([_DATA_SET]) else None


def as_resource(iptc: bytes) -> bytes:
    head = _RESOURCE + struct.pack(">HHI", _ID, 0, len(iptc))
    return head + iptc + bytes(len(iptc) % 2)


def as_png_text(iptc: bytes) -> str:
    """What stands behind the keyword."""
    data = as_resource(iptc)
    lines = [data[i : i + 36].hex() for i in range(0, len(data), 36)]
    return f"\niptc\n{len(data):8}\n" + "\n".join(lines) + "\n"


def without(iptc: bytes, sets: Collection[int]) -> bytes | None:
    """Without some data sets of record 2; None where that cannot be told."""
    return _kept(iptc, lambda record, number: record != 2 or number not in sets)


def only(iptc: bytes, sets: Collection[int]) -> bytes | None:
    """With some data sets of record 2 and what says how their letters are coded."""
    return _kept(iptc, lambda record, number: record == 1 or (record == 2 and number in sets))


def _kept(iptc: bytes, keeps: Callable[[int, int], bool]) -> bytes | None:
    try:
        return b"".join(d for record, number, d in _data_sets(iptc) if keeps(record, number))
    except (struct.error, ValueError):
        return None


def _data_sets(iptc: bytes) -> Iterator[tuple[int, int, bytes]]:
    """Record, number, and all of its bytes."""
    at = 0
    while at < len(iptc) and iptc[at] == _DATA_SET:
        record, number, size = struct.unpack_from(">BBH", iptc, at + 1)
        head = 5
        if size & 0x8000:  # the length of its length
            wide = size & 0x7FFF
            size = int.from_bytes(iptc[at + 5 : at + 5 + wide], "big")
            head += wide
        end = at + head + size
        if end > len(iptc):
            raise ValueError("a data set beyond the end")
        yield record, number, iptc[at:end]
        at = end
    if iptc[at:].strip(b"\0"):
        raise ValueError("no data set")
