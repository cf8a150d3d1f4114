"""Colour against colour-science, and the figures of a proof against plain statistics."""

import unittest

import numpy as np

from nubilis.colour.cielab import lab_planes, linear_rgb_to_lab
from nubilis.colour.difference import difference_plane
from nubilis.colour.oklab import linear_rgb_to_oklab
from nubilis.colour.temperature import light_xyz
from nubilis.engine.engine import Engine
from nubilis.mask.oval import Oval
from nubilis.proof.casts import prove
from nubilis.proof.side_effects import Moved

from . import independent
from .pictures import random_light, recipe_for, wall_photo

OVAL = Oval(id="o", centre=(0.3, 0.3), radii=(0.25, 0.2), inside=0.4, outside=0.4)


class Colour(unittest.TestCase):
    def setUp(self) -> None:
        self.light = 0.02 + 0.9 * random_light(40, 50)
        self.pixels = np.moveaxis(self.light.astype(np.float64), 0, 2)

    def test_cielab(self) -> None:
        wanted = np.moveaxis(independent.lab_of_planes(self.light), 2, 0)
        np.testing.assert_allclose(lab_planes(self.light), wanted, atol=0.02)

    def test_ciede2000(self) -> None:
        one, two = lab_planes(self.light), lab_planes(self.light[:, ::-1, :].copy())
        wanted = independent.difference(np.moveaxis(one, 0, 2), np.moveaxis(two, 0, 2))
        np.testing.assert_allclose(difference_plane(one, two), wanted, atol=0.01)

    def test_oklab(self) -> None:
        wanted = independent.oklab(self.pixels)
        np.testing.assert_allclose(linear_rgb_to_oklab(self.pixels), wanted, atol=5e-4)

    def test_temperature_and_tint(self) -> None:
        for kelvin, tint in ((2800.0, 0.0), (4000.0, 12.0), (5600.0, -8.0), (9000.0, 5.0)):
            told, duv = independent.temperature(light_xyz(kelvin, tint))
            self.assertAlmostEqual(told / kelvin, 1.0, delta=0.01)
            self.assertAlmostEqual(duv, tint / 1000.0, delta=4e-4)


class Figures(unittest.TestCase):
    """A small photo is analysed pixel by pixel, so that every figure can be worked out again from its
    delivered pixels and its mask."""

    def setUp(self) -> None:
        photo = wall_photo()
        self.engine, self.recipe = Engine(photo), recipe_for(photo, OVAL, amount=0.8)
        self.proof = prove(self.engine, self.recipe)
        view = self.engine.analysis_view
        self.assertEqual(view.shape, photo.codes.shape[:2])
        before, after = self.engine.untouched(view), self.engine.render(self.recipe, view)
        self.lab = independent.lab_of_planes(before), independent.lab_of_planes(after)
        self.moved = independent.difference(*self.lab)
        self.mask = self.engine.mask(self.recipe.casts[0].mask, view)

    def tell_alike(self, told: Moved, where: np.ndarray) -> None:
        some = self.moved[where]
        wanted = (where.mean(), some.mean(), np.percentile(some, 95), some.max())
        np.testing.assert_allclose((told.share, told.mean, told.p95, told.most), wanted, atol=0.02)

    def test_outside_and_inside(self) -> None:
        self.assertGreater(self.moved.max(), 3.0)
        self.tell_alike(self.proof.outside, self.mask == 0.0)
        self.tell_alike(self.proof.inside, self.mask > 0.0)

    def test_lightness_and_area(self) -> None:
        cast = self.proof.casts[0]
        change = self.lab[1][..., 0] - self.lab[0][..., 0]
        wanted = (change * self.mask).sum() / self.mask.sum()
        self.assertAlmostEqual(cast.lightness_change, wanted, delta=0.005)
        self.assertAlmostEqual(cast.area, (self.mask > 0.5).mean(), delta=1e-6)

    def test_tainted_and_clean_make_up_the_masked(self) -> None:
        besides = self.proof.casts[0].besides
        assert besides is not None and besides.clean is not None
        on = self.mask > 0.5
        total = sum(m.share * m.mean for m in (besides.tainted, besides.clean))
        self.assertAlmostEqual(total / on.mean(), self.moved[on].mean(), delta=0.02)
        self.assertGreater(besides.tainted.mean, besides.clean.mean)

    def test_distance_to_the_reference(self) -> None:
        """Before and now, of the means over the sampled discs; the reference is levelled to the sample's
        luminance, which leaves its chromaticity."""
        pair, told = self.recipe.casts[0].pairs[0], self.proof.casts[0].pairs[0]
        assert pair.reference is not None
        sample, reference = np.array(pair.tainted.rgb), np.array(pair.reference.rgb)
        weights = independent.xyz(np.eye(3))[:, 1]
        level = reference * (sample @ weights) / (reference @ weights)
        wanted = independent.difference(independent.lab(sample), independent.lab(level))
        self.assertAlmostEqual(told.before or 0.0, float(wanted), delta=0.05)
        should = told.should_be
        assert should is not None
        now = independent.difference(np.array(told.is_now.lab), np.array(should.lab))
        self.assertAlmostEqual(told.after or 0.0, float(now), delta=0.25)

    def test_a_colour_is_described_alike(self) -> None:
        rgb = self.recipe.casts[0].pairs[0].tainted.rgb
        wanted = independent.lab(np.array(rgb))
        np.testing.assert_allclose(linear_rgb_to_lab(rgb), wanted, atol=0.01)


if __name__ == "__main__":
    unittest.main()
