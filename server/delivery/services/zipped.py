"""Several files as one, made while it is sent."""

from collections.abc import Iterator, Sequence
from io import RawIOBase
from typing import Any
from zipfile import ZIP_STORED, ZipFile

from shoots import files


def zipped(found: Sequence[tuple[str, str]]) -> Iterator[bytes]:
    """A zip of stored files, each under the name before its own, piece by piece; pictures are compressed
    already."""
    pieces = _Pieces()
    with ZipFile(pieces, "w", ZIP_STORED) as out:
        for name, stored_as in found:
            with out.open(name, "w", force_zip64=True) as entry:
                for data in files.pieces(stored_as):
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
