"""Spaces, adaptation and profiles: published values, inverses, and neutrals that stay neutral."""

import struct
import unittest

import numpy as np
from PIL import ImageCms

from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.cielab import lab_planes, lab_to_linear_rgb, linear_rgb_to_lab
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb, oklab_to_oklch
from nubilis.colour.profile import read_profile, srgb, srgb_icc
from nubilis.colour.rgb import (
    REC2020_TO_XYZ,
    SRGB_TO_REC2020,
    SRGB_TO_XYZ,
    linear_to_srgb,
    srgb_to_linear,
)
from nubilis.errors import PhotoError
from nubilis.photo.sampling import decode, encode

from .pictures import random_codes, random_light


class Spaces(unittest.TestCase):
    def test_matrices_are_the_published_ones(self) -> None:
        # ITU-R BT.2087-0, table 1, to its six decimals; IEC 61966-2-1, annex A.
        bt2020 = [
            [0.636958, 0.144617, 0.168881],
            [0.262700, 0.677998, 0.059302],
            [0.000000, 0.028073, 1.060985],
        ]
        np.testing.assert_allclose(REC2020_TO_XYZ, bt2020, atol=2e-6)
        np.testing.assert_allclose(SRGB_TO_XYZ[1], [0.2126, 0.7152, 0.0722], atol=6e-5)

    def test_srgb_curve(self) -> None:
        for encoded, light in ((0.0, 0.0), (0.04, 0.00309598), (0.5, 0.21404114), (1.0, 1.0)):
            self.assertAlmostEqual(float(srgb_to_linear(encoded)), light, places=8)
        values = np.linspace(0.0, 1.0, 257)
        np.testing.assert_allclose(linear_to_srgb(srgb_to_linear(values)), values, atol=1e-7)

    def test_lab_of_the_srgb_primaries(self) -> None:
        # Under D50 by Bradford, as tabulated by Lindbloom.
        for srgb_primary, expected in (
            ((1.0, 0.0, 0.0), (54.2917, 80.8125, 69.8851)),
            ((0.0, 1.0, 0.0), (87.8181, -79.2873, 80.9902)),
            ((0.0, 0.0, 1.0), (29.5676, 68.2986, -112.0294)),
        ):
            rgb = SRGB_TO_REC2020 @ np.array(srgb_primary)
            np.testing.assert_allclose(linear_rgb_to_lab(rgb), expected, atol=0.05)

    def test_oklab_published_values(self) -> None:
        # Ottosson (2020), table of XYZ and OKLab, to its three decimals.
        for xyz, expected in (
            ((0.950, 1.000, 1.089), (1.000, 0.000, 0.000)),
            ((1.000, 0.000, 0.000), (0.450, 1.236, -0.019)),
            ((0.000, 1.000, 0.000), (0.922, -0.671, 0.263)),
            ((0.000, 0.000, 1.000), (0.153, -1.415, -0.449)),
        ):
            rgb = np.linalg.solve(REC2020_TO_XYZ, xyz)
            np.testing.assert_allclose(linear_rgb_to_oklab(rgb), expected, atol=2e-3)

    def test_inverses_beyond_the_gamut_too(self) -> None:
        rgb = np.random.default_rng(3).uniform(-0.2, 2.0, (200, 3))
        np.testing.assert_allclose(oklab_to_linear_rgb(linear_rgb_to_oklab(rgb)), rgb, atol=1e-9)
        positive = np.abs(rgb)
        np.testing.assert_allclose(
            lab_to_linear_rgb(linear_rgb_to_lab(positive)), positive, atol=1e-9
        )

    def test_neutrals_stay_neutral(self) -> None:
        for grey in (0.0, 1e-4, 0.18, 1.0, 3.0):
            rgb = np.full(3, grey)
            self.assertLess(np.abs(linear_rgb_to_lab(rgb)[1:]).max(), 1e-6)
            self.assertLess(np.abs(linear_rgb_to_oklab(rgb)[1:]).max(), 1e-6)
            cones = REC2020_TO_CONES @ rgb
            self.assertLess(np.ptp(cones), 1e-6)
            np.testing.assert_allclose(CONES_TO_REC2020 @ cones, rgb, atol=1e-9)

    def test_planes_equal_samples(self) -> None:
        for h, w in ((1, 1), (3, 7), (16, 33)):
            rgb = random_light(h, w, seed=h)
            planes = lab_planes(rgb)
            self.assertEqual(planes.dtype, np.float32)
            exact = linear_rgb_to_lab(rgb.reshape(3, -1).T).T.reshape(planes.shape)
            np.testing.assert_allclose(planes, exact, atol=2e-3)

    def test_hue_is_an_angle_of_one_turn(self) -> None:
        lch = oklab_to_oklch([[0.5, 0.1, -0.1], [0.5, -0.1, 0.0]])
        np.testing.assert_allclose(lch[:, 2], [315.0, 180.0])


class Profiles(unittest.TestCase):
    def test_srgb_icc_reads_as_srgb(self) -> None:
        tagged = read_profile(srgb_icc())
        codes = random_codes(8, 8)
        np.testing.assert_allclose(decode(codes, tagged), decode(codes, srgb()), atol=4e-4)

    def test_white_is_neutral_in_every_profile(self) -> None:
        icc = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        white = decode(np.full((1, 1, 3), 255, np.uint8), read_profile(icc))
        np.testing.assert_allclose(white.ravel(), 1.0, atol=1e-5)
        np.testing.assert_allclose(SRGB_TO_REC2020 @ np.ones(3), 1.0, atol=1e-9)

    def test_every_code_survives_decoding_and_encoding(self) -> None:
        ramp = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
        np.testing.assert_array_equal(encode(decode(ramp, srgb()), srgb()), ramp)

    def test_damaged_profiles_are_refused(self) -> None:
        good = srgb_icc()
        for bad in (b"", good[:140], good[:128] + struct.pack(">I", 5000) + good[132:]):
            with self.assertRaises(PhotoError):
                read_profile(bad)

    def test_other_kinds_are_named(self) -> None:
        lab = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
        with self.assertRaisesRegex(PhotoError, "not RGB"):
            read_profile(lab)
