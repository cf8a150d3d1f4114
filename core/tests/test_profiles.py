"""ICC curves of every kind, and metadata at its limits."""

import io
import re
import struct
import unittest

import numpy as np
from PIL import Image

from nubilis.colour.profile import CURVE_SIZE, read_profile, srgb_icc
from nubilis.errors import PhotoError
from nubilis.photo.coding import AS_USUAL
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode, encode_changes
from nubilis.photo.write import _jpeg, png_of

from .pictures import file_of, random_codes


def fixed(value: float) -> bytes:
    return struct.pack(">i", round(value * 65536))


def parametric(kind: int, *numbers: float) -> bytes:
    return b"para" + bytes(4) + struct.pack(">HH", kind, 0) + b"".join(map(fixed, numbers))


def table(*values: int) -> bytes:
    return (
        b"curv"
        + bytes(4)
        + struct.pack(">I", len(values))
        + struct.pack(f">{len(values)}H", *values)
    )


def profile_with(
    curve: bytes, columns: tuple[tuple[float, float, float], ...] | None = None
) -> bytes:
    """A minimal matrix profile (ICC.1:2022, section 8.3.3)."""
    # sRGB's colorants under D50, as IEC 61966-2-1 profiles carry them.
    columns = columns or (
        (0.4361, 0.2225, 0.0139),
        (0.3851, 0.7169, 0.0971),
        (0.1431, 0.0606, 0.7139),
    )
    tags = {b"desc": b"desc" + bytes(4) + struct.pack(">I", 5) + b"Test\0"}
    for name, xyz in zip((b"rXYZ", b"gXYZ", b"bXYZ"), columns, strict=True):
        tags[name] = b"XYZ " + bytes(4) + b"".join(map(fixed, xyz))
    for name in (b"rTRC", b"gTRC", b"bTRC"):
        tags[name] = curve
    body, index, offset = b"", b"", 132 + 12 * len(tags)
    for name, data in tags.items():
        data += bytes(-len(data) % 4)
        index += name + struct.pack(">II", offset + len(body), len(data))
        body += data
    header = bytearray(128)
    header[12:24] = b"mntrRGB XYZ "
    return bytes(header) + struct.pack(">I", len(tags)) + index + body


class Curves(unittest.TestCase):
    def curve(self, tag: bytes) -> np.ndarray:
        return read_profile(profile_with(tag)).curves[0]

    def test_every_kind_of_curve(self) -> None:
        x = np.linspace(0.0, 1.0, CURVE_SIZE)
        srgb = (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)
        g, a, b, c, d = srgb
        expected = {
            "identity": (table(), x),
            "gamma": (table(round(2.2 * 256)), x ** (round(2.2 * 256) / 256)),
            "table": (table(0, 16384, 65535), np.interp(x, [0, 0.5, 1], [0, 16384 / 65535, 1])),
            "type 0": (parametric(0, 1.8), x**1.8),
            "type 1": (
                parametric(1, 2.0, 1.2, -0.2),
                np.where(x >= 0.2 / 1.2, (1.2 * x - 0.2) ** 2, 0),
            ),
            "type 2": (
                parametric(2, 2.0, 0.9, -0.1, 0.1),
                np.where(x >= 0.1 / 0.9, (0.9 * x - 0.1) ** 2 + 0.1, 0.1),
            ),
            "type 3": (parametric(3, *srgb), np.where(x >= d, (a * x + b) ** g, c * x)),
            "type 4": (
                parametric(4, *srgb, 0.02, 0.01),
                np.where(x >= d, (a * x + b) ** g + 0.02, c * x + 0.01),
            ),
        }
        for name, (tag, values) in expected.items():
            with self.subTest(name):
                np.testing.assert_allclose(self.curve(tag), values, atol=2e-4)

    def test_unknown_curves_are_refused(self) -> None:
        for tag in (b"what" + bytes(20), parametric(9, 1.0)):
            with self.assertRaises(PhotoError):
                self.curve(tag)

    def test_a_singular_matrix_is_refused(self) -> None:
        flat = ((0.4, 0.4, 0.4),) * 3
        with self.assertRaisesRegex(PhotoError, "primaries"):
            read_profile(profile_with(table(), flat))

    def test_curves_that_cannot_be_gone_back_are_refused_in_one_line(self) -> None:
        falling = {
            "an exponent below 0": parametric(0, -1.0),
            "no slope": parametric(1, 2.4, 0.0, 0.0),
            "a falling power": parametric(3, -2.4, 0.95, 0.05, 0.08, 0.04),
            "a falling line": parametric(3, 2.4, 0.95, 0.05, -0.5, 0.9),
            "no light at all": table(0, 0),
            "one light alone": parametric(0, 0.0),
            "a falling table": table(65535, 0),
            "a table that turns back": table(0, 40000, 30000, 65535),
            "far too much light": parametric(1, 9.0, 2.0, 0.0),
            "less than no light": parametric(2, 2.0, 1.0, 0.0, -0.2),
        }
        for name, tag in falling.items():
            with self.subTest(name), self.assertRaisesRegex(PhotoError, "does not rise"):
                self.curve(tag)

    def test_what_a_scanner_wavers_is_smoothed(self) -> None:
        wavering = [min(max(i * 257 + (i % 3 - 1) * 200, 0), 65535) for i in range(256)]
        curve = self.curve(table(*wavering))
        self.assertGreaterEqual(float(np.diff(curve).min()), 0.0)
        np.testing.assert_allclose(curve[::257], np.linspace(0, 1, 256), atol=5e-3)

    def test_every_code_of_every_curve_comes_back(self) -> None:
        for tag in (table(), table(round(1.8 * 256)), parametric(0, 2.4)):
            profile = read_profile(profile_with(tag))
            for bits, codes in ((8, np.arange(256)), (16, np.arange(0, 65536, 17))):
                ramp = np.repeat(codes.astype(f"uint{bits}")[None, :, None], 3, axis=2)
                light = decode(ramp, profile)
                written = np.zeros_like(ramp)
                encode_changes(np.full_like(light, -1.0), light, written, profile)
                off = np.abs(written.astype(int) - ramp)
                # Deep shadows of a pure power law lie closer together than the table's nodes.
                self.assertLessEqual(int(off.max()), 1 if bits == 8 else 40)
                self.assertLess(float((off > 1).mean()), 0.02)


class Metadata(unittest.TestCase):
    def test_a_profile_larger_than_a_segment_is_chained(self) -> None:
        large = srgb_icc() + bytes(150_000)
        profile = read_profile(large)
        out = io.BytesIO()
        _jpeg(Photo(random_codes(8, 8), profile), AS_USUAL, out)
        self.assertEqual(out.getvalue().count(b"ICC_PROFILE\0"), 3)
        self.assertEqual(read_photo(out.getvalue()).profile.icc, large)

    def test_orientation_is_said_once(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        xmp = b'<x:xmpmeta xmlns:x="adobe:ns:meta/" tiff:Orientation="6"/>'
        photo = read_photo(file_of(random_codes(4, 6), "PNG", exif=exif))
        self.assertEqual((photo.width, photo.height), (4, 6))
        assert photo.metadata.exif is not None
        kept = Image.Exif()
        kept.load(b"Exif\0\0" + photo.metadata.exif)
        self.assertEqual(kept[0x0112], 1)
        packet = read_photo(file_of(random_codes(4, 6), "JPEG", xmp=xmp)).metadata.xmp
        assert packet is not None
        self.assertIsNotNone(re.search(rb'Orientation="1"', packet))

    def test_a_packet_of_any_size_goes_through(self) -> None:
        photo = read_photo(
            file_of(random_codes(8, 8), "JPEG", xmp=b"<x>" + b"y" * 60_000 + b"</x>")
        )
        huge = Photo(photo.codes, photo.profile, type(photo.metadata)(xmp=b"<x/>" * 30_000))
        jpeg, png = io.BytesIO(), io.BytesIO()
        _jpeg(huge, AS_USUAL, jpeg)
        png.write(png_of(huge, 8))
        for data in (jpeg, png):
            self.assertEqual(read_photo(data.getvalue()).metadata.xmp, huge.metadata.xmp)
        small = io.BytesIO()
        _jpeg(photo, AS_USUAL, small)
        self.assertEqual(read_photo(small.getvalue()).metadata.xmp, photo.metadata.xmp)
