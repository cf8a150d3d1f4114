"""EXIF as the bytes that came, changed in place: what only a camera's maker understands stays where it lies.

Sources: TIFF 6.0 (1992), section 2; Exif 2.32 (2019), section 4.
"""

import struct
from collections.abc import Collection, Iterator
from dataclasses import dataclass

ORIENTATION, EXIF_IFD, GPS_IFD, INTEROP_IFD = 0x0112, 0x8769, 0x8825, 0xA005
MAKER_NOTE = 0x927C
_THUMBNAIL, _THUMBNAIL_SIZE = 0x0201, 0x0202
_SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
_MOST = 2000  # entries of a directory
DAMAGED = (struct.error, IndexError, KeyError, ValueError, OverflowError)


@dataclass(frozen=True)
class Entry:
    """at: where the entry stands; values_at, size: its values' bytes."""

    at: int
    tag: int
    kind: int
    count: int
    values_at: int
    size: int


class Block:
    """A block without the word Exif before it. Raises one of DAMAGED, here and later, when it is none."""

    def __init__(self, data: bytes) -> None:
        self.data = bytearray(data)
        self.order = {b"II": "<", b"MM": ">"}[bytes(data[:2])]
        self.first = self.number(4, "I")

    def number(self, at: int, form: str) -> int:
        return int(struct.unpack_from(self.order + form, self.data, at)[0])

    def entries(self, at: int) -> Iterator[Entry]:
        count = self.number(at, "H")
        if count > _MOST:
            raise ValueError("no directory has so many entries")
        for here in range(at + 2, at + 2 + 12 * count, 12):
            tag, kind, many = struct.unpack_from(self.order + "HHI", self.data, here)
            size = _SIZES.get(kind, 1) * many
            values_at = here + 8 if size <= 4 else self.number(here + 8, "I")
            if values_at + size > len(self.data):
                raise ValueError("values beyond the end")
            yield Entry(here, tag, kind, many, values_at, size)

    def find(self, tag: int, at: int) -> Entry | None:
        return next((e for e in self.entries(at) if e.tag == tag), None)

    def directory(self, pointer: int) -> int | None:
        """Where a directory begins that the first points to."""
        entry = self.find(pointer, self.first)
        return None if entry is None else self.number(entry.values_at, "I")

    def whole(self, entry: Entry) -> int:
        """Its first value, of whole numbers."""
        return self.number(entry.values_at, {1: "B", 3: "H", 4: "I"}[entry.kind])

    def put(self, entry: Entry, value: int) -> None:
        form = {1: "B", 3: "H", 4: "I"}[entry.kind]
        struct.pack_into(self.order + form, self.data, entry.values_at, value)

    def wipe(self, at: int, size: int) -> None:
        self.data[at : at + size] = bytes(min(size, len(self.data) - at))

    def drop(self, tag: int, at: int) -> None:
        """An entry of a directory, with its values and those of a directory that it points to."""
        entry = self.find(tag, at)
        if entry is None:
            return
        if tag in (GPS_IFD, EXIF_IFD, INTEROP_IFD):
            pointed = self.number(entry.values_at, "I")
            for one in list(self.entries(pointed)):
                self.wipe(one.values_at, one.size)
            self.wipe(pointed, 2 + 12 * self.number(pointed, "H") + 4)
        self.wipe(entry.values_at, entry.size)
        count = self.number(at, "H")
        end = at + 2 + 12 * count + 4
        self.data[entry.at : end] = self.data[entry.at + 12 : end] + bytes(12)
        struct.pack_into(self.order + "H", self.data, at, count - 1)

    def drop_further(self) -> None:
        """The second directory, which describes a small picture: that of the photo as it came."""
        link = self.first + 2 + 12 * self.number(self.first, "H")
        second = self.number(link, "I")
        struct.pack_into(self.order + "I", self.data, link, 0)
        if second == 0:
            return
        start, size = self.find(_THUMBNAIL, second), self.find(_THUMBNAIL_SIZE, second)
        if start and size:
            begins, length = self.whole(start), self.whole(size)
            self.wipe(begins, length)
            if begins + length >= len(self.data) > begins > second:
                del self.data[begins:]


def as_kept(data: bytes) -> tuple[bytes, int]:
    """The block upright and without its small picture; and the orientation 1..8 that it had."""
    block = Block(data)
    entry = block.find(ORIENTATION, block.first)
    orientation = block.whole(entry) if entry else 1
    if entry:
        block.put(entry, 1)
    block.drop_further()
    return bytes(block.data), orientation if orientation in range(1, 9) else 1


def sized(data: bytes, size: tuple[int, int]) -> bytes:
    """The block of a picture of another size, (width, height), as far as it says one."""
    block = Block(data)
    within = block.directory(EXIF_IFD)
    for at, tags in ((block.first, (0x0100, 0x0101)), (within, (0xA002, 0xA003))):
        for tag, value in zip(tags, size, strict=True):
            entry = None if at is None else block.find(tag, at)
            if entry is not None and entry.kind in (3, 4):
                block.put(entry, value)
    return bytes(block.data)


def without_place(data: bytes) -> bytes:
    """Nor with what only the camera's maker understands."""
    block = Block(data)
    block.drop(GPS_IFD, block.first)
    within = block.directory(EXIF_IFD)
    if within is not None:
        block.drop(MAKER_NOTE, within)
    return bytes(block.data)


def texts(data: bytes, tags: Collection[int]) -> dict[int, bytes]:
    """Of the first directory: the bytes of texts, which may be in any encoding."""
    block = Block(data)
    return {
        e.tag: bytes(block.data[e.values_at : e.values_at + e.size]).rstrip(b"\0")
        for e in block.entries(block.first)
        if e.tag in tags and e.kind == 2
    }


def of_texts(texts: dict[int, bytes]) -> bytes:
    """A block of nothing but such."""
    at = 8 + 2 + 12 * len(texts) + 4
    entries, values = b"", b""
    for tag, text in sorted(texts.items()):
        text += b"\0"
        where = text.ljust(4, b"\0") if len(text) <= 4 else struct.pack("<I", at + len(values))
        entries += struct.pack("<HHI", tag, 2, len(text)) + where
        values += text + bytes(len(text) % 2) if len(text) > 4 else b""
    return b"II*\0\x08\0\0\0" + struct.pack("<H", len(texts)) + entries + bytes(4) + values
