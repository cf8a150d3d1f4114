"""Decoded samples before they are a photo: colour, transparency, and whole ranges for any number of bits."""

from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from nubilis.errors import PhotoError
from nubilis.photo.picture import AlphaKind

Pixels = npt.NDArray[Any]


@dataclass(frozen=True, eq=False)
class Samples:
    """colour: (h, w, 1 or 3), of inks 4; uint8, uint16 or floats. alpha: (h, w) or None, of the same kind.
    icc: of a space that the pixels are in whatever the file's profile says. notes: for a person."""

    colour: Pixels
    alpha: Pixels | None = None
    alpha_kind: AlphaKind = "straight"
    icc: bytes | None = None
    notes: tuple[str, ...] = ()


def split(pixels: Pixels, *, inks: bool = False) -> Samples:
    """Of (h, w) or (h, w, 1..4), where a second or fourth channel is alpha, unless four are inks."""
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    if pixels.ndim != 3 or not 1 <= pixels.shape[2] <= 4 or min(pixels.shape) < 1:
        raise PhotoError("the picture is neither grey, RGB nor CMYK")
    if pixels.shape[2] in (2, 4) and not inks:
        return Samples(pixels[..., :-1], pixels[..., -1])
    return Samples(pixels)


def stretched(codes: Pixels, bits: int) -> Pixels:
    """Whole numbers of so many bits, 1 to 32, over all of 8 or of 16."""
    if bits in (8, 16):
        return codes.astype(f"uint{bits}", copy=False)
    if bits > 16:
        return (codes >> (bits - 16)).astype(np.uint16)
    top, wide = 2**bits - 1, 255 if bits < 8 else 65535
    spread = (codes.astype(np.uint32) * wide + top // 2) // top
    return np.asarray(np.minimum(spread, wide).astype(np.uint8 if bits < 8 else np.uint16))


def made_straight(colour: Pixels, alpha: Pixels) -> Pixels:
    """Colour that was multiplied by its alpha, without. Multiplied again it is the same."""
    if colour.dtype.kind == "f":
        part = np.maximum(alpha[..., None], 1e-6)
        return np.asarray(np.where(alpha[..., None] > 0.0, colour / part, colour))
    top = np.iinfo(colour.dtype).max
    share = np.maximum(alpha[..., None].astype(np.uint64), 1)
    full = (colour.astype(np.uint64) * top + share // 2) // share
    full = np.where(alpha[..., None] > 0, np.minimum(full, top), colour)
    return np.asarray(full.astype(colour.dtype))


def multiplied(colour: Pixels, alpha: Pixels) -> Pixels:
    """Colour by its alpha, as some files have it; whole numbers."""
    top = np.iinfo(colour.dtype).max
    product = (colour.astype(np.uint64) * alpha[..., None] + top // 2) // top
    return np.asarray(product.astype(colour.dtype))
