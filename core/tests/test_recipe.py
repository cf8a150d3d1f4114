"""The recipe as an open document: there and back, and refused clearly."""

import json
import unittest
from pathlib import Path

from nubilis.errors import RecipeError
from nubilis.recipe.document import VERSION, Recipe
from nubilis.recipe.files import read_recipe, write_file

from .pictures import brush, recipe_for, wall_photo, warm_key

SCHEMA = Path(__file__).resolve().parents[2] / "docs/recipe.schema.json"


class Document(unittest.TestCase):
    def test_there_and_back(self) -> None:
        recipe = recipe_for(wall_photo(), brush(), warm_key())
        again = read_recipe(write_file(recipe))
        self.assertEqual(again, recipe)
        self.assertEqual(hash(again), hash(recipe))

    def test_the_written_schema_is_this_version_s(self) -> None:
        self.assertEqual(json.loads(SCHEMA.read_text()), Recipe.model_json_schema())

    def test_the_example_in_the_description_is_valid(self) -> None:
        text = SCHEMA.with_name("recipe.md").read_text()
        example = text.split("```json\n")[1].split("```")[0]
        self.assertEqual(len(read_recipe(example).casts[0].pairs), 1)

    def refused(self, document: object, reason: str) -> None:
        text = document if isinstance(document, str) else json.dumps(document)
        with self.assertRaises(RecipeError) as caught:
            read_recipe(text)
        self.assertIn(reason, str(caught.exception))
        self.assertNotIn("\n", str(caught.exception))

    def test_refusals(self) -> None:
        good = json.loads(write_file(recipe_for(wall_photo())))
        self.refused("{", "not valid JSON")
        self.refused("[" * 100_000, "not valid JSON")
        self.refused([1], "not a Nubilis recipe")
        self.refused({}, "not a Nubilis recipe")
        self.refused(good | {"format": "something-else"}, "not a Nubilis recipe")
        self.refused(good | {"version": VERSION + 1}, f"version {VERSION + 1}")
        self.refused(good | {"version": "one"}, "unknown")
        self.refused(good | {"colour": "mauve"}, "colour")
        self.refused(good | {"casts": good["casts"] * 2}, "same id")
        good["casts"][0]["remedies"][0]["amount"] = 9.0
        self.refused(good, "casts.0.remedies.0.neutralise.amount")
        good["casts"][0]["remedies"][0]["amount"] = float("nan")
        self.refused(good, "casts.0.remedies.0.neutralise.amount")

    def test_an_unknown_kind_of_part_is_named(self) -> None:
        good = json.loads(write_file(recipe_for(wall_photo())))
        good["casts"][0]["mask"]["parts"][0]["kind"] = "hoop"
        self.refused(good, "casts.0.mask.parts.0")
