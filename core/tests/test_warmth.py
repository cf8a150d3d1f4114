"""Warmth back: offered to skin that is flatter than its reference, and to no other."""

import unittest

import numpy as np

from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.sample import describe
from nubilis.proof.pairs import PairProof
from nubilis.proof.warmth import Warmth, warmth_back
from nubilis.remedy.glaze import Glaze

from .grounds import Rgb, ground, lch, one

SKIN: Rgb = (0.42, 0.27, 0.20)


def turned(chroma: float, degrees: float = 0.0) -> Rgb:
    """The skin with so much of its chroma, its hue turned."""
    light, a, b = linear_rgb_to_oklab(SKIN)
    turn = np.radians(degrees)
    a, b = np.cos(turn) * a - np.sin(turn) * b, np.sin(turn) * a + np.cos(turn) * b
    red, green, blue = (float(v) for v in oklab_to_linear_rgb([light, chroma * a, chroma * b]))
    return red, green, blue


def offered(now: Rgb, should: Rgb = SKIN) -> Warmth | None:
    seen, wanted = describe(now, srgb()), describe(should, srgb())
    return warmth_back([PairProof("p", seen, seen, wanted, wanted, 1.0, 1.0, 0.0)])


class Offered(unittest.TestCase):
    def test_flat_skin_gets_back_what_its_reference_has(self) -> None:
        for share in (0.6, 0.8, 0.9):
            flat = turned(share)
            warmth = offered(flat)
            assert warmth is not None
            glaze = Glaze(id="g", target=warmth.target, amount=warmth.amount)
            rgb = one(flat)
            done = lch(glaze.applied(rgb, np.ones((1, 1), np.float32), ground(rgb)))[1, 0]
            self.assertAlmostEqual(float(done / lch(one(SKIN))[1, 0]), 1.0, delta=0.02)

    def test_skin_that_is_right_too_warm_or_off_in_hue_gets_none(self) -> None:
        for now in (SKIN, turned(1.2), turned(1.0, 40.0), turned(0.9, -60.0)):
            self.assertIsNone(offered(now))
        self.assertIsNone(warmth_back([]))


if __name__ == "__main__":
    unittest.main()
