"""A grey picture as a file's bytes."""

import io
from typing import Any

import imagecodecs
import numpy as np
import numpy.typing as npt
import tifffile

from nubilis.arrays import Codes
from nubilis.errors import PhotoError, RecipeError
from nubilis.photo.read import read_header

BITS = {"png": 8, "png16": 16, "tiff": 8, "tiff16": 16}


def grey_file(codes: Codes, file_format: str) -> bytes:
    """codes: uint8 or uint16 (h, w), as the format wants them. Raises PhotoError."""
    if BITS.get(file_format) != codes.dtype.itemsize * 8:
        raise PhotoError(f"unknown format {file_format}; one of {', '.join(BITS)}")
    if file_format.startswith("png"):
        return grey_png(codes, 4)
    out = io.BytesIO()
    tifffile.imwrite(out, codes, photometric="minisblack", compression="zlib", predictor=True)
    return out.getvalue()


def grey_png(codes: npt.NDArray[Any], level: int = 6) -> bytes:
    """codes: uint8 or uint16 (h, w)."""
    # One pixel out of a larger picture counts as being in one piece, whatever its strides say.
    whole = codes.copy() if codes.size == 1 else np.ascontiguousarray(codes)
    return bytes(imagecodecs.png_encode(whole, level=level))


def grey_size(data: bytes) -> tuple[int, int]:
    """(width, height) of a grey PNG, from its header alone. Raises RecipeError, PhotoError."""
    header = read_header(io.BytesIO(data))
    if header.format != "PNG" or header.mode not in ("L", "I;16", "I"):
        raise RecipeError("a mask picture must be a grey PNG")
    return header.size


def read_grey(data: bytes) -> Codes:
    """Code values (h, w) of a grey PNG. Raises RecipeError, PhotoError."""
    grey_size(data)
    try:
        codes = np.asarray(imagecodecs.png_decode(data))
    except (ValueError, RuntimeError) as error:
        raise RecipeError("a mask picture is damaged or incomplete") from error
    if codes.ndim != 2:
        raise RecipeError("a mask picture must be a grey PNG")
    return codes
