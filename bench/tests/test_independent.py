"""A scene's figures worked out again from its files, by a library of another make than ours."""

import unittest

import numpy as np
from tests import independent

from bench.scenes import Scene
from nubilis.engine.engine import Engine
from nubilis.planning import mask_picture, plan_fix
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle


class SceneFigures(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.scene = Scene("d6-gel")
        assets = Bundle()
        engine = Engine(cls.scene.photo, assets=assets)
        tainted, references = cls.scene.pairs(engine, 2)
        cls.mask = cls.scene.loose_mask()
        kept = assets.keep(mask_picture(cls.mask, cls.scene.photo))
        recipe = plan_fix(engine, tainted, references, mask=kept)
        cls.proof = prove(engine, recipe)
        cls.delivered = engine.deliver(recipe)
        cls.lab_before, cls.lab_after = (
            independent.lab_of_srgb(photo.codes) for photo in (cls.scene.photo, cls.delivered)
        )
        cls.moved = independent.difference(cls.lab_before, cls.lab_after)
        cls.masked = cls.mask.codes[..., 0] > 0

    def test_the_error_to_the_truth(self) -> None:
        """As the accuracy table has it."""
        truth = independent.lab_of_srgb(self.scene.truth.codes)
        before, after = (
            independent.difference(v, truth) for v in (self.lab_before, self.lab_after)
        )
        ours = self.scene.error_before
        # Nearly opposite hues lie at a step of the formula itself, on either side of it.
        self.assertLess(float(np.quantile(np.abs(before - ours), 0.997)), 0.03)
        self.assertAlmostEqual(float(before.mean()), float(ours.mean()), delta=0.005)
        bad = self.scene.tainted
        self.assertLess(after[bad].mean(), 0.4 * before[bad].mean())

    def test_outside_nothing_moved(self) -> None:
        away = self.delivered.codes[~self.masked], self.scene.photo.codes[~self.masked]
        np.testing.assert_array_equal(*away)
        self.assertEqual((self.proof.outside.mean, self.proof.outside.most), (0.0, 0.0))

    def test_what_moved_inside(self) -> None:
        """The proof reads the analysis size, and this the delivered file at full size."""
        inside = self.moved[self.masked]
        told = self.proof.inside
        self.assertAlmostEqual(told.share, self.masked.mean(), delta=0.01)
        self.assertAlmostEqual(told.mean / inside.mean(), 1.0, delta=0.03)
        self.assertAlmostEqual(told.p95 / np.percentile(inside, 95), 1.0, delta=0.03)

    def test_lightness(self) -> None:
        change = (self.lab_after - self.lab_before)[..., 0]
        weight = self.mask.codes[..., 0] / 255.0
        wanted = float((change * weight).sum() / weight.sum())
        for cast in self.proof.casts:
            self.assertAlmostEqual(cast.lightness_change, wanted, delta=0.03)


if __name__ == "__main__":
    unittest.main()
