"""AVIF: 8 bits by Pillow; 10 and 12 with a container of our own around the coded picture.

Source: ISO/IEC 14496-12 (2022), section 8.11, items and their properties; ISO/IEC 23008-12 (2022), annex A,
Exif and XMP as items; AV1 Image File Format 1.1 (2022), section 2.
"""

import io
import struct
from dataclasses import dataclass
from typing import Any

import imagecodecs
import numpy as np
from PIL import Image

from nubilis.arrays import Codes
from nubilis.photo.coding import Coding
from nubilis.photo.metadata import Metadata

AVIF_QUALITY = 90
SPEED = 8  # of 0..10
_XMP_TYPE = b"application/rdf+xml\0"


class _AsItCame(Image.Exif):
    """A block that goes out as it is: Pillow writes it anew, letters beyond ASCII as question marks."""

    def __init__(self, block: bytes) -> None:
        super().__init__()
        self._block = block

    def __bool__(self) -> bool:
        return True

    def __contains__(self, tag: object) -> bool:
        return False

    def tobytes(self, offset: int = 8) -> bytes:
        return self._block


def avif8(codes: Codes, icc: bytes, metadata: Metadata, coding: Coding) -> bytes:
    """codes: uint8 (h, w, 3 or 4). AV1 still, 4:4:4."""
    exif = None if metadata.exif is None else _AsItCame(metadata.exif)
    more: dict[str, Any] = {"exif": exif, "xmp": metadata.xmp}
    out = io.BytesIO()
    Image.fromarray(codes).save(
        out,
        "AVIF",
        quality=coding.quality or AVIF_QUALITY,
        subsampling="4:4:4",
        icc_profile=icc,
        **{name: block for name, block in more.items() if block},
    )
    return out.getvalue()


def avif_deep(codes: Codes, bits: int, icc: bytes, metadata: Metadata, coding: Coding) -> bytes:
    """codes: uint16 (h, w, 3), the whole range; bits: 10 or 12. Without transparency."""
    top = 2**bits - 1
    narrow = ((codes.astype(np.uint32) * top + 32767) // 65535).astype(np.uint16)
    coded = bytes(
        imagecodecs.avif_encode(
            narrow,
            level=coding.quality or AVIF_QUALITY,
            speed=SPEED,
            bitspersample=bits,
            pixelformat="444",
            numthreads=2,
        )
    )
    boxes = _boxes_by_name(coded)
    items = [_Item(b"av01", boxes[b"mdat"])]
    if metadata.exif:
        items.append(_Item(b"Exif", bytes(4) + metadata.exif))
    if metadata.xmp:
        items.append(_Item(b"mime", metadata.xmp))
    size = struct.pack(">II", codes.shape[1], codes.shape[0])
    properties = [
        _full_box(b"ispe", size),
        _full_box(b"pixi", bytes((3, bits, bits, bits))),
        _box(b"av1C", boxes[b"av1C"]),
        _box(b"colr", b"prof" + icc),
    ]
    return _file(items, properties)


@dataclass(frozen=True)
class _Item:
    kind: bytes
    data: bytes


def _boxes_by_name(data: bytes) -> dict[bytes, bytes]:
    """The coded picture and its configuration, out of a file with one item."""
    found: dict[bytes, bytes] = {}

    def walk(start: int, end: int) -> None:
        while start + 8 <= end:
            size, name = struct.unpack_from(">I4s", data, start)
            inner = {b"meta": 12, b"iprp": 8, b"ipco": 8}.get(name)
            if inner:
                walk(start + inner, start + size)
            else:
                found[name] = data[start + 8 : start + size]
            start += size

    walk(0, len(data))
    return found


def _box(name: bytes, body: bytes) -> bytes:
    return struct.pack(">I4s", 8 + len(body), name) + body


def _full_box(name: bytes, body: bytes, version: int = 0, flags: int = 0) -> bytes:
    return _box(name, struct.pack(">I", version << 24 | flags) + body)


def _file(items: list[_Item], properties: list[bytes]) -> bytes:
    start = _box(b"ftyp", b"avif" + bytes(4) + b"avifmif1miafMA1A")
    # Places depend on the length of what tells them, which does not depend on the places.
    length = len(_meta(items, properties, 0))
    meta = _meta(items, properties, len(start) + length + 8)
    return start + meta + _box(b"mdat", b"".join(item.data for item in items))


def _meta(items: list[_Item], properties: list[bytes], at: int) -> bytes:
    """at: where the items' data begins in the file."""
    ipco = _box(b"ipco", b"".join(properties))
    # What must be understood has the highest bit set: the codec's configuration.
    kept = bytes(i | (0x80 if p[4:8] == b"av1C" else 0) for i, p in enumerate(properties, 1))
    ipma = _full_box(b"ipma", struct.pack(">IHB", 1, 1, len(kept)) + kept)
    parts = [
        _full_box(b"hdlr", bytes(4) + b"pict" + bytes(13)),
        _full_box(b"pitm", struct.pack(">H", 1)),
        _locations(items, at),
        _entries(items),
        _box(b"iprp", ipco + ipma),
    ]
    about = [
        _box(b"cdsc", struct.pack(">HHH", number, 1, 1)) for number in range(2, len(items) + 1)
    ]
    if about:
        parts.append(_full_box(b"iref", b"".join(about)))
    return _full_box(b"meta", b"".join(parts))


def _locations(items: list[_Item], at: int) -> bytes:
    body = struct.pack(">BBH", 0x44, 0, len(items))
    for number, item in enumerate(items, 1):
        body += struct.pack(">HHHII", number, 0, 1, at, len(item.data))
        at += len(item.data)
    return _full_box(b"iloc", body)


def _entries(items: list[_Item]) -> bytes:
    body = struct.pack(">H", len(items))
    for number, item in enumerate(items, 1):
        more = _XMP_TYPE if item.kind == b"mime" else b""
        hidden = int(number > 1)
        entry = struct.pack(">HH4s", number, 0, item.kind) + b"\0" + more
        body += _full_box(b"infe", entry, version=2, flags=hidden)
    return _full_box(b"iinf", body)
