"""What a PNG says besides its pixels, wherever in the file it says so."""

import io
import struct
from collections.abc import Iterator
from typing import BinaryIO

from PIL import Image

SIGNATURE = b"\x89PNG\r\n\x1a\n"
LENGTH_AND_KIND = struct.Struct(">I4s")
CHECK = 4  # bytes after each chunk
PIXELS, LAST = (b"IDAT", b"fdAT"), b"IEND"
MOST = 64 * 2**20  # bytes of all that is not pixels


def without_pixels(file: BinaryIO) -> Image.Image:
    """The same without what is long: a PNG may say things after its pixels, and Pillow decodes those to get
    there. Of a damaged file as much as is whole. The file is left where it was. Raises as Image.open."""
    here = file.tell()
    try:
        return Image.open(io.BytesIO(_said(file)), formats=["PNG"])
    finally:
        file.seek(here)


def chunks(file: BinaryIO) -> Iterator[tuple[bytes, int]]:
    """Kind and length of each, to the last. The file stands at its data, which the next step passes over."""
    at = len(SIGNATURE)
    file.seek(at)
    while len(head := file.read(LENGTH_AND_KIND.size)) == LENGTH_AND_KIND.size:
        length, kind = LENGTH_AND_KIND.unpack(head)
        yield kind, length
        if kind == LAST:
            return
        at += LENGTH_AND_KIND.size + length + CHECK
        file.seek(at)


def _said(file: BinaryIO) -> bytes:
    kept, size = [SIGNATURE], 0
    for kind, length in chunks(file):
        if kind in PIXELS:
            continue
        size += length
        if size > MOST:
            break
        chunk = file.read(length + CHECK)
        if len(chunk) < length + CHECK:
            break
        kept.append(LENGTH_AND_KIND.pack(length, kind) + chunk)
    return b"".join(kept)
