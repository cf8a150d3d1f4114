"""Recipes that are made to take long are refused before they do."""

import json
import unittest
from unittest import mock

from pydantic import ValidationError

from nubilis.errors import RecipeError
from nubilis.mask.brush import Brush, Stroke, bounded
from nubilis.recipe.document import MOST_POINTS, Cast, Mask, Recipe
from nubilis.recipe.files import read_recipe
from nubilis.recipe.modest import MOST_ENTRIES, MOST_VALUES

from .hostile import HOSTILE


class Hostile(unittest.TestCase):
    def test_each_is_refused_in_one_line(self) -> None:
        for name, made in HOSTILE.items():
            with self.subTest(name):
                text = made()
                self.assertLess(len(text), 4.2e6)
                with self.assertRaises(RecipeError) as refused:
                    read_recipe(text)
                self.assertNotIn("\n", str(refused.exception))
                self.assertLess(len(str(refused.exception)), 300)

    def test_faults_are_not_counted(self) -> None:
        for name in ("20,000 wrong points", "90,000 dismissed without anything"):
            with self.assertRaises(RecipeError) as refused:
                read_recipe(HOSTILE[name]())
            cause = refused.exception.__cause__
            assert isinstance(cause, ValidationError)
            self.assertLess(cause.error_count(), 4)

    def test_what_is_far_too_long_is_not_parsed(self) -> None:
        with mock.patch.object(json, "loads") as parsed, self.assertRaises(RecipeError):
            read_recipe("," * (MOST_VALUES + 1))
        parsed.assert_not_called()

    def test_what_comes_to_too_much_is_not_looked_at_in_detail(self) -> None:
        for document in ({"casts": [1] * (MOST_ENTRIES + 1)}, {f"k{i}": i for i in range(65)}):
            with self.assertRaisesRegex(ValueError, "more than"):
                Recipe.model_validate(document)

    def test_the_most_that_may_be_painted_still_may(self) -> None:
        strokes = tuple(Stroke(size=0.01, points=(((0.5, 0.5), 1.0),) * 20_000) for _ in range(3))
        self.assertEqual(3 * 20_000, MOST_POINTS)
        recipe = Recipe(casts=(Cast(id="c", mask=Mask(parts=(Brush(id="b", strokes=strokes),))),))
        self.assertEqual(read_recipe(recipe.model_dump_json()), recipe)


class Painted(unittest.TestCase):
    """How much strokes come to: along each of them, and not from one to the next."""

    def test_the_pen_is_lifted_between_strokes(self) -> None:
        dots = [Stroke(size=0.001, points=(((float(i % 2), 0.0), 1.0),)) for i in range(1500)]
        bounded(dots)
        line = Stroke(size=0.001, points=tuple(((float(i % 2), 0.0), 1.0) for i in range(1500)))
        with self.assertRaisesRegex(ValueError, "too much"):
            bounded([line])

    def test_wide_ones_come_to_more(self) -> None:
        bounded([Stroke(size=0.5, points=(((0.5, 0.5), 1.0),))] * 1000)
        with self.assertRaisesRegex(ValueError, "too much"):
            bounded([Stroke(size=0.8, points=(((0.5, 0.5), 1.0),))] * 1000)
