"""Colours by their values, in every space."""

import unittest

import numpy as np

from nubilis.colour.profile import srgb
from nubilis.engine.sample import Space, describe, typed
from nubilis.errors import ColourError

RGB = (0.32, 0.25, 0.12)


class Typed(unittest.TestCase):
    def test_what_is_read_can_be_typed_again(self) -> None:
        read = describe(RGB, srgb())
        for space, values in (
            ("lab", read.lab),
            ("lch", (read.lch[0], read.lch[1], read.lch[2] % 360)),
        ):
            again = typed(space, values, srgb())  # type: ignore[arg-type]
            np.testing.assert_allclose(again, RGB, atol=1e-6)
        codes = typed("codes", tuple(float(c) for c in read.codes), srgb())  # type: ignore[arg-type]
        np.testing.assert_allclose(codes, RGB, atol=0.004)

    def test_a_grey_under_a_light(self) -> None:
        lamp = describe(typed("light", (60.0, 3200.0, 12.0), srgb()), srgb())
        self.assertAlmostEqual(lamp.lab[0], 60.0, places=3)
        self.assertAlmostEqual(lamp.temperature, 3200.0, delta=15.0)
        self.assertAlmostEqual(lamp.tint, 12.0, delta=0.3)

    def test_outside_the_space_is_refused(self) -> None:
        cases: tuple[tuple[Space, tuple[float, float, float]], ...] = (
            ("lab", (101.0, 0.0, 0.0)),
            ("lch", (0.5, 0.9, 0.0)),
            ("codes", (0.0, 256.0, 0.0)),
            ("light", (50.0, 1000.0, 0.0)),
        )
        for space, values in cases:
            with self.assertRaises(ColourError):
                typed(space, values, srgb())


if __name__ == "__main__":
    unittest.main()
