"""Read a picture file: JPEG, PNG 8/16, TIFF 8/16/float, WebP, AVIF and HEIF to 12 bits, JPEG XL, OpenEXR."""

import io
import struct
import warnings
import zlib
from contextlib import suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, BinaryIO

import imagecodecs
import numpy as np
import numpy.typing as npt
import pillow_heif
import tifffile
from PIL import Image, ImageFile, UnidentifiedImageError

from nubilis.arrays import Codes
from nubilis.colour.profile import Profile, read_profile, srgb
from nubilis.colour.standard import standard_profile
from nubilis.errors import PhotoError
from nubilis.photo.boxes import (
    JXL_BARE,
    JXL_BOXED,
    LOOKED_THROUGH,
    coded_says,
    jxl_says,
)
from nubilis.photo.claims import check_claim
from nubilis.photo.depth import at_depth
from nubilis.photo.exr import MAGIC, exr_size, read_exr
from nubilis.photo.foreign import from_floats, from_light, is_of_tables, space_of, through_tables
from nubilis.photo.metadata import Metadata, read_metadata
from nubilis.photo.picture import Photo
from nubilis.photo.pieces import check_pieces, check_scans
from nubilis.photo.png import without_pixels
from nubilis.photo.raw import is_raw, raw_size, read_raw

MAX_PIXELS = 200_000_000
MOST_CHANNELS = 4
START = 16  # bytes by which kinds of files are told apart
FORMATS = ("JPEG", "PNG", "TIFF", "WEBP", "AVIF", "HEIF")
_READABLE = (
    "Nubilis reads JPEG, PNG, TIFF, WebP, AVIF, HEIF, JPEG XL, OpenEXR and cameras' raw files"
)


@dataclass(frozen=True)
class Header:
    """What a file says before its pixels are decoded. size: (width, height) as stored."""

    format: str
    size: tuple[int, int]
    mode: str
    icc: bytes | None
    metadata: Metadata
    orientation: int


def read_photo(source: Path | bytes) -> Photo:
    """Decode a file, upright. Raises PhotoError with one line that says what is wrong."""
    try:
        with io.BytesIO(source) if isinstance(source, bytes) else source.open("rb") as file:
            header = read_header(file)
            if header.format in ("RAW", "EXR"):
                file.seek(0)
                return (_developed if header.format == "RAW" else _lit)(file.read(), header)
            return _photo(_decoded(file, header), header)
    except OSError as error:
        raise PhotoError(f"cannot read {source!s:.200}: {error.strerror}") from error


def _developed(data: bytes, header: Header) -> Photo:
    raw = read_raw(data)
    return Photo(
        codes=raw.codes,
        profile=standard_profile("rec2020"),
        metadata=header.metadata,
        format="RAW",
        notes=raw.notes,
    )


def _lit(data: bytes, header: Header) -> Photo:
    light = read_exr(data)
    note = "OpenEXR: linear light, into Rec. 2020 at 16 bits, highlights pressed together"
    done = from_light(light.rgb, light.to_rec2020, note)
    alpha = None
    if light.alpha is not None:
        alpha = np.rint(light.alpha * 65535.0).astype(np.uint16)
    return Photo(done.codes, done.profile, header.metadata, alpha, "EXR", (done.note,))


def _decoded(file: BinaryIO, header: Header) -> npt.NDArray[Any]:
    try:
        return _decode(file, header)
    except PhotoError:
        raise
    except MemoryError as error:
        raise PhotoError("not enough memory for this photo") from error
    except (ValueError, OSError, SyntaxError, struct.error, zlib.error, RuntimeError, IndexError,
            KeyError, EOFError, TypeError) as error:  # fmt: skip
        raise PhotoError(f"the {header.format} file is damaged or incomplete") from error


def read_header(file: BinaryIO) -> Header:
    """Look at the header alone; refuse what cannot or must not be decoded. Raises PhotoError."""
    start = file.read(START)
    if not start:
        raise PhotoError("the file is empty")
    if start.startswith((JXL_BARE, JXL_BOXED)):
        return _jxl_header(start + file.read())
    if start.startswith(MAGIC):
        size = exr_size(start + file.read())
        _check_size(*size)
        return Header("EXR", size, "RGB", None, Metadata(), 1)
    if is_raw(start, file):
        return _raw_header(file)
    scans = check_pieces(start, file)
    file.seek(0)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            image = Image.open(file, formats=FORMATS)
            _check_size(*image.size)
            check_scans(scans, image.size)
            check_claim(image.size, str(image.format), image.mode, _bytes_of(file))
            header = _header(image, file)
            if header.format in ("AVIF", "HEIF"):
                file.seek(0)
                says = coded_says(file.read(LOOKED_THROUGH))
                header = replace(header, icc=header.icc or says.icc)
    except UnidentifiedImageError as error:
        other = _tiff_header(file) if start[:2] in (b"II", b"MM") else None
        if other is None:
            raise PhotoError(f"not a picture that can be read; {_READABLE}") from error
        header = other
    except PhotoError:
        raise
    except MemoryError as error:
        raise PhotoError("not enough memory for this photo") from error
    except (ValueError, OSError, SyntaxError, struct.error, zlib.error, KeyError, TypeError,
            OverflowError, EOFError, IndexError, AttributeError, RuntimeError) as error:  # fmt: skip
        raise PhotoError("the file's header is damaged") from error
    if _is_cmyk(header) and (header.icc is None or space_of(header.icc) != "CMYK"):
        raise PhotoError(
            "the picture is CMYK without a profile of its inks; please convert it to RGB"
        )
    return header


def _bytes_of(file: BinaryIO) -> int:
    """Left where it was: whoever has it open reads on from there."""
    here = file.tell()
    size = file.seek(0, io.SEEK_END)
    file.seek(here)
    return size


def _is_cmyk(header: Header) -> bool:
    return header.mode in ("CMYK", "YCCK")


def _jxl_header(data: bytes) -> Header:
    """What writes the pixels turns them upright."""
    says = jxl_says(data)
    _check_size(*says.size)
    return Header("JXL", says.size, "RGB", None, Metadata(says.exif, says.xmp), 1)


def _raw_header(file: BinaryIO) -> Header:
    """LibRaw turns the pixels upright."""
    file.seek(0)
    data = file.read()
    size = raw_size(data)
    _check_size(*size)
    metadata = Metadata()
    with suppress(UnidentifiedImageError, OSError, ValueError, SyntaxError, KeyError):
        metadata, _ = read_metadata(Image.open(io.BytesIO(data), formats=["TIFF"]))
    return Header("RAW", size, "RGB", None, metadata, 1)


def _check_size(width: int, height: int) -> None:
    if width * height > MAX_PIXELS:
        raise PhotoError(
            f"the picture claims {width} x {height} pixels; the limit is {MAX_PIXELS // 10**6} megapixels"
        )


def _header(image: Image.Image, file: BinaryIO) -> Header:
    says = image
    if image.format == "PNG":
        with suppress(UnidentifiedImageError):
            says = without_pixels(file)
    metadata, orientation = read_metadata(says)
    return Header(
        str(image.format),
        image.size,
        image.mode,
        image.info.get("icc_profile"),
        metadata,
        orientation,
    )


def _tiff_header(file: BinaryIO) -> Header | None:
    """TIFFs that only tifffile knows, such as 16 bits with alpha."""
    try:
        file.seek(0)
        with tifffile.TiffFile(file) as tiff:
            page = tiff.pages.first
            _check_size(int(page.imagewidth), int(page.imagelength))
            icc = page.tags.get(34675)
            return Header(
                "TIFF",
                (int(page.imagewidth), int(page.imagelength)),
                "CMYK" if page.photometric == tifffile.PHOTOMETRIC.SEPARATED else "RGB",
                bytes(icc.value) if icc else None,
                Metadata(),
                int(page.tags["Orientation"].value) if "Orientation" in page.tags else 1,
            )
    except PhotoError:
        raise
    except (tifffile.TiffFileError, ValueError, KeyError, struct.error, IndexError, TypeError):
        return None


def _decode(file: BinaryIO, header: Header) -> npt.NDArray[Any]:
    file.seek(0)
    if header.format == "TIFF":
        return _decode_tiff(file)
    data = file.read()
    if header.format == "JXL":
        return np.asarray(imagecodecs.jpegxl_decode(data))
    if header.format == "HEIF":
        return _decode_heif(data)
    if header.format == "AVIF" and (bits := coded_says(data[:LOOKED_THROUGH]).bits) > 8:
        return _stretched(np.asarray(imagecodecs.avif_decode(data)), bits)
    if header.format == "PNG" and data[24] == 16:
        return np.asarray(imagecodecs.png_decode(data))
    if header.format == "JPEG" and header.mode == "RGB":
        _refuse_truncated_jpeg(data)
        return np.asarray(imagecodecs.jpeg8_decode(data, outcolorspace="RGB"))
    # A library for pages that shares this process lets half a picture do as a whole one.
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    image: Image.Image = Image.open(io.BytesIO(data), formats=[header.format])
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        image.load()
    if image.mode == "P":
        image = image.convert("RGBA" if "transparency" in image.info else "RGB")
    elif image.mode in ("1", "PA", "La", "RGBa"):
        image = image.convert({"1": "L", "PA": "RGBA", "La": "LA", "RGBa": "RGBA"}[image.mode])
    return np.asarray(image)


def _decode_heif(data: bytes) -> npt.NDArray[Any]:
    """What decodes it turns it upright, and gives more than 8 bits in the upper ones of 16."""
    heif = pillow_heif.open_heif(io.BytesIO(data), convert_hdr_to_8bit=False)
    pixels = np.asarray(heif)
    bits = int(heif.info.get("bit_depth", 8))
    return pixels if bits == 8 else _stretched(pixels >> (16 - bits), bits)


def _stretched(pixels: npt.NDArray[Any], bits: int) -> npt.NDArray[Any]:
    """10 or 12 bits to 16."""
    top = 2**bits - 1
    wide: npt.NDArray[Any] = (pixels.astype(np.uint32) * 65535 + top // 2) // top
    return wide.astype(np.uint16)


def _refuse_truncated_jpeg(data: bytes) -> None:
    """libjpeg paints what is missing grey and merely warns; half a photo is not a photo."""
    if b"\xff\xd9" not in data[-65536:]:
        raise PhotoError("the JPEG file is incomplete: its end is missing")


def _decode_tiff(file: BinaryIO) -> npt.NDArray[Any]:
    with tifffile.TiffFile(file) as tiff:
        page = tiff.pages.first
        if page.size > MAX_PIXELS * MOST_CHANNELS:
            raise PhotoError(f"the TIFF claims {page.size} values, which no photo has")
        photometric = page.photometric
        pixels = np.asarray(page.asarray())
        if photometric == tifffile.PHOTOMETRIC.PALETTE:
            table = np.asarray(page.colormap)
            pixels = np.ascontiguousarray(table[:, pixels].transpose(1, 2, 0))
        if photometric == tifffile.PHOTOMETRIC.MINISWHITE:
            pixels = np.iinfo(pixels.dtype).max - pixels
        if page.planarconfig == tifffile.PLANARCONFIG.SEPARATE and pixels.ndim == 3:
            pixels = pixels.transpose(1, 2, 0)
    if pixels.dtype == np.bool_:
        pixels = pixels.astype(np.uint8) * 255
    return pixels


def _photo(pixels: npt.NDArray[Any], header: Header) -> Photo:
    if pixels.dtype not in (np.uint8, np.uint16) and pixels.dtype.kind != "f":
        raise PhotoError(f"the picture has {pixels.dtype} values; 8, 16 bits and floats are read")
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    if pixels.ndim != 3 or pixels.shape[2] > 4 or min(pixels.shape) < 1:
        raise PhotoError("the picture is neither grey, RGB nor CMYK")
    notes: list[str] = []
    if _is_cmyk(header):
        return _converted(pixels, None, header, notes)
    alpha = pixels[..., -1] if pixels.shape[2] in (2, 4) else None
    colour = pixels[..., : pixels.shape[2] - (alpha is not None)]
    was_grey = colour.shape[2] == 1
    if was_grey:
        colour = np.repeat(colour, 3, axis=2)
        notes.append("A grey picture: opened as RGB with three equal channels")
    if header.mode in ("P", "PA"):
        notes.append("A palette picture: opened as RGB")
    if colour.dtype.kind == "f" or (header.icc and is_of_tables(header.icc)):
        return _converted(colour, alpha, header, notes)
    profile = _profile(header, was_grey, notes)
    return Photo(
        codes=_upright(colour, header.orientation),
        alpha=None if alpha is None else _upright(alpha, header.orientation),
        profile=profile,
        metadata=header.metadata,
        format=header.format,
        notes=tuple(notes),
    )


def _converted(
    colour: npt.NDArray[Any], alpha: npt.NDArray[Any] | None, header: Header, notes: list[str]
) -> Photo:
    """Into a space of ours, where what came cannot be led back to."""
    cmyk = _is_cmyk(header)
    if colour.dtype == np.uint16 and cmyk:
        colour = at_depth(colour, 8)
    if colour.dtype.kind == "f":
        done = from_floats(colour, header.icc)
    elif colour.dtype == np.uint8 and header.icc is not None and colour.shape[2] == 3 + cmyk:
        done = through_tables(colour, header.icc, "CMYK" if cmyk else "RGB")
    else:
        # Eight bits are what goes through tables; more would be lost unseen.
        read_profile(header.icc or b"")
        raise PhotoError("the picture's channels do not fit its profile")
    codes = _upright(done.codes, header.orientation)
    if alpha is not None:
        bits = 8 * codes.dtype.itemsize
        if alpha.dtype.kind == "f":
            alpha = np.rint(np.clip(alpha, 0.0, 1.0) * 65535.0).astype(np.uint16)
        alpha = _upright(at_depth(alpha, bits), header.orientation)
    notes = [*notes, done.note]
    return Photo(codes, done.profile, header.metadata, alpha, header.format, tuple(notes))


def _profile(header: Header, was_grey: bool, notes: list[str]) -> Profile:
    if header.icc is None:
        notes.append("No colour profile: read as sRGB")
        return srgb()
    profile = read_profile(header.icc)
    if profile.grey != was_grey:
        raise PhotoError("the colour profile does not fit the picture's channels")
    if profile.grey:
        # Delivered as RGB, for which a grey profile would be wrong.
        notes.append(f"Its grey profile ({profile.name}) was left aside: read as sRGB")
        return srgb()
    return profile


def _upright(pixels: npt.NDArray[Any], orientation: int) -> Codes:
    """Turn and mirror as EXIF orientation 1..8 asks (Exif 2.32, tag 274)."""
    if orientation in (5, 6, 7, 8):
        pixels = pixels.swapaxes(0, 1)
    if orientation in (2, 3, 6, 7):
        pixels = pixels[:, ::-1]
    if orientation in (3, 4, 7, 8):
        pixels = pixels[::-1]
    # Own memory, writable and in one piece: what the kernels are compiled for.
    return np.require(pixels, requirements=["C", "W", "O"])
