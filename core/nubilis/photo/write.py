"""Write a photo: JPEG, PNG, TIFF, AVIF, JPEG XL, with profile and metadata. Never half a file."""

import os
import struct
import tempfile
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, BinaryIO

import imagecodecs
import numpy as np
import numpy.typing as npt
import tifffile
from PIL import Image
from PIL.TiffImagePlugin import ImageFileDirectory_v2

from nubilis.colour.profile import Profile, srgb, srgb_icc
from nubilis.errors import PhotoError
from nubilis.photo.depth import at_depth
from nubilis.photo.metadata import EXIF_IFD, GPS_IFD, exif_directory
from nubilis.photo.picture import Photo

SUFFIX = {"jpeg": ".jpg", "png": ".png", "png16": ".png", "tiff": ".tif", "tiff16": ".tif",
          "avif": ".avif", "jxl": ".jxl", "jxl16": ".jxl"}  # fmt: skip
MEDIA_TYPE = {
    "jpeg": "image/jpeg",
    "png": "image/png",
    "png16": "image/png",
    "tiff": "image/tiff",
    "tiff16": "image/tiff",
    "avif": "image/avif",
    "jxl": "image/jxl",
    "jxl16": "image/jxl",
}
BITS = {name: 16 if name.endswith("16") else 8 for name in SUFFIX}
LOSSY = ("jpeg", "avif")
AVIF_QUALITY = 90
BY_SUFFIX = {".jpg": "jpeg", ".jpeg": "jpeg", ".png": "png", ".tif": "tiff", ".tiff": "tiff"}
JPEG_QUALITY = 95
_SEGMENT = 65533  # a JPEG segment's payload, without its two length bytes


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


def write_photo(path: Path, photo: Photo, file_format: str) -> None:
    """Write beside the target, then rename: nobody ever sees half a file. Raises PhotoError."""
    writer = _WRITERS.get(file_format)
    if writer is None:
        raise PhotoError(f"unknown format {file_format}; one of {', '.join(_WRITERS)}")
    with written_beside(path) as out:
        writer(photo, out)


@contextmanager
def written_beside(path: Path) -> Iterator[BinaryIO]:
    """A file that takes its place when it is whole. Raises PhotoError."""
    name = None
    try:
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=".nubilis-", suffix=path.suffix)
        os.close(handle)
        with open(name, "w+b") as out:
            yield out
        os.chmod(name, 0o644)
        os.replace(name, path)
    except OSError as error:
        raise PhotoError(f"cannot write {path}: {error.strerror}") from error
    finally:
        if name is not None:
            Path(name).unlink(missing_ok=True)


def _pixels(photo: Photo, bits: int, *, alpha: bool) -> npt.NDArray[Any]:
    codes = at_depth(photo.codes, bits)
    if photo.alpha is None or not alpha:
        return np.ascontiguousarray(codes)
    return np.dstack([codes, at_depth(photo.alpha, bits)])


def _icc(photo: Photo) -> bytes:
    return photo.profile.icc or srgb_icc()


def _jpeg(photo: Photo, out: BinaryIO) -> None:
    pixels = _pixels(photo, 8, alpha=False)
    body = memoryview(imagecodecs.jpeg8_encode(pixels, level=JPEG_QUALITY, subsampling="444"))
    out.write(body[:2])
    out.write(_jpeg_segments(photo))
    out.write(body[2:])


def _jpeg_segments(photo: Photo) -> bytes:
    """APP1 for EXIF and XMP, APP2 for the profile in chunks (ICC.1:2022, annex B.4)."""

    def segment(marker: int, payload: bytes) -> bytes:
        return struct.pack(">BBH", 0xFF, marker, len(payload) + 2) + payload

    out = b""
    meta = photo.metadata
    if meta.exif and len(meta.exif) + 6 <= _SEGMENT:
        out += segment(0xE1, b"Exif\0\0" + meta.exif)
    label = b"http://ns.adobe.com/xap/1.0/\0"
    if meta.xmp and len(meta.xmp) + len(label) <= _SEGMENT:
        out += segment(0xE1, label + meta.xmp)
    icc, room = _icc(photo), _SEGMENT - 14
    chunks = [icc[i : i + room] for i in range(0, len(icc), room)]
    for i, chunk in enumerate(chunks, 1):
        out += segment(0xE2, b"ICC_PROFILE\0" + bytes([i, len(chunks)]) + chunk)
    return out


def _png(photo: Photo, bits: int, out: BinaryIO) -> None:
    pixels = _pixels(photo, bits, alpha=True)
    body = memoryview(imagecodecs.png_encode(pixels, level=4))
    after_header = 8 + 25  # signature and IHDR
    out.write(body[:after_header])
    out.write(_png_chunks(photo))
    out.write(body[after_header:])


def _png_chunks(photo: Photo) -> bytes:
    """iCCP, eXIf and XMP in iTXt (PNG, third edition, sections 11.3.2 and 11.3.3)."""

    def chunk(name: bytes, payload: bytes) -> bytes:
        return (
            struct.pack(">I", len(payload)) + name + payload
            + struct.pack(">I", zlib.crc32(name + payload))
        )  # fmt: skip

    out = chunk(b"iCCP", b"profile\0\0" + zlib.compress(_icc(photo)))
    if photo.metadata.exif:
        out += chunk(b"eXIf", photo.metadata.exif)
    if photo.metadata.xmp:
        out += chunk(b"iTXt", b"XML:com.adobe.xmp\0\0\0\0\0" + photo.metadata.xmp)
    return out


def _tiff(photo: Photo, bits: int, out: BinaryIO) -> None:
    pixels = _pixels(photo, bits, alpha=True)
    directory = exif_directory(photo.metadata.exif) if photo.metadata.exif else {}
    extra: list[tuple[int, int, int, object, bool]] = []
    if photo.metadata.xmp:
        extra.append((700, 1, len(photo.metadata.xmp), photo.metadata.xmp, True))
    blocks = {tag: directory[tag] for tag in (EXIF_IFD, GPS_IFD) if tag in directory}
    for tag in (0x010E, 0x010F, 0x0110, 0x0131, 0x0132, 0x013B, 0x8298):
        value = directory.get(tag)
        if isinstance(value, str):
            extra.append((tag, 2, 0, value, True))
    tifffile.imwrite(
        out,
        pixels,
        photometric="rgb",
        extrasamples=["unassalpha"] if pixels.shape[2] == 4 else None,
        compression="zlib",
        predictor=True,
        iccprofile=_icc(photo),
        extratags=extra,
        metadata=None,
        software=False,
        rowsperstrip=64,
        byteorder="<",
    )
    append_directories(out, blocks)


def append_directories(out: BinaryIO, blocks: dict[int, dict[int, object]]) -> None:
    """Write the EXIF and GPS directories at the end, and the first directory anew with pointers to them.

    The old first directory stays as unused bytes. (TIFF 6.0, section 2: entries of 12 bytes, sorted.)
    """
    if not blocks:
        return
    out.seek(4)
    (at,) = struct.unpack("<I", out.read(4))
    out.seek(at)
    (count,) = struct.unpack("<H", out.read(2))
    entries = [out.read(12) for _ in range(count)]
    following = out.read(4)
    for tag, block in blocks.items():
        directory = ImageFileDirectory_v2(b"II*\0\0\0\0\0")
        for key, value in block.items():
            directory[key] = value
        entries.append(struct.pack("<HHII", tag, 4, 1, _append(out, directory.tobytes)))
    entries.sort(key=lambda entry: struct.unpack_from("<H", entry))
    first = struct.pack("<H", len(entries)) + b"".join(entries) + following
    at = _append(out, lambda _: first)
    out.seek(4)
    out.write(struct.pack("<I", at))


def _append(out: BinaryIO, content: Callable[[int], bytes]) -> int:
    """Write at the end, on an even offset, which is returned; content: made for its offset."""
    at = out.seek(0, os.SEEK_END)
    at += out.write(b"\0" * (at % 2))
    out.write(content(at))
    return at


def _avif(photo: Photo, out: BinaryIO) -> None:
    """AV1 still, 4:4:4, 8 bits."""
    more: dict[str, Any] = {"exif": photo.metadata.exif, "xmp": photo.metadata.xmp}
    image = Image.fromarray(_pixels(photo, 8, alpha=True))
    image.save(
        out,
        "AVIF",
        quality=AVIF_QUALITY,
        subsampling="4:4:4",
        icc_profile=_icc(photo),
        **{name: block for name, block in more.items() if block},
    )


def _jxl(photo: Photo, bits: int, out: BinaryIO) -> None:
    """Without loss. What writes it knows no profile but sRGB, which such a file means by itself."""
    if not _is_srgb(photo.profile):
        raise PhotoError("JPEG XL is written in sRGB; choose sRGB as its profile")
    pixels = _pixels(photo, bits, alpha=True)
    out.write(imagecodecs.jpegxl_encode(pixels, lossless=True, usecontainer=True, numthreads=2))
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


def _is_srgb(profile: Profile) -> bool:
    own = srgb()
    same = np.allclose(profile.matrix, own.matrix, atol=2e-3)
    return same and all(
        np.allclose(a, b, atol=2e-3) for a, b in zip(profile.curves, own.curves, strict=True)
    )


_WRITERS: dict[str, Callable[[Photo, BinaryIO], None]] = {
    "jpeg": _jpeg,
    "png": lambda photo, out: _png(photo, 8, out),
    "png16": lambda photo, out: _png(photo, 16, out),
    "tiff": lambda photo, out: _tiff(photo, 8, out),
    "tiff16": lambda photo, out: _tiff(photo, 16, out),
    "avif": _avif,
    "jxl": lambda photo, out: _jxl(photo, 8, out),
    "jxl16": lambda photo, out: _jxl(photo, 16, out),
}
