"""Inks, spaces made of tables, and floating numbers."""

import io
import itertools
import struct
import unittest

import numpy as np
import tifffile
from PIL import Image

from nubilis.colour.cielab import lab_to_linear_rgb, linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.colour.profile import srgb_icc
from nubilis.colour.rgb import SRGB_TO_REC2020
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode

Lab = tuple[float, float, float]


def table_profile(space: bytes, corners: dict[tuple[int, ...], Lab]) -> bytes:
    """A profile whose colours lie between those of its corners (ICC.1:2022, lut8Type)."""
    inputs = len(next(iter(corners)))
    ramp = bytes(range(256))
    grid = b"".join(
        bytes(round(v) for v in (L * 2.55, a + 128.0, b + 128.0))
        for L, a, b in (corners[at] for at in itertools.product((0, 1), repeat=inputs))
    )
    one = struct.pack(">9i", *(65536 if i % 4 == 0 else 0 for i in range(9)))
    lut = b"mft1" + bytes(4) + bytes((inputs, 3, 2, 0)) + one + ramp * inputs + grid + ramp * 3
    text = "Stage inks".encode("utf-16-be")
    name = b"mluc" + bytes(4) + struct.pack(">IIHHII", 1, 12, 0x656E, 0x4742, len(text), 28) + text
    white = b"XYZ " + bytes(4) + struct.pack(">3i", 63190, 65536, 54061)
    tags = ((b"desc", name), (b"wtpt", white), (b"A2B0", lut))
    at, table, body = 128 + 4 + 12 * len(tags), struct.pack(">I", len(tags)), b""
    for tag, data in tags:
        table += struct.pack(">4sII", tag, at + len(body), len(data))
        body += data + bytes(-len(data) % 4)
    kind = b"prtr" if space == b"CMYK" else b"scnr"
    head = struct.pack(">I4sI4s4s4s", at + len(body), bytes(4), 0x04200000, kind, space, b"Lab ")
    head += struct.pack(">6H", 2026, 1, 1, 0, 0, 0) + b"acsp" + bytes(28)
    head += struct.pack(">3i", 63190, 65536, 54061)
    return head + bytes(128 - len(head)) + table + body


def inks() -> bytes:
    """Paper white, black, and one ink that is red; the others are grey."""
    corners = {}
    for at in itertools.product((0, 1), repeat=4):
        light = 100.0 - 20.0 * (at[0] + at[2]) - 40.0 * at[1] - 90.0 * at[3]
        corners[at] = (max(light, 0.0), 60.0 * at[1] * (1 - at[3]), 30.0 * at[1] * (1 - at[3]))
    return table_profile(b"CMYK", corners)


def lab_of(photo: Photo) -> np.ndarray:
    rgb = decode(photo.codes, photo.profile)
    return np.asarray(linear_rgb_to_lab(rgb.mean(axis=(1, 2))))


class Foreign(unittest.TestCase):
    def test_inks_are_converted_by_their_profile(self) -> None:
        for codes, lab in (((0, 0, 0, 0), (100, 0, 0)), ((0, 255, 0, 0), (60, 60, 30))):
            image = Image.new("CMYK", (24, 16), codes)
            for file_format in ("TIFF", "JPEG"):
                with self.subTest(f"{file_format} {codes}"):
                    out = io.BytesIO()
                    more = {"quality": 100} if file_format == "JPEG" else {}
                    image.save(out, file_format, icc_profile=inks(), **more)
                    photo = read_photo(out.getvalue())
                    self.assertEqual((photo.profile.name, photo.bits), ("Display P3", 8))
                    self.assertIn("Stage inks", photo.notes[-1])
                    self.assertLess(ciede2000(lab_of(photo), lab), 2.0)

    def test_inks_without_a_profile_say_what_would_help(self) -> None:
        out = io.BytesIO()
        Image.new("CMYK", (4, 4)).save(out, "TIFF")
        with self.assertRaisesRegex(PhotoError, "without a profile"):
            read_photo(out.getvalue())

    def test_a_space_of_tables(self) -> None:
        corners = {}
        for at in itertools.product((0, 1), repeat=3):
            rgb = SRGB_TO_REC2020 @ np.array(at, dtype=np.float64) * 0.6
            L, a, b = (float(v) for v in linear_rgb_to_lab(rgb))
            corners[at] = (L, a, b)
        icc = table_profile(b"RGB ", corners)
        codes = np.full((12, 20, 3), 255, dtype=np.uint8)
        out = io.BytesIO()
        Image.fromarray(codes).save(out, "PNG", icc_profile=icc)
        photo = read_photo(out.getvalue())
        self.assertEqual(photo.profile.name, "Display P3")
        self.assertIn("made of tables", photo.notes[-1])
        white = lab_of(photo)
        self.assertLess(float(np.hypot(*white[1:])), 2.0)
        deep = io.BytesIO()
        tifffile.imwrite(deep, codes.astype(np.uint16) * 257, photometric="rgb", iccprofile=icc)
        with self.assertRaisesRegex(PhotoError, "made of tables"):
            read_photo(deep.getvalue())

    def float_tiff(self, pixels: np.ndarray, **more: object) -> Photo:
        out = io.BytesIO()
        tifffile.imwrite(out, pixels, photometric="rgb", **more)
        return read_photo(out.getvalue())

    def test_floating_light(self) -> None:
        grey = lab_to_linear_rgb((50.0, 0.0, 0.0))
        for kind in (np.float16, np.float32, np.float64):
            photo = self.float_tiff(np.broadcast_to(grey, (6, 8, 3)).astype(kind))
            self.assertEqual((photo.bits, photo.profile.name), (16, "Rec. 2020"))
            self.assertLess(ciede2000(lab_of(photo), (50.0, 0.0, 0.0)), 0.1)
        odd = np.full((6, 8, 3), 0.2, dtype=np.float32)
        odd[0, 0], odd[0, 1], odd[0, 2] = np.nan, np.inf, -3.0
        codes = self.float_tiff(odd).codes
        self.assertEqual(int(codes[0, 0].max()), 0)
        self.assertGreater(int(codes[0, 1].min()), 60000)
        self.assertEqual(int(codes[0, 2].max()), 0)

    def test_floating_code_values(self) -> None:
        pixels = np.full((6, 8, 4), 0.5, dtype=np.float32)
        photo = self.float_tiff(pixels, iccprofile=srgb_icc(), extrasamples=["unassalpha"])
        self.assertEqual(int(photo.codes[0, 0, 0]), 32768)
        assert photo.alpha is not None
        self.assertEqual(int(photo.alpha[0, 0]), 32768)
