"""Amounts set by hand: met where they are set, followed by near places of the same material, nowhere else."""

import unittest

import numpy as np

from nubilis.cast.chroma import chroma_planes
from nubilis.cast.touch import touched
from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.errors import RecipeError
from nubilis.proof.at_place import amount_at
from nubilis.recipe.document import Recipe, Touch
from nubilis.recipe.files import read_recipe, write_file

from .pictures import brush, recipe_for, wall_photo

SHIFT = np.array([0.1, 0.1])


def two_cloths() -> np.ndarray:
    """Grey at the left, red at the right, (3, 60, 90)."""
    rgb = np.full((3, 60, 90), 0.3, dtype=np.float32)
    rgb[1:, :, 45:] = 0.08
    return rgb


class Touched(unittest.TestCase):
    def setUp(self) -> None:
        self.chroma = chroma_planes(two_cloths())
        self.flat = np.full((60, 90), 0.5, dtype=np.float32)

    def field(self, *touches: tuple[tuple[float, float], float]) -> np.ndarray:
        return touched(self.flat, self.chroma, SHIFT, touches)

    def test_none_changes_nothing(self) -> None:
        self.assertIs(self.field(), self.flat)

    def test_the_place_has_what_was_said_and_its_like_follow(self) -> None:
        field = self.field(((20.5 / 90, 30.5 / 90), 1.2))
        self.assertAlmostEqual(float(field[30, 20]), 1.2, delta=0.01)
        self.assertGreater(float(field[30, 24]), 1.0)
        self.assertAlmostEqual(float(field[30, 44]), 0.5, delta=0.15)  # far
        self.assertAlmostEqual(float(field[30, 46]), 0.5, delta=0.01)  # another cloth
        self.assertTrue((np.diff(field[30, 20:45]) <= 1e-6).all())

    def test_several_are_all_met(self) -> None:
        said = {(10, 10): 0.1, (30, 40): 1.5, (45, 70): 0.9, (12, 14): 0.3}
        field = self.field(*((((x + 0.5) / 90, (y + 0.5) / 90), v) for (y, x), v in said.items()))
        for at, value in said.items():
            self.assertAlmostEqual(float(field[at]), value, delta=0.05)

    def test_two_that_contradict_each_other_meet_in_the_middle(self) -> None:
        at = 20.5 / 90, 30.5 / 90
        field = self.field((at, 0.2), (at, 0.8))
        self.assertAlmostEqual(float(field[30, 20]), 0.5, delta=0.01)
        self.assertGreaterEqual(float(field.min()), 0.0)


class InRecipes(unittest.TestCase):
    def setUp(self) -> None:
        self.photo = wall_photo()
        self.engine = Engine(self.photo)
        self.recipe = recipe_for(self.photo, brush())

    def with_touch(self, amount: float, at: tuple[float, float] = (0.15, 0.3)) -> Recipe:
        (cast,) = self.recipe.casts
        touch = Touch(id="touch", at=at, amount=amount)
        return Recipe(casts=(cast.model_copy(update={"touches": (touch,)}),))

    def test_what_is_found_there_is_what_was_said(self) -> None:
        before = amount_at(self.engine, self.recipe, "cast", (0.15, 0.3))
        assert before is not None
        for said in (0.0, before, before + 0.4):
            found = amount_at(self.engine, self.with_touch(said), "cast", (0.15, 0.3))
            self.assertAlmostEqual(found or 0.0, said, delta=0.06)

    def test_nothing_is_found_where_nothing_is_masked(self) -> None:
        self.assertIsNone(amount_at(self.engine, self.recipe, "cast", (0.95, 0.3)))
        self.assertIsNone(amount_at(self.engine, self.recipe, "no such", (0.15, 0.3)))

    def test_pixels_follow_under_the_mask_alone(self) -> None:
        view = self.engine.analysis_view
        one, two = (self.engine.render(r, view) for r in (self.recipe, self.with_touch(0.0)))
        moved = np.abs(one - two).max(axis=0)
        outside = self.engine.mask(self.recipe.casts[0].mask, view) == 0
        self.assertEqual(float(moved[outside].max()), 0.0)
        x = round(0.15 * max(view.size))
        self.assertGreater(float(moved[100, x]), 0.01)

    def test_preview_and_delivery_agree(self) -> None:
        recipe = self.with_touch(1.4)
        seen = display(self.engine, recipe, self.engine.analysis_view, Show.NOW, None)
        delivered = self.engine.deliver(recipe).codes
        self.assertLessEqual(int(np.abs(seen.astype(int) - delivered).max()), 1)

    def test_the_light_that_is_taken_off_is_seen_where_it_lies(self) -> None:
        view = self.engine.analysis_view
        taken = display(self.engine, self.recipe, view, Show.TAKEN, "cast").astype(int)
        red_over_blue = taken[..., 0] - taken[..., 2]
        self.assertGreater(int(red_over_blue[100, 5:30].mean()), 15)  # the glow is reddish
        self.assertLessEqual(int(np.abs(red_over_blue[100, 250:]).max()), 1)

    def test_they_stay_behind_when_a_cast_goes_to_another_photo(self) -> None:
        (cast,) = self.with_touch(1.0).casts
        self.assertEqual(cast.abroad(self.recipe.base, "elsewhere").touches, ())

    def test_there_and_back_in_a_file_and_bounds(self) -> None:
        recipe = self.with_touch(1.25)
        self.assertEqual(read_recipe(write_file(recipe)), recipe)
        text = write_file(recipe).replace("1.25", "9.0")
        with self.assertRaises(RecipeError):
            read_recipe(text)
