"""Recipes of every version open, and travel with their pictures."""

import base64
import hashlib
import json
import unittest
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import RecipeError
from nubilis.mask.picture import Picture
from nubilis.photo.pyramid import View
from nubilis.recipe import versions
from nubilis.recipe.asset import from_base64
from nubilis.recipe.document import VERSION, Recipe
from nubilis.recipe.files import read_file, read_recipe, write_file

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
        known = range(min(versions.STEPS, default=VERSION), VERSION + 1)
        self.assertLessEqual({f"version-{n}" for n in known}, names)

    def test_every_kind_of_remedy_and_people_say_again_what_was_read(self) -> None:
        document = json.loads(frozen(f"version-{VERSION}-kinds"))
        recipe, _ = read_file(frozen(f"version-{VERSION}-kinds"))
        kinds = [r.kind for r in recipe.casts[0].remedies]
        shaping = ["by-hue", "in-plane", "curves", "channel-mix"]
        self.assertEqual(kinds, ["recolour", "wash", "glaze", "zones", "tone", "calm", *shaping])
        self.assertEqual([p.kind for p in recipe.casts[0].mask.parts], ["people"])
        again = json.loads(recipe.model_dump_json())
        self.assertEqual(again["casts"], document["casts"])

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


class Steps(unittest.TestCase):
    """By two made-up steps: once names were said in capitals, and earlier a picture was carried within."""

    @staticmethod
    def _in_capitals(document: versions.Document, keep: versions.Keep) -> versions.Document:
        casts = [c | {"name": c["name"].lower()} for c in document["casts"]]
        return document | {"casts": casts}

    @staticmethod
    def _picture_within(document: versions.Document, keep: versions.Keep) -> versions.Document:
        picture = document["picture"]
        rest = {name: value for name, value in document.items() if name != "picture"}
        part = {"kind": "picture", "id": "p", "asset": keep(from_base64(picture)).model_dump()}
        return rest | {"casts": [document["casts"][0] | {"mask": {"parts": [part]}}]}

    def setUp(self) -> None:
        steps = {VERSION - 2: self._picture_within, VERSION - 1: self._in_capitals}
        self.enterContext(mock.patch.object(versions, "STEPS", steps))
        whole = json.loads(frozen(f"version-{VERSION}"))
        self.picture = next(iter(whole["assets"].values()))
        self.early = {
            "format": "nubilis-recipe",
            "version": VERSION - 2,
            "picture": self.picture,
            "casts": [{"id": "a", "name": "GLOW"}],
        }

    def test_one_after_another_and_what_was_carried_is_kept_apart(self) -> None:
        recipe, files = read_file(json.dumps(self.early))
        (cast,) = recipe.casts
        self.assertEqual(cast.name, "glow")
        (sha256,) = recipe.assets
        self.assertEqual(files(sha256), base64.b64decode(self.picture))

    def test_a_document_that_is_kept_cannot_bring_a_picture(self) -> None:
        with self.assertRaisesRegex(RecipeError, "with a photo"):
            read_recipe(json.dumps(self.early))

    def test_a_document_that_is_none_of_its_version_is_refused_in_one_line(self) -> None:
        for wrong in ({"casts": 3}, {"casts": [3]}, {"picture": None}):
            with self.assertRaisesRegex(RecipeError, f"not one of version {VERSION - 2}"):
                read_file(json.dumps(self.early | wrong))

    def test_what_is_older_than_the_first_step_is_refused(self) -> None:
        with self.assertRaisesRegex(RecipeError, f"from {VERSION - 2} on"):
            read_recipe(json.dumps(self.early | {"version": VERSION - 3}))


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

    def test_other_versions_are_refused_in_one_line(self) -> None:
        document = json.loads(frozen("numbered"))
        unknown = (
            (VERSION + 1, "reads up to"),
            (0, "unknown"),
            (True, "unknown"),
            (1, "reads from"),
        )
        for version, reason in unknown:
            with self.assertRaisesRegex(RecipeError, reason):
                read_recipe(json.dumps(document | {"version": version}))

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
