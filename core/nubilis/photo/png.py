"""What a PNG says besides its pixels, wherever in the file it says so."""

import io
import struct
from typing import BinaryIO

from PIL import Image

SIGNATURE = b"\x89PNG\r\n\x1a\n"
LENGTH_AND_KIND = struct.Struct(">I4s")
CHECK = 4  # bytes after each chunk
PIXELS = b"IDAT", b"fdAT"
MOST = 64 * 2**20  # bytes of all that is not pixels


def without_pixels(file: BinaryIO) -> Image.Image:
    """The same without what is long: a PNG may say things after its pixels, and Pillow decodes those to get
    there. Of a damaged file as much as is whole. The file is left where it was. Raises as Image.open."""
    here = file.tell()
    try:
        return Image.open(io.BytesIO(_said(file)), formats=["PNG"])
    finally:
        file.seek(here)


def _said(file: BinaryIO) -> bytes:
    file.seek(len(SIGNATURE))
    kept, size = [SIGNATURE], 0
    while len(head := file.read(LENGTH_AND_KIND.size)) == LENGTH_AND_KIND.size:
        length, kind = LENGTH_AND_KIND.unpack(head)
        if kind in PIXELS:
            file.seek(length + CHECK, io.SEEK_CUR)
            continue
        size += length
        if size > MOST:
            break
        chunk = file.read(length + CHECK)
        if len(chunk) < length + CHECK:
            break
        kept.append(head + chunk)
        if kind == b"IEND":
            break
    return b"".join(kept)
