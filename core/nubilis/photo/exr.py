"""OpenEXR: linear light without an upper end, in floating numbers.

Source: OpenEXR file layout 3.x (2023); without chromaticities the primaries are Rec. 709's.
"""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import OpenEXR

from nubilis.arrays import Floats
from nubilis.colour.rgb import D65, SRGB_PRIMARIES, XYZ_TO_REC2020, Matrix, rgb_to_xyz_matrix
from nubilis.errors import PhotoError

MAGIC = b"\x76\x2f\x31\x01"
_COLOURS = ("RGBA", "RGB", "Y")
LEAST_ALPHA = (
    2.0**-12
)  # below it there is nothing to see, and dividing by it would make light of noise


@dataclass(frozen=True)
class Light:
    """rgb: (h, w, 3); to_rec2020: (3, 3); alpha: (h, w), 0..1, or None."""

    rgb: Floats
    to_rec2020: Matrix
    alpha: Floats | None


def exr_size(data: bytes) -> tuple[int, int]:
    """(width, height) of the display window, from the header alone. Raises PhotoError."""
    with _as_file(data) as path:
        return _size(_opened(path, header_only=True).header()["displayWindow"])


def read_exr(data: bytes) -> Light:
    """Of the first part, on the display window. Raises PhotoError."""
    with _as_file(data) as path:
        file = _opened(path)
        try:
            header, channels = file.header(), file.channels()
        except (ValueError, IndexError) as error:
            raise PhotoError("the EXR file is damaged or incomplete") from error
    name = next((n for n in _COLOURS if n in channels), None)
    if name is None:
        raise PhotoError("the EXR file has no plain R, G, B or Y channels")
    pixels: Floats = np.asarray(channels[name].pixels, dtype=np.float32)
    pixels = pixels[..., None] if pixels.ndim == 2 else pixels
    pixels = _placed(pixels, header["dataWindow"], header["displayWindow"])
    alpha = _share(pixels[..., 3]) if name == "RGBA" else None
    rgb = np.repeat(pixels, 3, axis=2) if name == "Y" else np.ascontiguousarray(pixels[..., :3])
    if alpha is not None:  # light comes multiplied by how much there is; what only glows does not
        there = alpha >= LEAST_ALPHA
        rgb = np.asarray(rgb / np.where(there, alpha, 1.0)[..., None], dtype=np.float32)
    return Light(rgb, _to_rec2020(header.get("chromaticities")), alpha)


def _share(alpha: Floats) -> Floats:
    """0..1, and 0 where it is no number."""
    return np.asarray(np.clip(np.nan_to_num(alpha, nan=0.0), 0.0, 1.0), dtype=np.float32)


def _opened(path: Path, *, header_only: bool = False) -> Any:
    try:
        return OpenEXR.File(str(path), header_only=header_only)
    except MemoryError as error:
        raise PhotoError("not enough memory for this photo") from error
    except Exception as error:  # the library raises what it likes
        raise PhotoError("the EXR file is damaged or incomplete") from error


@contextmanager
def _as_file(data: bytes) -> Iterator[Path]:
    """The library reads files alone."""
    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        file.write(data)
        file.flush()
        yield Path(file.name)


def _size(window: Any) -> tuple[int, int]:
    (x0, y0), (x1, y1) = (tuple(map(int, corner)) for corner in window)
    return x1 - x0 + 1, y1 - y0 + 1


def _placed(pixels: Floats, data: Any, display: Any) -> Floats:
    """What lies outside the display window is cut; what no data are for is black."""
    if np.array_equal(data, display):
        return pixels
    wide, tall = _size(display)
    out = np.zeros((tall, wide, pixels.shape[2]), dtype=np.float32)
    left, top = (int(a - b) for a, b in zip(data[0], display[0], strict=True))
    x0, y0 = max(left, 0), max(top, 0)
    x1, y1 = min(left + pixels.shape[1], wide), min(top + pixels.shape[0], tall)
    if x0 < x1 and y0 < y1:
        out[y0:y1, x0:x1] = pixels[y0 - top : y1 - top, x0 - left : x1 - left]
    return out


def _to_rec2020(told: Any) -> Matrix:
    """told: x and y of red, green, blue and white, or None. Another white is taken as it is: neutral."""
    if told is None:
        return np.asarray(XYZ_TO_REC2020 @ rgb_to_xyz_matrix(SRGB_PRIMARIES, D65))
    xy = np.asarray(told, dtype=np.float64).reshape(-1, 2)
    primaries = tuple((float(x), float(y)) for x, y in xy[:3])
    try:
        matrix = XYZ_TO_REC2020 @ rgb_to_xyz_matrix(primaries, (float(xy[3][0]), float(xy[3][1])))
    except (np.linalg.LinAlgError, ZeroDivisionError, IndexError) as error:
        raise PhotoError("the EXR file's primaries make no sense") from error
    # Its white onto ours, so that greys stay grey.
    balanced = matrix / matrix.sum(axis=1, keepdims=True)
    if not np.isfinite(balanced).all():
        raise PhotoError("the EXR file's primaries make no sense")
    return np.asarray(balanced)
