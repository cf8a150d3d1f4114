"""Recipes made from places: who is paired with whom, and which casts come out."""

import unittest

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError, RecipeError
from nubilis.photo.picture import Photo
from nubilis.planning import mask_picture, plan_fix
from nubilis.proof.casts import prove

from .pictures import random_codes, wall_photo


def two_lamps() -> Photo:
    """A grey wall, amber at the left, blue at the right, clean in the middle; dark in its lower half."""
    codes = np.full((120, 300, 3), 170.0)
    codes[60:] *= 0.5
    codes[:, :100] *= (1.15, 1.0, 0.75)
    codes[:, 200:] *= (0.82, 1.0, 1.2)
    noise = np.random.default_rng(2).normal(0, 1.0, (120, 300, 1))
    return Photo((codes + noise).clip(0, 255).astype(np.uint8), wall_photo().profile)


class Planning(unittest.TestCase):
    def setUp(self) -> None:
        self.engine = Engine(two_lamps())

    def test_lamps_of_two_colours_are_two_casts(self) -> None:
        middle = (150.0, 30.0)
        recipe = plan_fix(self.engine, [(50.0, 30.0), (250.0, 30.0)], [middle, middle])
        self.assertEqual([c.name for c in recipe.casts], ["Cast A", "Cast B"])
        words = {c.towards for c in prove(self.engine, recipe).casts}
        self.assertEqual(len(words), 2)
        self.assertIn("blue", words)

    def test_both_are_taken_off(self) -> None:
        middle = (150.0, 30.0)
        recipe = plan_fix(self.engine, [(50.0, 30.0), (250.0, 30.0)], [middle, middle])
        for cast in prove(self.engine, recipe).casts:
            assert cast.before is not None and cast.after is not None
            self.assertLess(cast.after, 0.35 * cast.before)

    def test_the_same_lamp_twice_is_one_cast(self) -> None:
        recipe = plan_fix(self.engine, [(40.0, 30.0), (60.0, 90.0)], [(150.0, 30.0), (150.0, 90.0)])
        self.assertEqual([len(c.pairs) for c in recipe.casts], [2])

    def test_a_neutral_of_like_lightness_is_chosen(self) -> None:
        recipe = plan_fix(self.engine, [(50.0, 90.0)], neutrals=[(150.0, 30.0), (150.0, 90.0)])
        reference = recipe.casts[0].pairs[0].reference
        assert reference is not None and reference.at is not None
        self.assertGreater(reference.at[1] * 300, 60)

    def test_without_any_reference_a_neutral_is_made(self) -> None:
        for recipe in (
            plan_fix(self.engine, [(50.0, 30.0)]),
            plan_fix(self.engine, [], neutrals=[(50.0, 30.0)]),
        ):
            pair = recipe.casts[0].pairs[0]
            assert pair.reference is not None
            self.assertEqual(pair.reference and pair.reference.origin, "neutral")
            self.assertIsNone(pair.reference.at)
            self.assertEqual(len(set(pair.reference.rgb)), 1)

    def test_guards_hold_in_every_cast(self) -> None:
        recipe = plan_fix(
            self.engine, [(50.0, 30.0), (250.0, 30.0)], [(150.0, 30.0)] * 2, guards=[(20.0, 100.0)]
        )
        self.assertEqual([len(c.guards) for c in recipe.casts], [1, 1])

    def test_refusals(self) -> None:
        with self.assertRaises(PlaceError):
            plan_fix(self.engine, [(300.0, 30.0)])
        with self.assertRaisesRegex(RecipeError, "needs a partner"):
            plan_fix(self.engine, [], [(1.0, 1.0)])
        with self.assertRaisesRegex(RecipeError, "the mask is 4 x 4"):
            mask_picture(Photo(random_codes(4, 4), wall_photo().profile), self.engine.photo)
