"""Writing photos: what goes in comes out, with profile and metadata, and never half a file."""

import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

from nubilis.colour.profile import read_profile, srgb, srgb_icc
from nubilis.colour.standard import standard_icc
from nubilis.errors import PhotoError
from nubilis.photo.depth import at_depth
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.write import SUFFIX, default_format, format_for, write_photo

from .pictures import file_of, random_codes

XMP = b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><title>Quillwick</title></x:xmpmeta>'


def described(codes: np.ndarray) -> Photo:
    """Read back from a JPEG's metadata, with the exact code values put in."""
    exif = Image.Exif()
    exif[0x010E] = "Curtain call"
    exif[0x0112] = 1
    exif.get_ifd(0x8769)[0x9003] = "2026:05:01 20:15:00"
    jpeg = file_of(codes[..., :3], "JPEG", exif=exif, xmp=XMP, icc_profile=srgb_icc())
    photo = read_photo(jpeg)
    return replace(photo, codes=codes)


class RoundTrips(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def written(self, photo: Photo, file_format: str) -> Photo:
        path = self.folder / f"out{SUFFIX[file_format]}"
        write_photo(path, photo, file_format)
        self.assertEqual([p.name for p in self.folder.iterdir()], [path.name])
        back = read_photo(path)
        path.unlink()
        return back

    def test_lossless_at_the_photo_s_own_depth(self) -> None:
        for bits, formats in ((8, ("png", "tiff", "jxl")), (16, ("png16", "tiff16", "jxl16"))):
            codes = random_codes(9, 13, bits)
            for file_format in formats:
                with self.subTest(file_format):
                    back = self.written(Photo(codes, srgb()), file_format)
                    np.testing.assert_array_equal(back.codes, codes)

    def test_metadata_and_profile_survive(self) -> None:
        photo = described(random_codes(8, 8))
        for file_format in (f for f in SUFFIX if f != "ora"):  # not of a photo alone
            with self.subTest(file_format):
                back = self.written(photo, file_format)
                # JPEG XL names its space by number.
                own = standard_icc("srgb") if file_format.startswith("jxl") else srgb_icc()
                self.assertEqual(back.profile.icc, own)
                self.assertEqual(back.metadata.xmp, XMP)
                assert back.metadata.exif is not None
                kept = Image.Exif()
                kept.load(b"Exif\0\0" + back.metadata.exif)
                self.assertEqual(kept[0x010E], "Curtain call")
                self.assertEqual(kept.get_ifd(0x8769)[0x9003], "2026:05:01 20:15:00")

    def test_alpha_survives_where_the_format_has_it(self) -> None:
        alpha = np.arange(16, dtype=np.uint8).reshape(4, 4)
        photo = Photo(random_codes(4, 4), srgb(), alpha=alpha)
        for file_format in ("png", "tiff"):
            back = self.written(photo, file_format)
            np.testing.assert_array_equal(back.alpha, alpha)

    def test_an_untagged_photo_is_delivered_tagged(self) -> None:
        back = self.written(Photo(random_codes(4, 4), srgb()), "png")
        self.assertIsNotNone(back.profile.icc)
        self.assertEqual(read_profile(srgb_icc()).name, back.profile.name)

    def test_depth_there_and_back(self) -> None:
        codes = np.arange(256, dtype=np.uint8).reshape(16, 16, 1).repeat(3, axis=2)
        np.testing.assert_array_equal(at_depth(at_depth(codes, 16), 8), codes)


class Refusals(unittest.TestCase):
    def test_nothing_half_written(self) -> None:
        photo = Photo(random_codes(4, 4), srgb())
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            with self.assertRaises(PhotoError):
                write_photo(folder / "missing" / "out.png", photo, "png")
            with self.assertRaises(PhotoError):
                write_photo(folder / "out.gif", photo, "gif")
            old = folder / "old.png"
            old.write_bytes(b"kept")
            broken = replace(photo, codes=np.zeros((4, 4, 7), np.uint8))
            with self.assertRaises(Exception):  # noqa: B017 (whatever the encoder says)
                write_photo(old, broken, "png")
            self.assertEqual(old.read_bytes(), b"kept")
            self.assertEqual([p.name for p in folder.iterdir()], ["old.png"])

    def test_formats_by_name_and_by_origin(self) -> None:
        deep = Photo(random_codes(2, 2, 16), srgb(), format="TIFF")
        self.assertEqual(default_format(deep), "tiff16")
        self.assertEqual(format_for(Path("a.PNG"), deep), "png16")
        self.assertEqual(format_for(Path("a.jpeg"), deep), "jpeg")
        with self.assertRaisesRegex(PhotoError, "ending"):
            format_for(Path("a.bmp"), deep)
