"""Several files as one, made while it is sent."""

from collections.abc import Iterator, Sequence
from io import RawIOBase
from pathlib import Path
from typing import Any
from zipfile import ZIP_STORED, ZipFile

CHUNK = 2**20


def zipped(files: Sequence[tuple[str, Path]]) -> Iterator[bytes]:
    """A zip of them, piece by piece; pictures are compressed already."""
    pieces = _Pieces()
    with ZipFile(pieces, "w", ZIP_STORED) as out:
        for name, path in files:
            with path.open("rb") as source, out.open(name, "w", force_zip64=True) as entry:
                while data := source.read(CHUNK):
                    entry.write(data)
                    yield pieces.taken()
    yield pieces.taken()


class _Pieces(RawIOBase):
    """What was written since it was last taken."""

    def __init__(self) -> None:
        self._data = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._data += data
        return len(data)

    def taken(self) -> bytes:
        data = bytes(self._data)
        self._data.clear()
        return data
