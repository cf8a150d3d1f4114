"""What a sample says of itself: kinds, light, and the average of a drag."""

import unittest

import numpy as np

from nubilis.colour.kind import kind_of
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.engine.sample import describe, measure_place
from nubilis.errors import PlaceError
from nubilis.photo.picture import Photo


class Kinds(unittest.TestCase):
    def test_familiar_surfaces(self) -> None:
        for lab, kind in (
            ((60.0, 1.0, -2.0), "neutral"),
            ((65.0, 14.0, 17.0), "skin"),
            ((30.0, 9.0, 14.0), "skin"),
            ((45.0, -20.0, 28.0), "foliage"),
            ((70.0, -6.0, -22.0), "sky"),
            ((45.0, 60.0, 40.0), "other"),
            ((12.0, 10.0, 12.0), "other"),
        ):
            self.assertEqual(kind_of(lab), kind, lab)


class Places(unittest.TestCase):
    def setUp(self) -> None:
        codes = np.zeros((60, 90, 3), dtype=np.uint8)
        codes[:, :30], codes[:, 30:60], codes[:, 60:] = (200, 60, 60), (60, 60, 200), 128
        self.engine = Engine(Photo(codes, srgb()))

    def test_a_drag_averages_the_light_of_its_places(self) -> None:
        red, blue = ((15 / 90, 0.3), (45 / 90, 0.3))
        one, two = (measure_place(self.engine, at, 0.05).rgb for at in (red, blue))
        both = measure_place(self.engine, red, 0.05, further=[blue])
        np.testing.assert_allclose(both.rgb, np.mean([one, two], axis=0), rtol=1e-4)
        self.assertGreater(both.spread, 30.0)
        single = measure_place(self.engine, red, 0.05)
        self.assertAlmostEqual(both.count, 2 * single.count, delta=2)

    def test_any_place_outside_is_refused(self) -> None:
        with self.assertRaises(PlaceError):
            measure_place(self.engine, (0.1, 0.1), further=[(0.1, 0.9)])

    def test_a_grey_tells_the_light_of_the_photo(self) -> None:
        grey = measure_place(self.engine, (75 / 90, 0.3), 0.05)
        self.assertEqual(grey.kind, "neutral")
        self.assertAlmostEqual(grey.temperature / 6504, 1.0, delta=0.02)
        self.assertAlmostEqual(grey.tint, 0.0, delta=1.0)
        warm = describe((0.30, 0.25, 0.17), srgb())
        self.assertLess(warm.temperature, 5000)
