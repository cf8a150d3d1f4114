"""A grey picture as a file's bytes."""

import io

import imagecodecs
import numpy as np
import tifffile

from nubilis.arrays import Codes
from nubilis.errors import PhotoError

BITS = {"png": 8, "png16": 16, "tiff": 8, "tiff16": 16}


def grey_file(codes: Codes, file_format: str) -> bytes:
    """codes: uint8 or uint16 (h, w), as the format wants them. Raises PhotoError."""
    if BITS.get(file_format) != codes.dtype.itemsize * 8:
        raise PhotoError(f"unknown format {file_format}; one of {', '.join(BITS)}")
    if file_format.startswith("png"):
        return bytes(imagecodecs.png_encode(np.ascontiguousarray(codes), level=4))
    out = io.BytesIO()
    tifffile.imwrite(out, codes, photometric="minisblack", compression="zlib", predictor=True)
    return out.getvalue()
