"""Concerns: each is raised when there is cause, and not when there is none."""

import unittest

import numpy as np

from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.people.people import Face
from nubilis.photo.pyramid import View
from nubilis.planning import sample_at
from nubilis.proof.casts import prove
from nubilis.proof.judgement import Change, Concern, beyond, judge, not_kept, undone
from nubilis.proof.known_skin import known_skin
from nubilis.recipe.document import Cast, Guard, Pair, Recipe, Sample

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


class Undone(unittest.TestCase):
    """Half of a cloth was reached, half was not."""

    WANTED, SAMPLE = np.array([70.0, 1.0, 2.0]), np.array([68.0, -18.0, -6.0])

    def told(self, reached: float, cloth: float = 1.0) -> Concern | None:
        mask = disc()
        xs = np.arange(W)[None, None]
        before = np.where(xs < cloth * W, self.SAMPLE[:, None, None], lab(40, 20, 30))
        before = np.broadcast_to(before, (3, H, W)).astype(np.float32)
        taken = np.where(xs < reached * W, self.WANTED[:, None, None], before)
        nowhere = np.zeros((H, W), dtype=bool)
        change = Change(before, taken.astype(np.float32), nowhere)
        return undone("2", self.SAMPLE, self.WANTED, change, mask, "even")

    def test_it_is_told_where_and_with_what_helps(self) -> None:
        told = self.told(0.5)
        assert told is not None and told.at is not None
        self.assertEqual(told.text, "Half of what looks like sample 2 still carries the cast")
        self.assertEqual((told.kind, told.act), ("undone", "even"))
        self.assertGreater(told.at[0] * W, 0.5 * W)
        nearly = self.told(0.0)
        assert nearly is not None
        self.assertRegex(nearly.text, "^Nearly all")

    def test_not_of_a_cloth_that_was_reached_nor_of_another(self) -> None:
        self.assertIsNone(self.told(0.75))
        self.assertIsNone(self.told(0.5, cloth=0.5))
        self.assertIsNone(self.told(0.0, cloth=0.0))


class KnownSkin(unittest.TestCase):
    def test_a_cup_is_none(self) -> None:
        view = View((90, 60), (0, 0, 90, 60))
        face = Face(np.zeros((468, 2)), np.zeros((2, 5, 2)), (0.2, 0.2, 0.4, 0.4), 1.0)
        self.assertFalse(known_skin(Recipe(), (), view).any())
        near = known_skin(Recipe(), (face,), view)
        self.assertEqual((near[27, 27], near[27, 85]), (1.0, 0.0))
        skin = Sample(at=(0.5, 0.3), rgb=(0.4, 0.25, 0.2), kind="skin")
        for cast in (
            Cast(id="c", guards=(Guard(id="g", sample=skin),)),
            Cast(id="c", pairs=(Pair(id="p", tainted=skin),)),
        ):
            self.assertTrue(known_skin(Recipe(casts=(cast,)), (), view).all())

    def test_paleness_is_told_of_it_alone(self) -> None:
        before, after = lab(65, 14, 16), lab(65, 3, 4)
        nowhere = np.zeros((H, W), dtype=bool)
        for there, told in ((np.zeros((H, W), np.float32), False), (None, True)):
            change = Change(before, after, nowhere, skin_there=there)
            found = [c.kind for c in judge(change, np.ones((H, W), np.float32))]
            self.assertEqual("skin" in found, told)


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
