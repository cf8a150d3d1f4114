"""Concerns: each is raised when there is cause, and not when there is none."""

import unittest

import numpy as np

from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.planning import sample_at
from nubilis.proof.casts import prove
from nubilis.proof.judgement import Change, Concern, beyond, judge, not_kept
from nubilis.recipe.document import Guard

from .pictures import brush, recipe_for, wall_photo

H, W = 120, 180


def lab(light: float, a: float, b: float, grain: float = 0.0) -> Floats:
    rng = np.random.default_rng(1)
    plane = np.full((3, H, W), 0.0) + np.array([light, a, b])[:, None, None]
    plane[0] += rng.normal(0, grain, (H, W))
    return plane.astype(np.float32)


def disc(soft: float = 12.0) -> Floats:
    ys, xs = np.mgrid[:H, :W]
    away = np.hypot(xs - 90, ys - 60)
    return np.clip((45.0 - away) / soft + 0.5, 0.0, 1.0).astype(np.float32)


def concerns(before: Floats, after: Floats, mask: Floats | None = None,
             clipped: np.ndarray | None = None) -> list[Concern]:  # fmt: skip
    """after: where the mask is full."""
    m = disc() if mask is None else mask
    nowhere = np.zeros((H, W), dtype=bool)
    change = Change(before, before + m * (after - before), nowhere if clipped is None else clipped)
    return judge(change, m)


def kinds(before: Floats, after: Floats, mask: Floats | None = None) -> list[str]:
    return [c.kind for c in concerns(before, after, mask)]


class Pixels(unittest.TestCase):
    def test_a_moderate_change_raises_nothing(self) -> None:
        self.assertEqual(kinds(lab(60, 8, 6, 0.5), lab(60, 2, 3, 0.5)), [])

    def test_skin_that_turns_grey(self) -> None:
        pale = concerns(lab(65, 14, 16), lab(65, 3, 4))
        (concern,) = [c for c in pale if c.kind == "skin"]
        self.assertRegex(concern.text, r"lost [67]\d %")
        self.assertEqual(concern.act, "less")
        assert concern.at is not None
        self.assertLess(np.hypot(concern.at[0] - 0.5, concern.at[1] - 1 / 3), 0.2)
        self.assertNotIn("skin", kinds(lab(65, 14, 16), lab(65, 10, 13)))
        self.assertNotIn("skin", kinds(lab(65, -20, 16), lab(65, -3, 4)))  # leaves

    def test_noise_that_grows(self) -> None:
        self.assertIn("noise", kinds(lab(60, 5, 5, 0.6), lab(60, 5, 5, 1.8)))
        self.assertNotIn("noise", kinds(lab(60, 5, 5, 0.6), lab(60, 5, 5, 0.7)))

    def test_a_patch_without_the_grain_around_it(self) -> None:
        self.assertIn("smooth", kinds(lab(60, 5, 5, 1.5), lab(60, 5, 5, 0.3)))
        self.assertNotIn("smooth", kinds(lab(60, 5, 5, 1.5), lab(60, 5, 5, 1.2)))
        self.assertNotIn("smooth", kinds(lab(60, 5, 5, 0.2), lab(60, 5, 5, 0.0)))  # nobody sees it

    def test_a_hard_edge_shows_and_a_soft_one_does_not(self) -> None:
        before, after = lab(60, 12, 4), lab(60, 0, 2)
        hard = concerns(before, after, disc(1.0))
        (concern,) = [c for c in hard if c.kind == "edge"]
        self.assertEqual(concern.act, "soften")
        assert concern.at is not None
        away = np.hypot(concern.at[0] * W - 90, concern.at[1] * W - 60)
        self.assertAlmostEqual(float(away), 45.0, delta=6.0)
        self.assertNotIn("edge", kinds(before, after, disc(30.0)))

    def test_clipping(self) -> None:
        clipped = np.zeros((H, W), dtype=bool)
        clipped[50:60, 80:95] = True
        found = concerns(lab(60, 8, 6), lab(60, 2, 3), clipped=clipped)
        self.assertEqual([c.kind for c in found], ["clipped"])

    def test_nothing_is_judged_under_an_empty_mask(self) -> None:
        empty = np.zeros((H, W), dtype=np.float32)
        self.assertEqual(concerns(lab(60, 8, 6), lab(0, 0, 0), empty), [])


class Samples(unittest.TestCase):
    def test_past_the_reference(self) -> None:
        concern = beyond("1", None, (10.0, 0.0), (-3.0, 1.0))
        assert concern is not None and concern.amount is not None
        self.assertAlmostEqual(concern.amount, 1 / 1.3, places=6)
        for now in ((2.0, 0.0), (-0.5, 0.0), (0.0, 6.0)):  # short of it, on it, beside it
            self.assertIsNone(beyond("1", None, (10.0, 0.0), now))

    def test_a_kept_colour_that_moved_can_be_excluded(self) -> None:
        colour = (0.1, 0.2, 0.1)
        concern = not_kept("3", (0.5, 0.5), 2.4, colour)
        assert concern is not None
        self.assertEqual((concern.act, concern.colour), ("exclude", colour))
        self.assertIn("Kept colour 3 has moved by 2.4", concern.text)
        self.assertIsNone(not_kept("3", None, 0.8, colour))


class InTheProof(unittest.TestCase):
    def setUp(self) -> None:
        self.photo = wall_photo()
        self.engine = Engine(self.photo)
        self.recipe = recipe_for(self.photo, brush(0.8, 1.0))

    def concerns(self, **more: object) -> list[str]:
        cast = self.recipe.casts[0].model_copy(update=more)
        recipe = self.recipe.model_copy(update={"casts": (cast,)})
        return [c.kind for c in prove(self.engine, recipe).casts[0].concerns]

    def test_too_much_is_told_and_the_advice_tames_it(self) -> None:
        remedy = self.recipe.casts[0].remedies[0]
        too_much = remedy.model_copy(update={"amount": 1.5})
        self.assertIn("beyond", self.concerns(remedies=(too_much,)))
        cast = self.recipe.casts[0].model_copy(update={"remedies": (too_much,)})
        proof = prove(self.engine, self.recipe.model_copy(update={"casts": (cast,)}))
        concern = next(c for c in proof.casts[0].concerns if c.kind == "beyond")
        assert concern.amount is not None
        tamed = remedy.model_copy(update={"amount": 1.5 * concern.amount})
        self.assertNotIn("beyond", self.concerns(remedies=(tamed,)))

    def test_a_modest_amount_raises_nothing(self) -> None:
        self.assertNotIn("beyond", self.concerns())
        self.assertEqual(self.concerns(on=False), [])

    def test_numbers_are_those_on_the_photo(self) -> None:
        guard = Guard(id="g", sample=sample_at(self.engine, (200.0, 100.0)))
        cast = self.recipe.casts[0].model_copy(update={"guards": (guard,)})
        self.assertEqual(cast.numbers(), {"pair": "1", "g": "3"})
