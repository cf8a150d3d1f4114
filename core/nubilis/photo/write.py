"""Write a photo: JPEG, PNG, TIFF, AVIF to 12 bits, JPEG XL, with profile and metadata. Never half of one."""

import os
import struct
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from functools import partial
from pathlib import Path
from typing import Any, BinaryIO
from uuid import uuid4

import imagecodecs
import numpy as np
import numpy.typing as npt
import tifffile

from nubilis.colour.profile import srgb_icc
from nubilis.colour.standard import standard_like
from nubilis.errors import PhotoError
from nubilis.photo.avif import avif8, avif_deep
from nubilis.photo.coding import AS_USUAL, Coding
from nubilis.photo.depth import at_depth
from nubilis.photo.exif_block import (
    DAMAGED,
    EXIF_IFD,
    GPS_IFD,
    INTEROP_IFD,
    Block,
    Directories,
    Value,
    collected,
    packed,
)
from nubilis.photo.iptc import PNG_KEYWORD, RESOURCES_TAG, TAG, as_png_text, as_resources
from nubilis.photo.jpeg import jpeg_of, segments_of, with_density
from nubilis.photo.jxl import in_space
from nubilis.photo.metadata import XMP_TAG
from nubilis.photo.picture import Photo
from nubilis.photo.samples import multiplied
from nubilis.whole import take_place

SUFFIX = {"jpeg": ".jpg", "png": ".png", "png16": ".png", "tiff": ".tif", "tiff16": ".tif",
          "avif": ".avif", "avif10": ".avif", "avif12": ".avif", "jxl": ".jxl", "jxl16": ".jxl",
          "ora": ".ora"}  # fmt: skip
MEDIA_TYPE = {
    name: "image/" + {"jpg": "jpeg", "tif": "tiff", "ora": "openraster"}.get(end[1:], end[1:])
    for name, end in SUFFIX.items()
}
# Depth that a format's pixels are made at.
BITS = {name: 8 if name in ("jpeg", "png", "tiff", "avif", "jxl") else 16 for name in SUFFIX}
_EXTRA = {"straight": "unassalpha", "associated": "assocalpha", "unspecified": "unspecified"}
LOSSY = ("jpeg", "avif", "avif10", "avif12")
BY_SUFFIX = {".jpg": "jpeg", ".jpeg": "jpeg", ".png": "png", ".tif": "tiff", ".tiff": "tiff"}


def default_format(photo: Photo) -> str:
    """The output format that is closest to what came in."""
    if photo.format == "JPEG":
        return "jpeg"
    base = "tiff" if photo.format == "TIFF" else "png"
    return base + ("16" if photo.bits == 16 else "")


def format_for(path: Path, photo: Photo) -> str:
    """The format that a file name asks for, at the photo's own depth. Raises PhotoError."""
    base = BY_SUFFIX.get(path.suffix.lower())
    if base is None:
        raise PhotoError(f"{path.name}: the ending must be one of {', '.join(BY_SUFFIX)}")
    return base + ("16" if photo.bits == 16 and base != "jpeg" else "")


def write_photo(path: Path, photo: Photo, file_format: str, coding: Coding = AS_USUAL) -> None:
    """Write beside the target, then rename: nobody ever sees half a file. Raises PhotoError."""
    writer = _WRITERS.get(file_format)
    if writer is None:
        raise PhotoError(f"unknown format {file_format}; one of {', '.join(_WRITERS)}")
    with written_beside(path) as out:
        writer(photo, coding, out)


@contextmanager
def written_beside(path: Path) -> Iterator[BinaryIO]:
    """A file that takes its place when it is whole. Raises PhotoError."""
    part = path.with_name(f".nubilis-{uuid4().hex}{path.suffix}")
    try:
        with part.open("x+b") as out:
            yield out
        take_place(part, path)
    except OSError as error:
        raise PhotoError(f"cannot write {path.name}: {error.strerror}") from error
    finally:
        part.unlink(missing_ok=True)


def _pixels(photo: Photo, bits: int, *, alpha: bool) -> npt.NDArray[Any]:
    """What nobody says the meaning of is no alpha: only a TIFF can keep it."""
    codes = at_depth(photo.codes, bits)
    if photo.alpha is None or not alpha or photo.alpha_kind == "unspecified":
        return np.ascontiguousarray(codes)
    return np.dstack([codes, at_depth(photo.alpha, bits)])


def _icc(photo: Photo) -> bytes:
    return photo.profile.icc or srgb_icc()


def _jpeg(photo: Photo, coding: Coding, out: BinaryIO) -> None:
    about = segments_of(photo.metadata, _icc(photo))
    data = jpeg_of(_pixels(photo, 8, alpha=False), about, coding)
    dpi = photo.metadata.dpi
    out.write(with_density(data, dpi) if dpi else data)


def png_of(photo: Photo, bits: int) -> bytes:
    """A whole PNG, at 8 or 16 bits."""
    pixels = _pixels(photo, bits, alpha=True)
    body = bytes(imagecodecs.png_encode(pixels, level=4))
    after_header = 8 + 25  # signature and IHDR
    return body[:after_header] + _png_chunks(photo) + body[after_header:]


def _png_chunks(photo: Photo) -> bytes:
    """iCCP, pHYs, eXIf, XMP in iTXt (PNG, third edition, sections 11.3.2 to 11.3.4), IPTC in zTXt as is the
    custom."""
    about = photo.metadata

    def chunk(name: bytes, payload: bytes) -> bytes:
        return (
            struct.pack(">I", len(payload)) + name + payload
            + struct.pack(">I", zlib.crc32(name + payload))
        )  # fmt: skip

    out = chunk(b"iCCP", b"profile\0\0" + zlib.compress(_icc(photo)))
    if about.dpi:
        across, down = (round(v / 0.0254) for v in about.dpi)
        out += chunk(b"pHYs", struct.pack(">IIB", across, down, 1))
    if about.exif:
        out += chunk(b"eXIf", about.exif)
    if about.xmp:
        out += chunk(b"iTXt", b"XML:com.adobe.xmp\0\0\0\0\0" + about.xmp)
    if resources := as_resources(about.iptc, about.resources):
        text = zlib.compress(as_png_text(resources).encode())
        out += chunk(b"zTXt", PNG_KEYWORD.encode() + b"\0\0" + text)
    return out


def _with_extra(photo: Photo, bits: int) -> npt.NDArray[Any]:
    """The fourth channel as the file that came had it."""
    codes = at_depth(photo.codes, bits)
    if photo.alpha is None:
        return codes
    alpha = at_depth(photo.alpha, bits)
    return np.dstack(
        [multiplied(codes, alpha) if photo.alpha_kind == "associated" else codes, alpha]
    )


def _tiff(photo: Photo, bits: int, out: BinaryIO) -> None:
    pixels = _with_extra(photo, bits)
    extra: list[tuple[int, int, int, object, bool]] = []
    about = photo.metadata
    for tag, kind, block in (
        (XMP_TAG, 1, about.xmp),
        (TAG, 7, about.iptc),
        (RESOURCES_TAG, 7, about.resources),
    ):
        if block:
            extra.append((tag, kind, len(block), block, True))
    found = _said(about.exif)
    for value in found.pop(0, []):
        extra.append((value.tag, value.kind, value.count, value.data, True))
    tifffile.imwrite(
        out,
        pixels,
        photometric="rgb",
        extrasamples=[_EXTRA[photo.alpha_kind]] if photo.alpha is not None else None,
        compression="zlib",
        predictor=True,
        iccprofile=_icc(photo),
        resolution=about.dpi,
        resolutionunit="INCH" if about.dpi else None,
        extratags=extra,
        metadata=None,
        software=False,
        rowsperstrip=64,
        byteorder="<",
    )
    append_directories(out, found)


def _said(exif: bytes | None) -> Directories:
    """What the directories of a TIFF say of a photo."""
    if exif is None:
        return {}
    with suppress(*DAMAGED):
        return collected(Block(exif))
    return {}


def append_directories(out: BinaryIO, found: Directories) -> None:
    """Write the further directories at the end, and the first anew with pointers to them.

    The old first directory stays as unused bytes. (TIFF 6.0, section 2: entries of 12 bytes, sorted.)
    """
    if not found:
        return
    out.seek(4)
    (at,) = struct.unpack("<I", out.read(4))
    out.seek(at)
    (count,) = struct.unpack("<H", out.read(2))
    entries = [out.read(12) for _ in range(count)]
    following = out.read(4)
    within = found.get(EXIF_IFD, [])
    if INTEROP_IFD in found:
        within = [*within, _pointer(out, INTEROP_IFD, found[INTEROP_IFD])]
    for tag, values in ((EXIF_IFD, within), (GPS_IFD, found.get(GPS_IFD, []))):
        if values:
            value = _pointer(out, tag, values)
            entries.append(struct.pack("<HHI", tag, 4, 1) + value.data)
    entries.sort(key=lambda entry: struct.unpack_from("<H", entry))
    first = struct.pack("<H", len(entries)) + b"".join(entries) + following
    at = _append(out, lambda _: first)
    out.seek(4)
    out.write(struct.pack("<I", at))


def _pointer(out: BinaryIO, tag: int, values: list[Value]) -> Value:
    """To a directory that is written for it."""
    return Value(tag, 4, 1, struct.pack("<I", _append(out, partial(packed, values))))


def _append(out: BinaryIO, content: Callable[[int], bytes]) -> int:
    """Write at the end, on an even offset, which is returned; content: made for its offset."""
    at = out.seek(0, os.SEEK_END)
    at += out.write(b"\0" * (at % 2))
    out.write(content(at))
    return at


def _avif(photo: Photo, bits: int, coding: Coding, out: BinaryIO) -> None:
    icc, about = _icc(photo), photo.metadata
    if bits == 8:
        out.write(avif8(_pixels(photo, 8, alpha=True), icc, about, coding))
    else:
        out.write(avif_deep(_pixels(photo, 16, alpha=False), bits, icc, about, coding))


def _jxl(photo: Photo, bits: int, out: BinaryIO) -> None:
    """Without loss. What writes it knows sRGB at 8 bits and linear light at 16; the space is named by us."""
    space = standard_like(photo.profile)
    if space is None:
        raise PhotoError("JPEG XL is written in sRGB, Display P3 or Rec. 2020; choose one of them")
    pixels = _pixels(photo, bits, alpha=True)
    coded = imagecodecs.jpegxl_encode(pixels, lossless=True, usecontainer=True, numthreads=2)
    out.write(in_space(bytes(coded), space))
    for name, block in _jxl_boxes(photo):
        out.write(struct.pack(">I4s", 8 + len(block), name) + block)


def _jxl_boxes(photo: Photo) -> list[tuple[bytes, bytes]]:
    """ISO/IEC 18181-2 (2024), sections 9.5 and 9.6."""
    boxes = []
    if photo.metadata.exif:
        boxes.append((b"Exif", bytes(4) + photo.metadata.exif))
    if photo.metadata.xmp:
        boxes.append((b"xml ", photo.metadata.xmp))
    return boxes


def _write(out: BinaryIO, data: bytes) -> None:
    out.write(data)


_WRITERS: dict[str, Callable[[Photo, Coding, BinaryIO], None]] = {
    "jpeg": _jpeg,
    "png": lambda photo, _, out: _write(out, png_of(photo, 8)),
    "png16": lambda photo, _, out: _write(out, png_of(photo, 16)),
    "tiff": lambda photo, _, out: _tiff(photo, 8, out),
    "tiff16": lambda photo, _, out: _tiff(photo, 16, out),
    "avif": lambda photo, coding, out: _avif(photo, 8, coding, out),
    "avif10": lambda photo, coding, out: _avif(photo, 10, coding, out),
    "avif12": lambda photo, coding, out: _avif(photo, 12, coding, out),
    "jxl": lambda photo, _, out: _jxl(photo, 8, out),
    "jxl16": lambda photo, _, out: _jxl(photo, 16, out),
}
