"""PNGs that name their space, and those that name the colour that is transparent."""

import io
import struct
import unittest
import zlib

import imagecodecs
import numpy as np
from PIL import Image, ImageCms

from nubilis.colour.profile import Profile, read_profile
from nubilis.colour.rgb import SRGB_PRIMARIES
from nubilis.colour.standard import (
    P3_PRIMARIES,
    curve_tag,
    made_icc,
    standard_icc,
    standard_like,
)
from nubilis.errors import PhotoError
from nubilis.photo.read import read_photo

from .pictures import file_of, random_codes
from .test_pieces import chunk

CODES = random_codes(6, 8)
SRGB = chunk(b"sRGB", b"\0")
P3_BY_NUMBER, PQ = chunk(b"cICP", bytes((12, 13, 0, 1))), chunk(b"cICP", bytes((9, 16, 0, 1)))
WIDE = chunk(
    b"cHRM",
    struct.pack(">8I", *(round(v * 1e5) for v in (0.3127, 0.3290, *np.ravel(P3_PRIMARIES)))),
)


def gamma(value: float) -> bytes:
    return chunk(b"gAMA", struct.pack(">I", round(value * 1e5)))


def png(*said: bytes, icc: bytes | None = None, codes: np.ndarray = CODES) -> bytes:
    """With chunks behind its header."""
    data = file_of(codes, "PNG", **({"icc_profile": icc} if icc else {}))
    return data[:33] + b"".join(said) + data[33:]


def power(profile: Profile) -> float:
    """The exponent that its first curve has in the middle."""
    return float(np.log(profile.curves[0][32768]) / np.log(32768 / 65535))


class Spaces(unittest.TestCase):
    def test_the_order_of_what_is_said(self) -> None:
        rec2020 = standard_icc("rec2020")
        for said, icc, space in (
            ((P3_BY_NUMBER, SRGB, gamma(0.3)), rec2020, "display-p3"),
            ((SRGB, gamma(0.3)), rec2020, "rec2020"),
            ((SRGB, gamma(0.3), WIDE), None, "srgb"),
        ):
            photo = read_photo(png(*said, icc=icc))
            self.assertEqual(standard_like(photo.profile), space)
            np.testing.assert_array_equal(photo.codes, CODES)
            self.assertEqual(photo.notes, ())

    def test_a_gamma_with_and_without_primaries(self) -> None:
        for said, primaries in (((), SRGB_PRIMARIES), ((WIDE,), P3_PRIMARIES)):
            profile = read_photo(png(gamma(1 / 1.8), *said)).profile
            self.assertAlmostEqual(power(profile), 1.8, places=2)
            want = read_profile(made_icc("", primaries, (0.3127, 0.3290), curve_tag(0, (1.8,))))
            np.testing.assert_allclose(profile.matrix, want.matrix, atol=1e-3)
        # As LittleCMS has it, with the profile that would go out.
        out = ImageCms.profileToProfile(
            Image.fromarray(CODES),
            ImageCms.ImageCmsProfile(io.BytesIO(profile.icc or b"")),
            ImageCms.createProfile("sRGB"),
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
        )
        self.assertIsNotNone(out)

    def test_what_makes_no_sense_is_left_aside(self) -> None:
        for said in (gamma(0.0), chunk(b"cICP", b"\xff\xff\0\1"), chunk(b"cHRM", bytes(32))):
            photo = read_photo(png(said))
            self.assertIn("No colour profile: read as sRGB", photo.notes)
        narrow = chunk(b"cHRM", struct.pack(">8I", *[33333] * 8))
        self.assertAlmostEqual(power(read_photo(png(gamma(0.5), narrow)).profile), 2.0, places=2)

    def test_hdr_is_refused_in_a_line(self) -> None:
        with self.assertRaisesRegex(PhotoError, "HDR"):
            read_photo(png(PQ))

    def test_a_grey_profile_s_curve_stays(self) -> None:
        grey = np.ascontiguousarray(CODES[..., 0])
        for exponent in (1.0, 1.8):
            photo = read_photo(png(icc=grey_profile(exponent), codes=grey))
            self.assertAlmostEqual(power(photo.profile), exponent, places=2)
            self.assertFalse(photo.profile.grey)
            np.testing.assert_array_equal(photo.codes, np.repeat(grey[..., None], 3, axis=2))

    def test_large_profiles_and_long_texts_are_no_damage(self) -> None:
        large = padded(standard_icc("display-p3"), 2_600_000)
        text = chunk(b"zTXt", b"Comment\0\0" + zlib.compress(b"puppet " * 300_000))
        for data in (png(text, icc=large), file_of(CODES, "JPEG", icc_profile=large, quality=95)):
            self.assertEqual(standard_like(read_photo(data).profile), "display-p3")


def padded(icc: bytes, size: int) -> bytes:
    """With bytes of no meaning behind it, as the tables of presses fill a profile."""
    rng = np.random.default_rng(5)
    noise = rng.integers(0, 256, size - len(icc), dtype=np.uint8).tobytes()
    return struct.pack(">I", size) + icc[4:] + noise


def grey_profile(exponent: float) -> bytes:
    curve = curve_tag(0, (exponent,))
    at = 128 + 4 + 12
    head = struct.pack(
        ">I4sI4s4s4s", at + len(curve), bytes(4), 0x04400000, b"mntr", b"GRAY", b"XYZ "
    )
    head += bytes(12) + b"acsp"
    table = struct.pack(">I4sII", 1, b"kTRC", at, len(curve))
    return head + bytes(128 - len(head)) + table + curve


class Through(unittest.TestCase):
    """One colour that is transparent, at every depth."""

    def through(self, data: bytes, want: np.ndarray) -> None:
        photo = read_photo(data)
        assert photo.alpha is not None
        top = np.iinfo(photo.alpha.dtype).max
        np.testing.assert_array_equal(photo.alpha, np.where(want, 0, top))
        self.assertEqual(photo.alpha_kind, "straight")

    def said(self, data: bytes, *values: int) -> bytes:
        return data[:33] + chunk(b"tRNS", struct.pack(f">{len(values)}H", *values)) + data[33:]

    def test_of_colours(self) -> None:
        for codes in (CODES, random_codes(6, 8, bits=16)):
            data = bytes(imagecodecs.png_encode(codes))
            one = codes[2, 3]
            self.through(self.said(data, *map(int, one)), (codes == one).all(axis=2))

    def test_of_greys_of_every_depth(self) -> None:
        for bits in (1, 2, 4, 8, 16):
            with self.subTest(bits):
                grey = np.arange(48).reshape(6, 8) * 7 % 2**bits
                data = few_bits(grey, bits)
                self.through(self.said(data, int(grey[2, 3])), grey == grey[2, 3])

    def test_it_goes_out_as_alpha(self) -> None:
        photo = read_photo(self.said(png(), *map(int, CODES[0, 0])))
        self.assertEqual(photo.alpha is not None and photo.alpha[0, 0], 0)
        np.testing.assert_array_equal(photo.codes, CODES)


def few_bits(grey: np.ndarray, bits: int) -> bytes:
    """A grey PNG of 1 to 16 bits."""
    high, wide = grey.shape
    header = chunk(b"IHDR", struct.pack(">IIBBBBB", wide, high, bits, 0, 0, 0, 0))
    if bits == 16:
        rows = [row.astype(">u2").tobytes() for row in grey]
    else:
        each = [((row[:, None] >> np.arange(bits)[::-1]) & 1).ravel() for row in grey]
        rows = [np.packbits(row).tobytes() for row in each]
    pixels = zlib.compress(b"".join(b"\0" + row for row in rows))
    return b"\x89PNG\r\n\x1a\n" + header + chunk(b"IDAT", pixels) + chunk(b"IEND")


if __name__ == "__main__":
    unittest.main()
