"""HEIF and OpenEXR in, written by others."""

import io
import tempfile
import unittest
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import OpenEXR
import pillow_heif
from PIL import Image

from nubilis.colour.standard import standard_icc
from nubilis.errors import PhotoError
from nubilis.photo.header import FURTHER
from nubilis.photo.read import beside, read_photo
from nubilis.photo.sampling import decode


def calm() -> np.ndarray:
    small = np.random.default_rng(4).uniform(30, 225, (5, 7, 3))
    return cv2.resize(small, (120, 80), interpolation=cv2.INTER_LINEAR).astype(np.uint8)


class Heif(unittest.TestCase):
    def file(self, codes: np.ndarray, **more: Any) -> bytes:
        mode = "RGB" if codes.dtype == np.uint8 else "RGB;16"
        image = pillow_heif.from_bytes(mode, codes.shape[1::-1], codes.tobytes())
        out = io.BytesIO()
        image.save(out, quality=100, chroma=444, **more)
        return out.getvalue()

    def test_8_bits_and_more_with_profile_orientation_and_metadata(self) -> None:
        codes = calm()
        exif = Image.Exif()
        exif[0x8298] = "Quillwick"
        exif[0x0112] = 6
        for deep in (codes, codes.astype(np.uint16) * 257):
            image = pillow_heif.from_bytes(
                "RGB" if deep.dtype == np.uint8 else "RGB;16", (120, 80), deep.tobytes()
            )
            image.info["icc_profile"] = standard_icc("display-p3")
            image.info["exif"] = exif.tobytes()
            out = io.BytesIO()
            image.save(out, quality=100, chroma=444)
            photo = read_photo(out.getvalue())
            self.assertEqual((photo.format, photo.bits), ("HEIF", 8 * deep.dtype.itemsize))
            self.assertEqual(photo.profile.name, "Display P3")
            upright = np.rot90(deep, -1)
            self.assertEqual(photo.codes.shape, upright.shape)
            top = np.iinfo(deep.dtype).max
            off = np.abs(photo.codes / top - upright / top)
            self.assertLess(off.max(), 0.02)
            kept = Image.Exif()
            kept.load(b"Exif\0\0" + (photo.metadata.exif or b""))
            self.assertEqual((kept[0x8298], kept.get(0x0112, 1)), ("Quillwick", 1))

    def test_of_several_pictures_and_of_a_map_of_depth_it_is_said(self) -> None:
        out = io.BytesIO()
        both = pillow_heif.HeifFile()
        for codes in (calm(), 255 - calm()):
            both.add_frombytes("RGB", (120, 80), codes.tobytes())
        both.save(out, quality=100, chroma=444)
        self.assertIn(FURTHER, read_photo(out.getvalue()).notes)
        image = Image.fromarray(calm())
        image.format, image.info["depth_images"] = "HEIF", [object()]
        self.assertIn("far away", " ".join(beside(image)))

    def test_what_is_cut_short_or_hdr_is_refused_in_a_line(self) -> None:
        whole = self.file(calm())
        for length in (40, 200, len(whole) // 2):
            with self.assertRaises(PhotoError) as refused:
                read_photo(whole[:length])
            self.assertNotIn("\n", str(refused.exception))
        hdr = self.file(calm().astype(np.uint16) * 257, transfer_characteristics=16)
        with self.assertRaisesRegex(PhotoError, "HDR"):
            read_photo(hdr)


class Exr(unittest.TestCase):
    def file(self, channels: dict[str, np.ndarray], **header: Any) -> bytes:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "x.exr"
            told = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
            OpenEXR.File(told | header, channels).write(str(path))
            return path.read_bytes()

    def test_light_comes_as_it_is_and_what_is_brighter_than_white_keeps_its_order(self) -> None:
        ramp = np.linspace(0.0, 2.0, 64, dtype=np.float32)
        rgb = np.ascontiguousarray(np.broadcast_to(ramp[None, :, None], (16, 64, 3)))
        photo = read_photo(self.file({"RGB": rgb}))
        self.assertEqual((photo.format, photo.bits), ("EXR", 16))
        light = decode(photo.codes, photo.profile)[1, 0]
        np.testing.assert_allclose(light[ramp < 0.8], ramp[ramp < 0.8], atol=1e-3)
        self.assertTrue((np.diff(light) > 0).all())
        self.assertTrue(photo.notes)

    def test_its_primaries_and_its_white_count(self) -> None:
        rgb = np.full((4, 6, 3), 0.4, dtype=np.float32)
        rgb[..., 0] = 0.7
        wide = (0.708, 0.292, 0.170, 0.797, 0.131, 0.046, 0.3127, 0.3290)
        light = decode(
            (seen := read_photo(self.file({"RGB": rgb}, chromaticities=wide))).codes, seen.profile
        )
        np.testing.assert_allclose(light[:, 0, 0], (0.7, 0.4, 0.4), atol=1e-3)
        warm = (*wide[:6], 0.3457, 0.3585)
        grey = read_photo(self.file({"RGB": rgb * 0 + 0.5}, chromaticities=warm))
        self.assertLess(np.ptp(decode(grey.codes, grey.profile)[:, 0, 0]), 1e-3)

    def test_grey_alpha_and_a_window_that_is_smaller_than_the_picture(self) -> None:
        grey = read_photo(self.file({"Y": np.full((4, 6), 0.5, dtype=np.float16)}))
        self.assertEqual(grey.codes.shape, (4, 6, 3))
        half = np.dstack([np.full((4, 6, 3), 0.25), np.full((4, 6), 0.5)]).astype(np.float32)
        photo = read_photo(self.file({"RGBA": half}))
        assert photo.alpha is not None
        self.assertEqual(int(photo.alpha[0, 0]), 32768)
        np.testing.assert_allclose(decode(photo.codes, photo.profile)[0], 0.5, atol=1e-3)
        # What only glows, or hardly covers anything, is no brighter for that.
        for covered in (0.0, 1e-5, float("nan")):
            glow = np.dstack([np.full((4, 6, 3), 0.25), np.full((4, 6), covered)])
            photo = read_photo(self.file({"RGBA": glow.astype(np.float32)}))
            np.testing.assert_allclose(decode(photo.codes, photo.profile)[0], 0.25, atol=1e-3)
        placed = self.file(
            {"RGB": np.full((4, 6, 3), 0.5, dtype=np.float32)},
            dataWindow=(np.array([2, 1], np.int32), np.array([7, 4], np.int32)),
            displayWindow=(np.array([0, 0], np.int32), np.array([9, 9], np.int32)),
        )
        wide = read_photo(placed)
        self.assertEqual(wide.codes.shape, (10, 10, 3))
        lit = wide.codes[..., 0] > 0
        self.assertEqual((lit.sum(), bool(lit[1, 2]), bool(lit[0, 2])), (24, True, False))

    def test_damage_is_told_in_a_line(self) -> None:
        whole = self.file({"RGB": np.full((64, 64, 3), 0.5, dtype=np.float32)})
        for length in (4, 60, len(whole) // 2, len(whole) - 20):
            with self.assertRaises(PhotoError) as refused:
                read_photo(whole[:length])
            self.assertNotIn("\n", str(refused.exception))
        odd = self.file({"Z": np.ones((4, 4), dtype=np.float32)})
        with self.assertRaisesRegex(PhotoError, "no plain R, G, B or Y"):
            read_photo(odd)
