"""A delivered photo as it is wanted elsewhere: in another space, smaller, sharpened for its size."""

import math
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import Literal, get_args

import cv2
import numpy as np

from nubilis.arrays import Codes, Floats
from nubilis.colour.profile import Profile
from nubilis.colour.rgb import LUMINANCE
from nubilis.colour.standard import Standard, standard_profile
from nubilis.photo.about import About, told
from nubilis.photo.coding import AS_USUAL, Coding
from nubilis.photo.exif_block import DAMAGED, sized
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import area_of_codes, encode
from nubilis.photo.write import BITS

Space = Literal["keep"] | Standard
SPACES: tuple[Space, ...] = ("keep", *get_args(Standard))
SMALLEST, LARGEST = 16, 60_000  # pixels of a long edge
FEWEST, MOST_MEGAPIXELS = 0.01, 200.0
STRIP = 256  # rows that are converted at a time
SHARPEN, SIGMA = 0.35, 0.7  # share of what a blur of so many pixels takes away, given back
MOST = 0.06  # of the root of light, that sharpening may move a pixel


@dataclass(frozen=True)
class Wanted:
    """file_format: as photo/write.py knows them; space: the photo's own, or a standard one; long_edge,
    megapixels: at most so many pixels, None for as many as there are; about: what the file says of itself."""

    file_format: str
    space: Space = "keep"
    long_edge: int | None = None
    megapixels: float | None = None
    about: About = "all"
    coding: Coding = AS_USUAL

    def size_of(self, photo: Photo) -> tuple[int, int]:
        """(width, height) that the photo gets."""
        size = photo.width, photo.height
        if self.long_edge is not None:
            size = View.within(size, self.long_edge).size
        if self.megapixels is not None and size[0] * size[1] > 1e6 * self.megapixels:
            share = math.sqrt(1e6 * self.megapixels / (size[0] * size[1]))
            size = View.within(size, max(int(share * max(size)), 1)).size
        return size

    def leaves(self, photo: Photo) -> bool:
        """Whether the code values stay as they are, so that what no mask reaches is the original's."""
        fits = self.size_of(photo) == (photo.width, photo.height)
        return fits and self.space == "keep" and BITS[self.file_format] >= photo.bits

    def depth_of(self, photo: Photo) -> int:
        """Bits at which the photo is rendered: more than its own where the file has more, or is in another
        space, which rounds once more."""
        finer = BITS[self.file_format] == 16 or self.space != "keep"
        return 16 if finer else photo.bits


def exported(photo: Photo, wanted: Wanted) -> Photo:
    """The same pixels when nothing but a format is wanted. A smaller one is averaged in linear light."""
    size = wanted.size_of(photo)
    if wanted.about != "all":
        photo = replace(photo, metadata=told(photo.metadata, wanted.about))
    smaller = size != (photo.width, photo.height)
    if photo.metadata.exif:
        with suppress(*DAMAGED):
            exif = sized(photo.metadata.exif, size)
            photo = replace(photo, metadata=replace(photo.metadata, exif=exif))
    if not smaller and wanted.space == "keep":
        return photo
    profile = photo.profile if wanted.space == "keep" else standard_profile(wanted.space)
    bits = BITS[wanted.file_format]
    if smaller:
        rgb = area_of_codes(photo.codes, photo.profile, size, (0, 0, *size))
        codes = encode(_sharpened(rgb), profile, bits)
    else:
        codes = _converted(photo, profile, bits)
    return replace(photo, codes=codes, profile=profile, alpha=_alpha(photo, size))


def _converted(photo: Photo, profile: Profile, bits: int) -> Codes:
    """In another space, strip by strip."""
    out = np.empty(photo.codes.shape, dtype=np.uint8 if bits == 8 else np.uint16)
    for y in range(0, photo.height, STRIP):
        region = 0, y, photo.width, min(y + STRIP, photo.height)
        rgb = area_of_codes(photo.codes, photo.profile, (photo.width, photo.height), region)
        out[y : region[3]] = encode(rgb, profile, bits)
    return out


def _sharpened(rgb: Floats) -> Floats:
    """Averaging softens the finest detail; some of it is given back, in lightness alone."""
    weights = LUMINANCE.astype(np.float32)
    light = np.tensordot(weights, np.maximum(rgb, 0.0), 1)
    root = np.sqrt(light)
    fine = root - cv2.GaussianBlur(root, (0, 0), SIGMA)
    wanted = np.maximum(root + np.clip(np.float32(SHARPEN) * fine, -MOST, MOST), 0.0)
    gain = (wanted + np.float32(1e-4)) ** 2 / (root + np.float32(1e-4)) ** 2
    return np.asarray(rgb * gain, dtype=np.float32)


def _alpha(photo: Photo, size: tuple[int, int]) -> Codes | None:
    if photo.alpha is None or size == (photo.width, photo.height):
        return photo.alpha
    return np.asarray(cv2.resize(photo.alpha, size, interpolation=cv2.INTER_AREA))
