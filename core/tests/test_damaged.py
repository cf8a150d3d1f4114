"""Damaged files of every kind that is read: a photo or one line, whatever was changed in them."""

import io
import tempfile
import unittest
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import OpenEXR
import pillow_heif
from PIL import Image

from fuzz.mutate import damaged
from nubilis.camera.dng import Shot, preview_of, write_dng
from nubilis.camera.sensor import exposed
from nubilis.colour.profile import srgb
from nubilis.colour.standard import standard_profile
from nubilis.errors import NubilisError
from nubilis.photo.metadata import Metadata
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode
from nubilis.photo.write import write_photo

from .effort import TIMES, chances
from .pictures import random_codes

EACH = 12 * TIMES  # changed files of each kind


def whole_files(folder: Path) -> Iterator[tuple[str, bytes]]:
    """A small one of each kind."""
    exif = Image.Exif()
    exif[0x8298] = "Quillwick"
    about = Metadata(exif.tobytes().removeprefix(b"Exif\0\0"), b"<x:xmpmeta/>")
    for name in ("jpeg", "png", "png16", "tiff", "tiff16", "avif", "avif10", "jxl", "jxl16"):
        deep = name[-1] in "60"
        profile = srgb() if name.startswith("jxl") else standard_profile("display-p3")
        photo = Photo(random_codes(24, 40, 16 if deep else 8), profile, about)
        path = folder / name
        write_photo(path, photo, name)
        yield name, path.read_bytes()
    codes = random_codes(24, 40, 8)
    out = io.BytesIO()
    Image.fromarray(codes).save(out, "WEBP")
    yield "webp", out.getvalue()
    out = io.BytesIO()
    pillow_heif.from_bytes("RGB", (40, 24), codes.tobytes()).save(out)
    yield "heif", out.getvalue()
    path = folder / "x.exr"
    told = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
    OpenEXR.File(told, {"RGB": codes.astype(np.float32) / 255.0}).write(str(path))
    yield "exr", path.read_bytes()
    photo = Photo(codes, srgb())
    write_dng(
        folder / "x.dng",
        exposed(decode(codes, srgb()), 100, 1),
        preview_of(photo),
        Shot(100, "2026:05:01 20:15:00"),
    )
    yield "dng", (folder / "x.dng").read_bytes()


class Damaged(unittest.TestCase):
    def test_a_photo_or_one_line(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        for name, data in whole_files(folder):
            rng = chances(f"damaged {name}")
            self.assertEqual(read_photo(data).width, 40, name)
            for number in range(EACH):
                with self.subTest(f"{name} {number}"):
                    try:
                        photo = read_photo(damaged(data, rng))
                    except NubilisError as error:
                        self.assertNotIn("\n", str(error))
                    else:
                        self.assertEqual(photo.codes.shape[2], 3)
