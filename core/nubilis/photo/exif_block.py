"""EXIF as the bytes that came, changed in place: what only a camera's maker understands stays where it lies.

Sources: TIFF 6.0 (1992), section 2; Exif 2.32 (2019), section 4.
"""

import struct
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass
from mmap import mmap
from typing import Any

import numpy as np

ORIENTATION, EXIF_IFD, GPS_IFD, INTEROP_IFD = 0x0112, 0x8769, 0x8825, 0xA005
MAKER_NOTE = 0x927C
_THUMBNAIL, _THUMBNAIL_SIZE = 0x0201, 0x0202
_SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}
_MOST = 2000  # entries of a directory
# Of a first directory, what is about the photo: names, texts in both of their encodings, times, ratings.
OF_THE_PHOTO = {
    0x010D, 0x010E, 0x010F, 0x0110, ORIENTATION, 0x011D, 0x0131, 0x0132, 0x013B, 0x013C, 0x4746, 0x4749,
    0x8298, 0x9C9B, 0x9C9C, 0x9C9D, 0x9C9E, 0x9C9F, 0xC4A5,
}  # fmt: skip
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

    def __init__(self, data: bytes | mmap) -> None:
        """A file that is mapped is only looked at, and not copied."""
        self.data: Any = bytearray(data) if isinstance(data, bytes) else data
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


def as_kept(data: bytes) -> tuple[bytes, int | None]:
    """The block upright and without its small picture; and the orientation 1..8 that it had, if any."""
    block = Block(data)
    entry = block.find(ORIENTATION, block.first)
    orientation = block.whole(entry) if entry else None
    if entry:
        block.put(entry, 1)
    block.drop_further()
    return bytes(block.data), orientation if orientation in range(1, 9) else None


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


def fitting(data: bytes, most: int) -> tuple[bytes, list["Value"]]:
    """The block as it is, or without its largest values where it is of more bytes than may be; and those."""
    if len(data) <= most:
        return data, []
    left, out = collected(Block(data)), []
    while len(made := block_of(left)) > most:
        values, largest = max(
            ((values, v) for values in left.values() for v in values),
            key=lambda one: len(one[1].data),
        )
        values.remove(largest)
        out.append(largest)
    return made, out


@dataclass(frozen=True)
class Value:
    """data: as in a block of the order of Intel's processors."""

    tag: int
    kind: int
    count: int
    data: bytes


Directories = dict[int, list[Value]]  # by their pointer, 0 for the first


def collected(block: Block) -> Directories:
    """What the first directory says of the photo, and what its further ones say; in a whole TIFF too, whose
    first describes the storage of pixels besides."""
    places = {0: block.first}
    for pointer in (EXIF_IFD, GPS_IFD):
        if (at := block.directory(pointer)) is not None:
            places[pointer] = at
    if EXIF_IFD in places and (entry := block.find(INTEROP_IFD, places[EXIF_IFD])):
        places[INTEROP_IFD] = block.number(entry.values_at, "I")
    return {pointer: _values(block, at, first=not pointer) for pointer, at in places.items()}


def _values(block: Block, at: int, *, first: bool) -> list[Value]:
    found = []
    for e in block.entries(at):
        if e.tag in (EXIF_IFD, GPS_IFD, INTEROP_IFD) or (first and e.tag not in OF_THE_PHOTO):
            continue
        data = bytes(block.data[e.values_at : e.values_at + e.size])
        wide = {5: 4, 10: 4}.get(e.kind, _SIZES.get(e.kind, 1))
        if block.order == ">" and wide > 1:
            data = np.frombuffer(data, f">u{wide}").astype(f"<u{wide}").tobytes()
        found.append(Value(e.tag, e.kind, e.count, data))
    return found


def block_of(directories: Directories) -> bytes:
    """A block made anew."""
    known = {p: list(values) for p, values in directories.items() if values}
    places: dict[int, int] = {}
    for _ in range(2):  # the second time it is known where each begins
        at, body = 8, b""
        for pointer in (0, EXIF_IFD, GPS_IFD, INTEROP_IFD):
            if pointer not in known and pointer != 0:
                continue
            values = known.get(pointer, []) + _pointers(pointer, known, places)
            places[pointer] = at + len(body)
            body += packed(values, places[pointer])
    return b"II*\0\x08\0\0\0" + body


def _pointers(of: int, known: Directories, places: dict[int, int]) -> list[Value]:
    further = {0: (EXIF_IFD, GPS_IFD), EXIF_IFD: (INTEROP_IFD,)}.get(of, ())
    return [Value(p, 4, 1, struct.pack("<I", places.get(p, 0))) for p in further if p in known]


def packed(values: Iterable[Value], at: int) -> bytes:
    """A directory that lies at an even offset, with its values behind it."""
    ordered = sorted(values, key=lambda v: v.tag)
    start = at + 2 + 12 * len(ordered) + 4
    table, body = b"", b""
    for value in ordered:
        where = value.data.ljust(4, b"\0")
        if len(value.data) > 4:
            where = struct.pack("<I", start + len(body))
            body += value.data + bytes(len(value.data) % 2)
        table += struct.pack("<HHI", value.tag, value.kind, value.count) + where
    return struct.pack("<H", len(ordered)) + table + bytes(4) + body


def only_some(directories: Directories, tags: Collection[int]) -> bytes | None:
    """A block of some values of the first directory alone."""
    left = [v for v in directories[0] if v.tag in tags]
    return block_of({0: left}) if left else None
