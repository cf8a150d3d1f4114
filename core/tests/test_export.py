"""Photos for elsewhere: other spaces, other sizes, other formats, read back by others' readers too."""

import io
import itertools
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import cv2
import imagecodecs
import numpy as np
from PIL import Image, ImageCms
from pillow_jxl import Decoder

from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.colour.profile import read_profile, srgb
from nubilis.colour.rgb import D65
from nubilis.colour.standard import (
    STANDARDS,
    curve_tag,
    made_icc,
    standard_icc,
    standard_like,
    standard_profile,
)
from nubilis.errors import PhotoError
from nubilis.photo.export import SPACES, Wanted, exported
from nubilis.photo.jxl import jxl_says
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode
from nubilis.photo.write import SUFFIX, write_photo

from .effort import long_tier
from .pictures import random_codes

GREY = np.full((3, 5, 3), 128, dtype=np.uint8)


def smooth(bits: int = 8) -> Photo:
    """Calm colours that all spaces hold."""
    low, high = (90, 170) if bits == 8 else (24000, 42000)
    kind = np.uint8 if bits == 8 else np.uint16
    small = np.random.default_rng(4).uniform(low, high, (6, 9, 3))
    codes = cv2.resize(small, (180, 120), interpolation=cv2.INTER_CUBIC)
    return Photo(np.ascontiguousarray(codes.astype(kind)), srgb())


class Standards(unittest.TestCase):
    def test_our_profiles_are_what_they_say_also_to_others(self) -> None:
        for name in STANDARDS:
            with self.subTest(name):
                other = ImageCms.ImageCmsProfile(io.BytesIO(standard_icc(name)))
                text = ImageCms.getProfileDescription(other).strip()
                self.assertEqual(text, standard_profile(name).name)
                self.assertEqual(other.profile.version, 4.4)
                # A grey is a grey, for others as for us.
                lab = ImageCms.createProfile("LAB")
                transform = ImageCms.buildTransform(other, lab, "RGB", "LAB", renderingIntent=1)
                grey = ImageCms.applyTransform(Image.fromarray(GREY), transform)
                assert grey is not None
                ab = np.asarray(grey).astype(int)[..., 1:]
                self.assertLessEqual(int(np.abs((ab + 128) % 256 - 128).max()), 1)

    def test_srgb_is_srgb(self) -> None:
        own, made = srgb(), standard_profile("srgb")
        np.testing.assert_allclose(own.matrix, made.matrix, atol=2e-4)
        np.testing.assert_allclose(own.curves[0], made.curves[0], atol=2e-4)

    def test_a_curve_goes_from_black_to_white(self) -> None:
        for name in STANDARDS:
            curve = standard_profile(name).curves[0]
            self.assertAlmostEqual(float(curve[0]), 0.0, places=4)
            self.assertAlmostEqual(float(curve[-1]), 1.0, places=3)
            self.assertGreaterEqual(float(np.diff(curve).min()), -1e-9)


class Exporting(unittest.TestCase):
    def test_nothing_wanted_is_the_photo_itself(self) -> None:
        photo = smooth()
        for wanted in (Wanted("png"), Wanted("png", long_edge=180), Wanted("png", long_edge=5000)):
            self.assertIs(exported(photo, wanted), photo)
            self.assertTrue(wanted.leaves(photo))
        self.assertTrue(Wanted("png16").leaves(photo))  # each code 257 times
        self.assertFalse(Wanted("png").leaves(smooth(16)))
        self.assertFalse(Wanted("png", long_edge=100).leaves(photo))
        self.assertFalse(Wanted("png", "srgb").leaves(photo))

    def test_another_space_looks_the_same(self) -> None:
        for bits, within in ((8, 0.7), (16, 0.02)):
            photo = smooth(bits)
            for space in SPACES[1:]:
                with self.subTest(space=space, bits=bits):
                    file_format = "png16" if bits == 16 else "png"
                    done = exported(photo, Wanted(file_format, space))
                    self.assertEqual(done.bits, bits)
                    one, two = (decode(p.codes, p.profile) for p in (photo, done))
                    off = [
                        ciede2000(linear_rgb_to_lab(one[:, y, x]), linear_rgb_to_lab(two[:, y, x]))
                        for y, x in ((5, 9), (60, 100), (110, 170))
                    ]
                    self.assertLess(max(off), within)

    def test_smaller_ones_keep_light_and_format(self) -> None:
        photo = smooth()
        done = exported(photo, Wanted("jpeg", long_edge=60))
        self.assertEqual((done.width, done.height), (60, 40))
        one, two = (decode(p.codes, p.profile).mean(axis=(1, 2)) for p in (photo, done))
        np.testing.assert_allclose(one, two, rtol=0.01)
        upright = replace(photo, codes=np.ascontiguousarray(photo.codes.swapaxes(0, 1)))
        self.assertEqual(exported(upright, Wanted("jpeg", long_edge=60)).height, 60)

    def test_detail_is_given_back_without_halos(self) -> None:
        codes = np.full((120, 180, 3), 90, dtype=np.uint8)
        codes[:, 90:] = 190
        done = exported(Photo(codes, srgb()), Wanted("png", long_edge=60)).codes
        self.assertGreaterEqual(int(done.min()), 78)
        self.assertLessEqual(int(done.max()), 202)

    def test_alpha_goes_along(self) -> None:
        photo = replace(smooth(), alpha=random_codes(120, 180)[..., 0])
        done = exported(photo, Wanted("png", long_edge=60))
        assert done.alpha is not None
        self.assertEqual(done.alpha.shape, (40, 60))


class OtherFormats(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def written(self, photo: Photo, file_format: str) -> bytes:
        path = self.folder / f"out{SUFFIX[file_format]}"
        write_photo(path, photo, file_format)
        return path.read_bytes()

    def test_avif_as_others_read_it(self) -> None:
        photo = exported(smooth(), Wanted("avif", "display-p3"))
        data = self.written(photo, "avif")
        image = Image.open(io.BytesIO(data))
        self.assertEqual(image.info["icc_profile"], standard_icc("display-p3"))
        off = np.asarray(image).astype(int) - photo.codes
        self.assertLess(float(np.abs(off).mean()), 1.5)
        self.assertEqual(read_photo(data).profile.name, "Display P3")

    def test_avif_of_more_bits_and_named_spaces(self) -> None:
        wide = (smooth(16).codes >> 6).astype(np.uint16)
        for primaries, name in ((12, "Display P3"), (9, "Rec. 2020"), (1, "sRGB")):
            data = imagecodecs.avif_encode(
                wide, level=100, bitspersample=10, primaries=primaries, transfer=13
            )
            photo = read_photo(bytes(data))
            self.assertEqual((photo.bits, photo.profile.name, photo.format), (16, name, "AVIF"))
            self.assertLess(float(np.abs(photo.codes / 65535.0 - wide / 1023.0).mean()), 0.002)
        hdr = imagecodecs.avif_encode(wide, bitspersample=10, primaries=9, transfer=16)
        with self.assertRaisesRegex(PhotoError, "HDR"):
            read_photo(bytes(hdr))

    def test_jpeg_xl_without_loss_as_others_read_it(self) -> None:
        """The codes, the depth, and what another reader of the format takes the space for."""
        for (bits, name), space in itertools.product(((8, "jxl"), (16, "jxl16")), STANDARDS):
            with self.subTest(f"{name} {space}"):
                photo = replace(smooth(bits), profile=standard_profile(space))
                data = self.written(photo, name)
                np.testing.assert_array_equal(imagecodecs.jpegxl_decode(data), photo.codes)
                _, says, codes, icc, _ = Decoder(num_threads=1)(data)
                self.assertEqual((says.width, says.height), (photo.width, photo.height))
                eight = np.frombuffer(codes, np.uint8).reshape(photo.codes.shape)
                off = eight.astype(int) - (photo.codes >> (bits - 8)).astype(int)
                self.assertLessEqual(int(np.abs(off).max()), 1)
                taken_for = read_profile(icc)
                np.testing.assert_allclose(taken_for.matrix, photo.profile.matrix, atol=2e-3)
                np.testing.assert_allclose(taken_for.curves, photo.profile.curves, atol=2e-3)
                back = read_photo(data)
                np.testing.assert_array_equal(back.codes, photo.codes)
                self.assertEqual((back.format, standard_like(back.profile)), ("JXL", space))

    def test_jpeg_xl_of_other_depths_and_of_a_profile_written_out(self) -> None:
        """What few write: bits that are stretched, and a profile that only the decoder can tell."""
        codes = (np.arange(48).reshape(4, 4, 3) * 21).astype(np.uint16)  # of 10 bits
        data = bytes(imagecodecs.jpegxl_encode(codes, lossless=True, bitspersample=10))
        says, photo = jxl_says(data), read_photo(data)
        self.assertEqual((says.bits, photo.bits), (10, 16))
        np.testing.assert_array_equal(photo.codes, np.rint(codes / 1023.0 * 65535.0))

    @long_tier
    def test_jpeg_xl_says_how_large_it_is_before_it_is_decoded(self) -> None:
        for shape in ((16, 8), (321, 480), (480, 480), (1, 1), (1080, 1920), (700, 2001)):
            codes = np.zeros((*shape, 3), dtype=np.uint8)
            for boxed in (False, True):
                data = imagecodecs.jpegxl_encode(codes, lossless=True, usecontainer=boxed)
                self.assertEqual(jxl_says(bytes(data)).size, (shape[1], shape[0]))

    def test_jpeg_xl_in_another_space_says_what_would_help(self) -> None:
        wide = made_icc("Wide", ((0.7, 0.29), (0.2, 0.75), (0.13, 0.05)), D65, curve_tag(0, (2.2,)))
        photo = replace(smooth(), profile=read_profile(wide))
        with self.assertRaisesRegex(PhotoError, "choose one of them"):
            self.written(photo, "jxl")
        self.assertTrue(self.written(exported(photo, Wanted("jxl", "srgb")), "jxl"))

    def test_damaged_ones_are_refused_in_a_line(self) -> None:
        whole = {n: self.written(smooth(), n) for n in ("avif", "jxl")}
        for name, data in whole.items():
            for cut in (0, 3, 11, 30, 60, len(data) // 2):
                with self.subTest(name=name, cut=cut), self.assertRaises(PhotoError) as caught:
                    read_photo(data[:cut])
                self.assertNotIn("\n", str(caught.exception))
        huge = b"\xff\x0a" + (0b11 << 1 | (2**29 - 1) << 3 | 1 << 33).to_bytes(8, "little")
        with self.assertRaisesRegex(PhotoError, "limit"):
            read_photo(huge + bytes(40))
