"""Read a picture file: JPEG, PNG 8/16, TIFF 8/16/float, WebP, AVIF and HEIF to 12 bits, JPEG XL, OpenEXR."""

import io
import struct
import warnings
import zlib
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from typing import BinaryIO

import imagecodecs
import numpy as np
import pillow_heif
import tifffile
from PIL import Image, ImageFile, UnidentifiedImageError
from pillow_jxl import Decoder as JxlDecoder

from nubilis.arrays import Codes
from nubilis.colour.profile import Profile, read_profile, srgb
from nubilis.colour.standard import rgb_icc_of_grey, standard_profile
from nubilis.errors import PhotoError
from nubilis.photo.boxes import LOOKED_THROUGH, coded_says
from nubilis.photo.claims import check_claim
from nubilis.photo.depth import at_depth
from nubilis.photo.exif_block import DAMAGED, as_kept
from nubilis.photo.exr import MAGIC, exr_size, read_exr
from nubilis.photo.foreign import from_floats, from_light, is_of_tables, space_of, through_tables
from nubilis.photo.header import FURTHER, Header, check_size
from nubilis.photo.jpeg_walk import JPEG, picture_of, walk
from nubilis.photo.jxl import JXL_BARE, JXL_BOXED, JxlSays, jxl_says
from nubilis.photo.metadata import Metadata, read_metadata
from nubilis.photo.picture import Photo
from nubilis.photo.pieces import check_chunks, check_scans
from nubilis.photo.png import SIGNATURE, without_pixels
from nubilis.photo.png_colour import PngSays, png_says
from nubilis.photo.raw import raw_size, read_raw
from nubilis.photo.raw_kinds import is_raw
from nubilis.photo.samples import Pixels, Samples, made_straight, split, stretched
from nubilis.photo.tiff import decode_tiff

LEAST_PROFILE = 132  # bytes, of its header and a table without tags
START = 16  # bytes by which kinds of files are told apart
FORMATS = ("JPEG", "PNG", "TIFF", "WEBP", "AVIF", "HEIF")
_READABLE = (
    "Nubilis reads JPEG, PNG, TIFF, WebP, AVIF, HEIF, JPEG XL, OpenEXR and cameras' raw files"
)


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


def _decoded(file: BinaryIO, header: Header) -> Samples:
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
        check_size(*size)
        return Header("EXR", size, "RGB", None, Metadata(), 1)
    if is_raw(start, file):
        return _raw_header(file)
    if start.startswith(SIGNATURE):
        check_chunks(file)
    file.seek(0)
    try:
        if start.startswith(JPEG):
            return _jpeg_header(file.read())
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            image = Image.open(file, formats=FORMATS)
            check_size(*image.size)
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
    return _with_inks(header)


def _with_inks(header: Header) -> Header:
    if header.of_inks and (header.icc is None or space_of(header.icc) != "CMYK"):
        raise PhotoError(
            "the picture is CMYK without a profile of its inks; please convert it to RGB"
        )
    return header


def _jpeg_header(data: bytes) -> Header:
    """Of the picture alone: what lies behind it says nothing of it."""
    walked = walk(data)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        image = Image.open(io.BytesIO(data[: walked.end]), formats=["JPEG"])
        check_size(*image.size)
        check_scans(walked.scans, image.size)
        check_claim(image.size, "JPEG", image.mode, len(data))
        metadata, orientation = read_metadata(image)
    icc = image.info.get("icc_profile")
    notes = (FURTHER,) if image.format == "MPO" else ()
    return _with_inks(
        Header("JPEG", image.size, image.mode, icc, metadata, orientation, notes=notes)
    )


def _bytes_of(file: BinaryIO) -> int:
    """Left where it was: whoever has it open reads on from there."""
    here = file.tell()
    size = file.seek(0, io.SEEK_END)
    file.seek(here)
    return size


def _jxl_header(data: bytes) -> Header:
    """What writes the pixels turns them upright."""
    says = jxl_says(data)
    check_size(*says.size)
    exif = None
    if says.exif is not None:
        with suppress(*DAMAGED):
            exif, _ = as_kept(says.exif)
    metadata = Metadata(exif, says.xmp)
    return Header("JXL", says.size, "RGB", says.icc, metadata, 1, jxl=says)


def _raw_header(file: BinaryIO) -> Header:
    """LibRaw turns the pixels upright."""
    file.seek(0)
    data = file.read()
    size = raw_size(data)
    check_size(*size)
    metadata = Metadata()
    with suppress(UnidentifiedImageError, OSError, ValueError, SyntaxError, KeyError):
        metadata, _ = read_metadata(Image.open(io.BytesIO(data), formats=["TIFF"]))
    return Header("RAW", size, "RGB", None, metadata, 1)


def _header(image: Image.Image, file: BinaryIO) -> Header:
    says, png = image, None
    icc = image.info.get("icc_profile")
    if image.format == "PNG":
        with suppress(UnidentifiedImageError):
            says = without_pixels(file)
        png = png_says(file)
        icc = png.icc(icc)
    metadata, orientation = read_metadata(says)
    return Header(
        str(image.format), image.size, image.mode, icc, metadata, orientation, png,
        notes=tuple(beside(image)),
    )  # fmt: skip


def beside(image: Image.Image) -> Iterator[str]:
    """What else the file holds. A TIFF's further directories are looked at when it is decoded."""
    if image.format != "TIFF" and getattr(image, "n_frames", 1) > 1:
        yield FURTHER
    if image.info.get("depth_images"):
        yield "The file holds a map of how far away things are: it was left aside"


def _tiff_header(file: BinaryIO) -> Header | None:
    """TIFFs that only tifffile knows, such as 16 bits with alpha."""
    try:
        file.seek(0)
        with tifffile.TiffFile(file) as tiff:
            page = tiff.pages.first
            check_size(int(page.imagewidth), int(page.imagelength))
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


def _decode(file: BinaryIO, header: Header) -> Samples:
    if header.format == "TIFF":
        return decode_tiff(file)
    file.seek(0)
    data = file.read()
    if header.jxl is not None:
        return _decode_jxl(data, header.jxl)
    if header.format == "HEIF":
        return split(_decode_heif(data))
    if header.format == "AVIF" and (bits := coded_says(data[:LOOKED_THROUGH]).bits) > 8:
        return split(stretched(np.asarray(imagecodecs.avif_decode(data)), bits))
    if header.png is not None:
        return _decode_png(data, header.png)
    if header.format == "JPEG":
        data = picture_of(data)
        if header.mode == "RGB":
            return split(np.asarray(imagecodecs.jpeg8_decode(data, outcolorspace="RGB")))
    return split(_by_pillow(data, header.format), inks=header.of_inks)


def _by_pillow(data: bytes, file_format: str) -> Pixels:
    # A library for pages that shares this process lets half a picture do as a whole one.
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    image: Image.Image = Image.open(io.BytesIO(data), formats=[file_format])
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        image.load()
    if image.mode == "P":
        image = image.convert("RGBA" if "transparency" in image.info else "RGB")
    elif image.mode in ("1", "PA", "La", "RGBa"):
        image = image.convert({"1": "L", "PA": "RGBA", "La": "LA", "RGBa": "RGBA"}[image.mode])
    return np.asarray(image)


def _decode_png(data: bytes, says: PngSays) -> Samples:
    if says.bits == 16:
        samples = split(np.asarray(imagecodecs.png_decode(data)))
    else:
        samples = split(_by_pillow(data, "PNG"))
    if samples.alpha is not None:
        return samples
    return replace(samples, alpha=says.alpha(samples.colour))


def _decode_jxl(data: bytes, says: JxlSays) -> Samples:
    samples = split(np.asarray(imagecodecs.jpegxl_decode(data)))
    icc = says.icc
    if icc is None:
        icc = (
            JxlDecoder(num_threads=0)(data)[3] or None
        )  # where it is written out within the stream
    colour, alpha = samples.colour, samples.alpha
    if not says.floats:
        colour = stretched(colour, says.bits)
        alpha = None if alpha is None else stretched(alpha, says.bits)
    if alpha is None or not says.associated:
        return Samples(colour, alpha, icc=icc)
    return Samples(made_straight(colour, alpha), alpha, "associated", icc)


def _decode_heif(data: bytes) -> Pixels:
    """What decodes it turns it upright, and gives more than 8 bits in the upper ones of 16."""
    heif = pillow_heif.open_heif(io.BytesIO(data), convert_hdr_to_8bit=False)
    pixels = np.asarray(heif)
    bits = int(heif.info.get("bit_depth", 8))
    return pixels if bits == 8 else stretched(pixels >> (16 - bits), bits)


def _photo(samples: Samples, header: Header) -> Photo:
    colour, alpha = samples.colour, samples.alpha
    if colour.dtype not in (np.uint8, np.uint16) and colour.dtype.kind != "f":
        raise PhotoError(f"the picture has {colour.dtype} values; 8, 16 bits and floats are read")
    notes = [*header.notes, *samples.notes]
    header = replace(header, icc=samples.icc or header.icc)
    if header.of_inks:
        return _converted(colour, alpha, header, notes)
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
        alpha_kind=samples.alpha_kind,
    )


def _converted(colour: Pixels, alpha: Pixels | None, header: Header, notes: list[str]) -> Photo:
    """Into a space of ours, where what came cannot be led back to."""
    cmyk = header.of_inks
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
    if header.icc is None or len(header.icc) < LEAST_PROFILE:
        notes.append("No colour profile: read as sRGB")
        return srgb()
    profile = read_profile(header.icc)
    if not profile.grey:
        return profile
    if not was_grey:
        raise PhotoError("the colour profile does not fit the picture's channels")
    # Exported as RGB, for which a grey profile would be wrong.
    notes.append(f"Its grey profile ({profile.name}): opened as RGB with the same curve")
    return read_profile(rgb_icc_of_grey(header.icc))


def _upright(pixels: Pixels, orientation: int) -> Codes:
    """Turn and mirror as EXIF orientation 1..8 asks (Exif 2.32, tag 274)."""
    if orientation in (5, 6, 7, 8):
        pixels = pixels.swapaxes(0, 1)
    if orientation in (2, 3, 6, 7):
        pixels = pixels[:, ::-1]
    if orientation in (3, 4, 7, 8):
        pixels = pixels[::-1]
    # Own memory, writable and in one piece: what the kernels are compiled for.
    return np.require(pixels, requirements=["C", "W", "O"])
