"""Recipes of every version open, and travel with their pictures."""

import hashlib
import json
import unittest
from pathlib import Path
from typing import Any

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import RecipeError
from nubilis.mask.picture import Picture
from nubilis.photo.pyramid import View
from nubilis.recipe.document import VERSION, Recipe
from nubilis.recipe.files import read_file, read_recipe, write_file
from nubilis.remedy.match import Match

from .pictures import wall_photo

FROZEN = Path(__file__).parent / "recipes"


def frozen(name: str) -> bytes:
    return (FROZEN / f"{name}.json").read_bytes()


def shape_of(schema: Any) -> Any:
    """A schema without what is said about it."""
    if isinstance(schema, dict):
        return {
            k: shape_of(v) for k, v in sorted(schema.items()) if k not in ("description", "title")
        }
    return [shape_of(v) for v in schema] if isinstance(schema, list) else schema


class Frozen(unittest.TestCase):
    def test_there_is_one_of_every_version(self) -> None:
        names = {p.stem for p in FROZEN.glob("version-*.json")}
        self.assertLessEqual({f"version-{n}" for n in range(1, VERSION + 1)}, names)

    def test_every_one_opens_as_what_it_was(self) -> None:
        now, files = read_file(frozen(f"version-{VERSION}"))
        self.assertEqual(len(now.assets), 2)
        for number in range(1, VERSION):
            recipe, carried = read_file(frozen(f"version-{number}"))
            self.assertEqual(recipe, now)
            for sha256 in recipe.assets:
                self.assertEqual(carried(sha256), files(sha256))

    def test_kinds_that_came_with_version_4(self) -> None:
        document = json.loads(frozen("version-4-kinds"))
        recipe = read_recipe(frozen("version-4-kinds"))
        kinds = [r.kind for r in recipe.casts[0].remedies]
        self.assertEqual(kinds, ["recolour", "wash", "glaze", "zones", "tone", "calm"])
        again = json.loads(recipe.model_dump_json())["casts"][0]["remedies"]
        self.assertEqual(again, document["casts"][0]["remedies"])

    def test_kinds_that_came_with_version_5(self) -> None:
        document = json.loads(frozen("version-5-kinds"))
        recipe = read_recipe(frozen("version-5-kinds"))
        kinds = [r.kind for r in recipe.casts[0].remedies]
        self.assertEqual(kinds, ["by-hue", "in-plane", "curves", "channel-mix"])
        again = json.loads(recipe.model_dump_json())["casts"][0]["remedies"]
        self.assertEqual(again, document["casts"][0]["remedies"])

    def test_a_part_that_came_with_version_6(self) -> None:
        document = json.loads(frozen("version-6-kinds"))
        recipe, _ = read_file(frozen("version-6-kinds"))
        self.assertEqual([p.kind for p in recipe.casts[0].mask.parts], ["people"])
        again = json.loads(recipe.model_dump_json())["casts"][0]["mask"]
        self.assertEqual(again, document["casts"][0]["mask"])

    def test_early_documents_of_version_1_mean_what_they_meant(self) -> None:
        cast = read_recipe(frozen("version-1-early")).casts[0]
        reference = cast.pairs[0].reference
        self.assertEqual(reference and reference.origin, "neutral")
        match = cast.remedies[1]
        assert isinstance(match, Match)
        self.assertEqual(
            (match.follow, match.hold_luminance, match.hold_neutrals), (0.0, 0.0, True)
        )

    def test_whoever_changes_the_shape_raises_the_version(self) -> None:
        shapes = json.loads((FROZEN / "shapes.json").read_text())
        text = json.dumps(shape_of(Recipe.model_json_schema()))
        shape = hashlib.sha256(text.encode()).hexdigest()
        self.assertEqual(
            shape,
            shapes.get(str(VERSION)),
            "the recipe has another shape: raise VERSION, add a step and a frozen document, and note "
            "the new shape here; those of earlier versions never change",
        )


class Numbers(unittest.TestCase):
    def test_samples_are_numbered_as_the_browser_numbers_them(self) -> None:
        """The browser's own test reads the same file (edit.test.ts)."""
        (cast,) = read_recipe(frozen("numbered")).casts
        numbers = json.loads(frozen("numbers"))
        self.assertEqual(cast.numbers(), numbers)


class Travelling(unittest.TestCase):
    def setUp(self) -> None:
        self.recipe, self.files = read_file(frozen(f"version-{VERSION}"))

    def test_a_file_needs_nothing_else(self) -> None:
        again, files = read_file(write_file(self.recipe, self.files))
        self.assertEqual(again, self.recipe)
        mask = self.recipe.casts[0].mask.only("pic")
        view = View((300, 200), (0, 0, 300, 200))
        masks = [Engine(wall_photo(), assets=f).mask(mask, view) for f in (self.files, files)]
        np.testing.assert_array_equal(*masks)
        self.assertGreater(float(masks[0].std()), 0.01)

    def test_what_is_missing_or_damaged_is_told(self) -> None:
        document = json.loads(write_file(self.recipe, self.files))
        with self.assertRaisesRegex(RecipeError, "not here"):
            write_file(self.recipe)
        one, other = document["assets"]
        swapped = {one: document["assets"][other], other: document["assets"][one]}
        for assets, reason in (
            ({}, "not here"),
            (swapped, "damaged"),
            ({one: "no base64!"}, "base64"),
            ({one: 3}, "at assets"),
            ([], "at assets"),
        ):
            with self.assertRaisesRegex(RecipeError, reason):
                read_file(json.dumps(document | {"assets": assets}))

    def test_a_document_that_is_kept_carries_no_picture(self) -> None:
        with self.assertRaisesRegex(RecipeError, "assets"):
            read_recipe(frozen(f"version-{VERSION}"))
        with self.assertRaisesRegex(RecipeError, "with a photo"):
            read_recipe(frozen("version-1"))

    def test_other_versions_are_refused_in_one_line(self) -> None:
        document = json.loads(frozen("version-1-early"))
        for version, reason in ((VERSION + 1, "reads up to"), (0, "unknown"), (True, "unknown")):
            with self.assertRaisesRegex(RecipeError, reason):
                read_recipe(json.dumps(document | {"version": version}))
        for casts in (3, [3], [{"mask": {"parts": [{"kind": "picture"}]}}]):
            with self.assertRaisesRegex(RecipeError, "not one of version 1"):
                read_recipe(json.dumps(document | {"casts": casts}))

    def test_a_picture_of_another_size_than_it_says_is_refused(self) -> None:
        part = self.recipe.casts[0].mask.only("pic").parts[0]
        assert isinstance(part, Picture)
        wrong = part.asset.model_copy(update={"width": 13})
        engine = Engine(wall_photo(), assets=self.files)
        self.assertEqual(engine.codes_of(part.asset).shape, (8, 12))
        with self.assertRaisesRegex(RecipeError, "size"):
            Engine(wall_photo(), assets=self.files).codes_of(wrong)


if __name__ == "__main__":
    unittest.main()
