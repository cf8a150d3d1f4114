"""Pixels that come in spaces which ours cannot be led back to: inks, spaces made of tables, floating numbers.

They are converted once, as they are read, into a space of ours; what came can then not be had back to the
bit, and the notes say so. Conversions by tables are LittleCMS's.
"""

import io
import struct
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageCms

from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import Profile, read_profile
from nubilis.colour.rgb import SRGB_TO_REC2020, Matrix
from nubilis.colour.standard import standard_icc, standard_profile
from nubilis.errors import PhotoError
from nubilis.photo.sampling import encode

SHOULDER = 0.8  # of white: above it light is pressed together
STRIP = 512  # rows
Pixels = npt.NDArray[Any]


@dataclass(frozen=True)
class Converted:
    """codes: (h, w, 3) in a profile of ours; note: what a person should know."""

    codes: Codes
    profile: Profile
    note: str


def space_of(icc: bytes) -> str:
    """What a profile is for, such as "RGB" or "CMYK"."""
    return icc[16:20].decode("ascii", "replace").strip()


def is_of_tables(icc: bytes) -> bool:
    """Whether an RGB profile has tables and no curves with a matrix."""
    return icc[16:20] == b"RGB " and b"rTRC" not in _names(icc)


def _names(icc: bytes) -> set[bytes]:
    try:
        (count,) = struct.unpack_from(">I", icc, 128)
        return {icc[132 + 12 * i : 136 + 12 * i] for i in range(min(count, 200))}
    except struct.error:
        return set()


def through_tables(pixels: Pixels, icc: bytes, mode: str) -> Converted:
    """8-bit RGB or CMYK into Display P3, relative to white. Raises PhotoError."""
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(icc))
        target = ImageCms.ImageCmsProfile(io.BytesIO(standard_icc("display-p3")))
        transform = ImageCms.buildTransform(
            source, target, mode, "RGB",
            ImageCms.Intent.RELATIVE_COLORIMETRIC, ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )  # fmt: skip
        name = ImageCms.getProfileDescription(source).strip()
    except (ImageCms.PyCMSError, OSError, ValueError, TypeError) as error:
        raise PhotoError("the colour profile is damaged") from error
    out = np.empty((*pixels.shape[:2], 3), dtype=np.uint8)
    for y in range(0, len(pixels), STRIP):
        strip = Image.fromarray(np.ascontiguousarray(pixels[y : y + STRIP]), mode)
        done = ImageCms.applyTransform(strip, transform)
        assert done is not None
        out[y : y + STRIP] = np.asarray(done)
    what = "CMYK" if mode == "CMYK" else "A profile made of tables"
    note = f"{what} ({name}): converted into Display P3, 8 bits"
    return Converted(out, read_profile(standard_icc("display-p3")), note)


def from_floats(pixels: Pixels, icc: bytes | None) -> Converted:
    """Numbers 0..1 and beyond, (h, w, 3): code values where a profile says of what, else linear light in
    sRGB's primaries. At 16 bits."""
    numbers = np.nan_to_num(pixels.astype(np.float32), posinf=1e6, neginf=0.0)
    if icc is not None:
        codes = np.rint(np.clip(numbers, 0.0, 1.0) * 65535.0).astype(np.uint16)
        return Converted(codes, read_profile(icc), "Floating-point values: read at 16 bits")
    note = "Floating-point light without a profile: read as linear sRGB, into Rec. 2020 at 16 bits"
    return from_light(numbers, SRGB_TO_REC2020, note)


def from_light(pixels: Floats, to_rec2020: Matrix, note: str) -> Converted:
    """Linear light (h, w, 3), 1 a white and beyond, into Rec. 2020 at 16 bits."""
    profile = standard_profile("rec2020")
    out = np.empty(pixels.shape, dtype=np.uint16)
    matrix = to_rec2020.astype(np.float32)
    for y in range(0, len(pixels), STRIP):
        strip = np.nan_to_num(pixels[y : y + STRIP], posinf=1e6, neginf=0.0)
        light = np.maximum(np.maximum(strip, 0.0) @ matrix.T, 0.0)
        planes = np.ascontiguousarray(np.moveaxis(rolled_off(light), 2, 0))
        out[y : y + STRIP] = encode(planes, profile, 16)
    return Converted(out, profile, note)


def rolled_off(rgb: Floats) -> Floats:
    """Light above SHOULDER pressed together, so that highlights keep their colour and their drawing; below
    nothing changes. rgb: (..., 3) linear."""
    most = rgb.max(axis=-1, keepdims=True)
    left = np.float32(1.0 - SHOULDER)
    above = np.maximum(most - np.float32(SHOULDER), 0.0)
    pressed = np.float32(SHOULDER) + left * (1.0 - np.exp(-above / left))
    share = np.where(above > 0.0, pressed / np.maximum(most, 1e-6), 1.0)
    return np.asarray(rgb * share, dtype=np.float32)
