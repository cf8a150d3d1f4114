"""Masks lent from cast to cast, and casts that photos share."""

import unittest

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import RecipeError
from nubilis.mask.combine import AnyPart, Lent, Mask
from nubilis.mask.oval import Oval
from nubilis.mask.refine import Refine
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.files import read_recipe, write_file
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.shift import Shift

from .pictures import wall_photo

OVAL = Oval(id="oval", centre=(0.4, 0.3), radii=(0.2, 0.1))


def cast(name: str, *parts: AnyPart, refine: Refine = Refine()) -> Cast:
    return Cast(id=name, mask=Mask(parts=parts, refine=refine))


def lent(of: str, **more: object) -> Lent:
    return Lent.model_validate({"id": f"of-{of}", "cast": of, **more})


class Lending(unittest.TestCase):
    def mask(self, recipe: Recipe, number: int) -> np.ndarray:
        return Engine(wall_photo()).mask(
            recipe.casts[number].mask, View((300, 200), (0, 0, 300, 200))
        )

    def test_it_is_the_other_s_mask_refined_as_there(self) -> None:
        refine = Refine(soften=0.03)
        recipe = Recipe(casts=(cast("a", OVAL, refine=refine), cast("b", lent("a"))))
        np.testing.assert_array_equal(self.mask(recipe, 1), self.mask(recipe, 0))
        inverted = Recipe(casts=(cast("a", OVAL), cast("b", lent("a", invert=True))))
        np.testing.assert_allclose(self.mask(inverted, 1), 1.0 - self.mask(inverted, 0), atol=1e-6)

    def test_over_several_casts_and_through_a_file(self) -> None:
        recipe = Recipe(casts=(cast("c", lent("b")), cast("b", lent("a")), cast("a", OVAL)))
        text = write_file(recipe)
        self.assertNotIn('"mask": null', text)
        self.assertEqual(text.count('"oval"'), 2)  # its kind and its id, once
        again = read_recipe(text)
        self.assertEqual(again, recipe)
        np.testing.assert_array_equal(self.mask(again, 0), self.mask(recipe, 2))

    def test_it_reaches_as_far_as_the_other(self) -> None:
        recipe = Recipe(casts=(cast("a", OVAL), cast("b", lent("a"))))
        one, two = (c.mask.reach((300, 200)) for c in recipe.casts)
        self.assertEqual(one, two)

    def test_circles_and_missing_casts_are_refused_in_words(self) -> None:
        circle = '[{"id":"a","mask":{"parts":[{"kind":"lent","id":"p","cast":"b"}]}},'
        circle += '{"id":"b","mask":{"parts":[{"kind":"lent","id":"p","cast":"a"}]}}]'
        missing = '[{"id":"a","mask":{"parts":[{"kind":"lent","id":"p","cast":"gone"}]}}]'
        for casts, words in ((circle, "circle"), (missing, "not there")):
            with self.assertRaisesRegex(RecipeError, words):
                read_recipe(f'{{"format":"nubilis-recipe","version":6,"casts":{casts}}}')


class Sharing(unittest.TestCase):
    def setUp(self) -> None:
        self.original = Cast(
            id="original",
            mask=Mask(parts=(OVAL, Whole(id="whole", join="intersect"))),
            remedies=(Neutralise(id="n", amount=1.0), Shift(id="s")),
        )
        self.copy = self.original.model_copy(
            update={"id": "copy", "link": self.original.linked(), "name": "There"}
        )

    def change(self, of: Cast, **more: object) -> Cast:
        return of.model_copy(update=more)

    def test_changes_are_carried_over(self) -> None:
        moved = OVAL.model_copy(update={"centre": (0.6, 0.3)})
        changed = self.change(self.original, mask=Mask(parts=(moved,), refine=Refine(grow=0.01)))
        there = changed.carried_over(self.copy)
        self.assertEqual(there.mask, changed.mask)
        self.assertEqual((there.id, there.name), ("copy", "There"))

    def test_what_was_touched_up_there_stays(self) -> None:
        mine = Neutralise(id="n", amount=0.4)
        own = Whole(id="own", join="subtract", strength=0.2)
        touched = self.change(
            self.copy,
            remedies=(mine, *self.copy.remedies[1:]),
            mask=Mask(parts=(*self.copy.mask.parts, own)),
        )
        changed = self.change(
            self.original, remedies=(Neutralise(id="n", amount=0.9), Shift(id="s", hue=30.0))
        )
        there = changed.carried_over(touched)
        self.assertEqual(there.remedies, (mine, changed.remedies[1]))
        self.assertEqual(there.mask.parts[-1], own)
        # And again: what is touched up stays so.
        again = self.change(changed, remedies=(Neutralise(id="n", amount=0.1),)).carried_over(there)
        self.assertEqual(again.remedies, (mine,))

    def test_added_and_deleted_on_either_side(self) -> None:
        added = Whole(id="new", join="subtract")
        changed = self.change(self.original, mask=Mask(parts=(OVAL, added)))
        self.assertEqual(
            [p.id for p in changed.carried_over(self.copy).mask.parts], ["oval", "new"]
        )
        without = self.change(self.copy, remedies=self.copy.remedies[:1])
        self.assertEqual([r.id for r in self.original.carried_over(without).remedies], ["n"])

    def test_a_copy_carries_over_to_the_original(self) -> None:
        changed = self.change(self.copy, remedies=(Neutralise(id="n", amount=0.2),))
        there = changed.carried_over(self.original)
        self.assertEqual(there.remedies, changed.remedies)
        self.assertEqual(there.shared_id, "original")


if __name__ == "__main__":
    unittest.main()
