"""IPTC's older block of captions, credits and places, and the resources beside it, in JPEG, TIFF and PNG.

Sources: IPTC-NAA Information Interchange Model 4.2 (2014), chapters 1 and 6; the custom of image
resource blocks, whose marker and kind are fixed bytes of the files.
"""

import struct
from collections.abc import Callable, Collection, Iterator

from PIL import Image, TiffImagePlugin

MARKED = b"Photoshop 3.0\0"
PNG_KEYWORD = "Raw profile type iptc"
TAG, RESOURCES_TAG = 33723, 34377  # of a TIFF
_RESOURCE, _ID = b"8BIM", 0x0404
# Resources that describe the picture as it came, or say again what goes another way: resolution, small
# pictures, profile, EXIF, XMP, a digest of IPTC.
_NOT_KEPT = {0x03ED, 0x0409, 0x040C, 0x040F, 0x0422, 0x0423, 0x0424, 0x0425}
_DATA_SET = 0x1C
# Of record 2: places that it tells of (26, 27), city, part of it, province, country and its code; and who
# made and owns the picture.
PLACES = {26, 27, 90, 92, 95, 100, 101, 103}
OWNED = {80, 85, 110, 115, 116}


def iptc_of(image: Image.Image) -> tuple[bytes | None, bytes | None]:
    """Of an opened picture: the block, and the resources beside it, such as clipping paths."""
    segments = (d for name, d in getattr(image, "applist", ()) if name == "APP13")
    data = b"".join(d.removeprefix(MARKED) for d in segments if d.startswith(MARKED))
    if isinstance(image, TiffImagePlugin.TiffImageFile):
        own, further = _read(_bytes_of(image, RESOURCES_TAG))
        return _bytes_of(image, TAG) or own, further
    if not data and isinstance(text := image.info.get(PNG_KEYWORD), str):
        try:
            data = bytes.fromhex("".join(text.split()[2:])).removeprefix(MARKED)
        except ValueError:
            return None, None
    return _read(data)


def _bytes_of(image: TiffImagePlugin.TiffImageFile, tag: int) -> bytes:
    value = image.tag_v2.get(tag)
    if isinstance(value, tuple) and all(isinstance(v, int) for v in value):
        # Some programs call its bytes long numbers.
        value = struct.pack(f"{image.tag_v2._endian}{len(value)}I", *value)
    elif isinstance(value, tuple):
        value = value[0]
    return value if isinstance(value, bytes) else b""


def _read(data: bytes) -> tuple[bytes | None, bytes | None]:
    iptc, further = b"", b""
    try:
        for number, block, whole in _resources(data):
            if number == _ID:
                iptc = iptc or block
            elif number not in _NOT_KEPT:
                further += whole
    except (struct.error, IndexError):  # what came before counts
        pass
    if data[:1] == bytes([_DATA_SET]):
        iptc = data
    return iptc or None, further or None


def _resources(data: bytes) -> Iterator[tuple[int, bytes, bytes]]:
    """Number, content, and all of its bytes."""
    at = 0
    while data[at : at + 4] == _RESOURCE:
        start = at
        (number,) = struct.unpack_from(">H", data, at + 4)
        name = 1 + data[at + 6]
        at += 6 + name + name % 2
        (size,) = struct.unpack_from(">I", data, at)
        content = data[at + 4 : at + 4 + size]
        if len(content) < size:
            return
        at += 4 + size + size % 2
        yield number, content, data[start:at].ljust(at - start, b"\0")


def as_resources(iptc: bytes | None, further: bytes | None) -> bytes:
    out = further or b""
    if iptc:
        out += _RESOURCE + struct.pack(">HHI", _ID, 0, len(iptc)) + iptc + bytes(len(iptc) % 2)
    return out


def as_png_text(data: bytes) -> str:
    """What stands behind the keyword. data: resources."""
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
