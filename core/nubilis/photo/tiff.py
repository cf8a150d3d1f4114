"""The pixels of a TIFF: every photometric kind at every depth, or a line that names what cannot be read.

Sources: TIFF 6.0 (1992), sections 3 to 8, 18 and 20 to 23; TIFF technical note 4 for ICC's L*a*b*.
"""

import io
from dataclasses import replace
from typing import Any, BinaryIO

import numpy as np
import numpy.typing as npt
import tifffile
from PIL import Image
from tifffile import COMPRESSION, EXTRASAMPLE, FILETYPE, PHOTOMETRIC, PLANARCONFIG, SAMPLEFORMAT

from nubilis.colour.cielab import lab_to_linear_rgb
from nubilis.colour.standard import standard_icc, standard_profile
from nubilis.errors import PhotoError
from nubilis.photo.header import FURTHER
from nubilis.photo.picture import AlphaKind
from nubilis.photo.samples import Pixels, Samples, made_straight, split, stretched
from nubilis.photo.sampling import encode

MOST_VALUES = 800_000_000
STRIP = 512  # rows
_COLOURS = {
    PHOTOMETRIC.MINISWHITE: 1, PHOTOMETRIC.MINISBLACK: 1, PHOTOMETRIC.PALETTE: 1, PHOTOMETRIC.RGB: 3,
    PHOTOMETRIC.YCBCR: 3, PHOTOMETRIC.CIELAB: 3, PHOTOMETRIC.ICCLAB: 3, PHOTOMETRIC.SEPARATED: 4,
}  # fmt: skip
_KINDS: dict[int, AlphaKind] = {
    EXTRASAMPLE.ASSOCALPHA: "associated", EXTRASAMPLE.UNASSALPHA: "straight",
}  # fmt: skip
_JPEGS = COMPRESSION.JPEG, COMPRESSION.OJPEG
_LAB = PHOTOMETRIC.CIELAB, PHOTOMETRIC.ICCLAB
REC601 = 0.299, 0.587, 0.114


def decode_tiff(file: BinaryIO) -> Samples:
    """Of its first page. Raises PhotoError, and what tifffile raises for damage."""
    file.seek(0)
    with tifffile.TiffFile(file) as tiff:
        page: Any = tiff.pages.first
        if page.size > MOST_VALUES:
            raise PhotoError(f"the TIFF claims {page.size} values, which no photo has")
        _refuse_kinds(page)
        further = (FURTHER,) if _has_another(tiff) else ()
        try:
            pixels = _pixels(page)
        except (ValueError, KeyError, ImportError, RuntimeError, TypeError, IndexError) as error:
            samples = _by_another(file, page, error)
        else:
            samples = _in_colour(_split(pixels, page), page)
        return replace(samples, notes=(*further, *samples.notes))


def _has_another(tiff: tifffile.TiffFile) -> bool:
    """Of its own, not the same picture smaller, nor a mask of it."""
    try:
        page: Any = tiff.pages[1]
        return not int(page.subfiletype) & (FILETYPE.REDUCEDIMAGE | FILETYPE.MASK)
    except Exception:  # whatever is wrong with what is not opened
        return False


def _refuse_kinds(page: Any) -> None:
    what = None
    if page.photometric not in _COLOURS:
        what = f"of the kind {getattr(page.photometric, 'name', page.photometric)}"
    elif page.sampleformat not in (SAMPLEFORMAT.UINT, SAMPLEFORMAT.IEEEFP, SAMPLEFORMAT.VOID):
        what = "of signed or complex numbers"
    elif page.imagedepth > 1:
        what = "of a volume"
    elif page.photometric == PHOTOMETRIC.YCBCR and page.compression not in _JPEGS and _coarse(page):
        what = "YCbCr with its colours at part of the size, without JPEG,"
    elif page.photometric == PHOTOMETRIC.SEPARATED and _inks(page) != 4:
        what = f"of {_inks(page)} inks"
    if what is not None:
        raise PhotoError(f"a TIFF {what} cannot be read; please save it as RGB")


def _coarse(page: Any) -> bool:
    return tuple(page.tags.valueof(530, default=(2, 2))) != (1, 1)


def _inks(page: Any) -> int:
    return int(page.samplesperpixel) - len(page.extrasamples)


def _pixels(page: Any) -> Pixels:
    """(h, w, samples) at 8 or 16 bits, or floats."""
    pixels = np.asarray(page.asarray())
    if page.samplesperpixel == 1:
        pixels = pixels.reshape(*pixels.shape[:2], 1)
    elif page.planarconfig == PLANARCONFIG.SEPARATE:
        pixels = np.moveaxis(pixels, 0, -1)
    if pixels.ndim != 3:
        raise PhotoError("a TIFF of more than one picture in one cannot be read")
    if pixels.dtype == np.bool_:
        pixels = pixels.astype(np.uint8)
    if pixels.dtype.kind == "f" or page.photometric == PHOTOMETRIC.PALETTE:
        return pixels
    if isinstance(page.bitspersample, tuple):
        return stretched(pixels, 8 * pixels.dtype.itemsize)
    return stretched(pixels, int(page.bitspersample))


def _split(pixels: Pixels, page: Any) -> Samples:
    count = _COLOURS[page.photometric]
    colour, extra = pixels[..., :count], pixels[..., count:]
    if colour.shape[2] != count:
        raise PhotoError("the TIFF has fewer channels than its kind of colour")
    if page.photometric == PHOTOMETRIC.PALETTE:
        colour, extra = _of_palette(colour[..., 0], page), stretched(extra, page.bitspersample)
        extra = extra if colour.dtype == np.uint8 else extra.astype(np.uint16) * np.uint16(257)
    notes = []
    if extra.shape[2] == 0:
        return Samples(colour)
    if extra.shape[2] > 1:
        notes.append(f"{extra.shape[2] - 1} further channels of the TIFF were left aside")
    kind: AlphaKind = _KINDS.get(next(iter(page.extrasamples), 0), "unspecified")
    alpha = extra[..., 0]
    if kind == "associated":
        colour = made_straight(colour, alpha)
    return Samples(colour, alpha, kind, notes=tuple(notes))


def _of_palette(numbers: Pixels, page: Any) -> Pixels:
    """By tables of 16 bits, which some programs fill with numbers of 8 (libtiff's rule) or with 256 times
    those."""
    table = np.asarray(page.colormap)
    if table.max() < 256:
        return np.ascontiguousarray(table[:, numbers].transpose(1, 2, 0)).astype(np.uint8)
    if not (table % 257).any() or not (table % 256).any():
        table = (table >> 8).astype(np.uint8)
    return np.ascontiguousarray(table[:, numbers].transpose(1, 2, 0))


def _in_colour(samples: Samples, page: Any) -> Samples:
    """Grey or RGB, whatever the numbers mean."""
    colour = samples.colour
    if page.photometric == PHOTOMETRIC.MINISWHITE:
        top = 1.0 if colour.dtype.kind == "f" else np.iinfo(colour.dtype).max
        colour = (top - colour).astype(colour.dtype)
    elif page.photometric == PHOTOMETRIC.YCBCR and page.compression not in _JPEGS:
        weights = np.ravel(page.tags.valueof(529, default=REC601))
        colour = _of_ycbcr(colour, weights.astype(np.float64).reshape(-1))
    elif page.photometric in _LAB:
        return _of_lab(samples, page)
    return Samples(colour, samples.alpha, samples.alpha_kind, notes=samples.notes)


def _of_ycbcr(pixels: Pixels, weights: npt.NDArray[np.float64]) -> Pixels:
    """weights: of red, green and blue in Y, maybe as fractions (section 21)."""
    if weights.size == 6:
        weights = weights[::2] / weights[1::2]
    red, green, blue = weights
    top = np.iinfo(pixels.dtype).max
    y, cb, cr = (pixels[..., i].astype(np.float32) for i in range(3))
    middle = np.float32((top + 1) // 2)
    r = y + (cr - middle) * (2.0 - 2.0 * red)
    b = y + (cb - middle) * (2.0 - 2.0 * blue)
    g = (y - blue * b - red * r) / green
    rgb = np.clip(np.rint(np.stack([r, g, b], axis=2)), 0, top)
    return np.asarray(rgb.astype(pixels.dtype))


def _of_lab(samples: Samples, page: Any) -> Samples:
    """CIELAB under D50 into Rec. 2020 at 16 bits."""
    if samples.colour.dtype.kind == "f":
        raise PhotoError("a TIFF of floating L*a*b* cannot be read; please save it as RGB")
    h, w = samples.colour.shape[:2]
    out, profile = np.empty((h, w, 3), dtype=np.uint16), standard_profile("rec2020")
    for y in range(0, h, STRIP):
        lab = _lab(samples.colour[y : y + STRIP], page.photometric == PHOTOMETRIC.ICCLAB)
        light = np.moveaxis(lab_to_linear_rgb(lab), 2, 0).astype(np.float32)
        out[y : y + STRIP] = encode(np.ascontiguousarray(light), profile, 16)
    alpha = samples.alpha
    if alpha is not None and alpha.dtype == np.uint8:
        alpha = alpha.astype(np.uint16) * np.uint16(257)
    note = "L*a*b*: converted into Rec. 2020 at 16 bits"
    icc = standard_icc("rec2020")
    return Samples(out, alpha, samples.alpha_kind, icc, (*samples.notes, note))


def _lab(codes: Pixels, of_icc: bool) -> npt.NDArray[np.float64]:
    """ICC's numbers of 16 bits have 100 at FF00 and 0 at 8000; TIFF's own a* and b* are signed."""
    wide = codes.dtype == np.uint16
    numbers = codes.astype(np.float64)
    if of_icc:
        scale = 256.0 if wide else 1.0
        light = numbers[..., 0] / (65280.0 if wide else 255.0) * 100.0
        chroma = numbers[..., 1:] / scale - 128.0
    else:
        light = numbers[..., 0] / (65535.0 if wide else 255.0) * 100.0
        signed = codes[..., 1:].astype(np.int16 if wide else np.int8)
        chroma = signed.astype(np.float64) / (256.0 if wide else 1.0)
    return np.concatenate([light[..., None], chroma], axis=2)


def _by_another(file: BinaryIO, page: Any, error: Exception) -> Samples:
    """By libtiff, which knows a few older ways of packing pixels."""
    file.seek(0)
    try:
        image: Image.Image = Image.open(io.BytesIO(file.read()), formats=["TIFF"])
        image.load()
    except (OSError, ValueError, SyntaxError, KeyError, TypeError):
        if page.compression == COMPRESSION.NONE:
            raise error from None
        name = getattr(page.compression, "name", page.compression)
        raise PhotoError(
            f"the TIFF's pixels, packed by {name}, cannot be read or are damaged"
        ) from error
    wanted = {"1": "L", "P": "RGB", "PA": "RGBA", "YCbCr": "RGB", "RGBX": "RGB"}
    shown = image.convert(wanted.get(image.mode, image.mode))
    return split(np.asarray(shown), inks=image.mode == "CMYK")
