"""A look over the photo: casts before and after it, and the promises with it."""

import unittest

import numpy as np

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine, active_casts
from nubilis.errors import PlaceError, RecipeError
from nubilis.look.cube import write_cube
from nubilis.look.through import through
from nubilis.photo.pyramid import View
from nubilis.proof.casts import prove
from nubilis.proof.colour_table import colour_table
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.files import read_file, write_file
from nubilis.remedy.calm import Calm
from nubilis.remedy.look import Look
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift

from .pictures import brush, recipe_for, skin_with_noise, wall_photo, whole
from .test_cube import bent


class Laid(unittest.TestCase):
    def setUp(self) -> None:
        self.photo = wall_photo()
        self.files = Bundle()
        self.look = Look(table=self.files.keep_table(write_cube(bent()), "bent"))
        self.engine = Engine(self.photo, assets=self.files)

    def delivered(self, recipe: Recipe) -> np.ndarray:
        return Engine(self.photo, assets=self.files).deliver(recipe).codes

    def cast(self, after: bool, **more: object) -> Cast:
        (cast,) = recipe_for(self.photo, brush()).casts
        return cast.model_copy(update={"after_look": after, **more})

    def test_it_is_the_table_and_its_strength(self) -> None:
        view = View.fit(self.photo, 300)
        came = self.engine.untouched(view)
        ones = np.ones(came.shape[1:], np.float32)
        for amount in (1.0, 0.4):
            look = self.look.model_copy(update={"amount": amount})
            seen = self.engine.render(Recipe(look=look), view)
            np.testing.assert_allclose(
                seen, through(bent(), came, ones * np.float32(amount)), atol=2e-5
            )
        off = self.look.model_copy(update={"on": False})
        self.assertIs(self.engine.render(Recipe(look=off), view), self.engine.untouched(view))

    def test_outside_the_masks_it_is_the_look_alone_bit_for_bit(self) -> None:
        alone = self.delivered(Recipe(look=self.look))
        casts = (
            self.cast(True, id="b", remedies=(Shift(id="s", hue=40.0, saturation=0.5),)),
            self.cast(False),
        )
        both = self.delivered(Recipe(look=self.look, casts=casts))
        mask = self.engine.mask_codes(casts[0].mask, 16) > 0
        np.testing.assert_array_equal(both[~mask], alone[~mask])
        self.assertGreater(int(np.abs(both.astype(int) - alone)[mask].max()), 10)

    def test_casts_act_in_their_order_whatever_the_list_says(self) -> None:
        casts = (self.cast(True, id="late"), self.cast(False, id="early"))
        recipe = Recipe(look=self.look, casts=casts)
        self.assertEqual([c.id for c in active_casts(recipe)], ["early", "look", "late"])

    def test_what_one_sees_is_what_is_delivered(self) -> None:
        shift = (Shift(id="s", hue=20.0),)
        casts = (self.cast(False), self.cast(True, id="b", remedies=shift))
        recipe = Recipe(look=self.look, casts=casts)
        codes = self.delivered(recipe)
        view = View.fit(self.photo, 150)
        seen = self.engine.render(recipe, view)
        made = Engine(self.photo.__class__(codes, self.photo.profile)).untouched(view)
        off = difference_plane(*(lab_planes(np.maximum(v, 0.0)) for v in (seen, made)))
        self.assertLess(float(off.mean()), 0.3)

    def test_a_cast_after_the_look_is_measured_on_it(self) -> None:
        """The glow on the wall is taken off as well after the look as before it."""
        view = self.engine.analysis_view

        def glow(recipe: Recipe) -> float:
            lab = lab_planes(self.engine.render(recipe, view))[1:, 60:140]
            return float(np.hypot(*(lab[..., 5:40] - lab[..., 180:215]).mean(axis=(1, 2))))

        was = glow(Recipe(look=self.look))
        left = glow(Recipe(look=self.look, casts=(self.cast(True),)))
        self.assertLess(left, 0.35 * was)

    def test_a_region_is_saved_from_the_look(self) -> None:
        first = self.cast(False)
        back = Restore(id="r", to="before-look")
        saved = Recipe(look=self.look, casts=(first, self.cast(True, id="b", remedies=(back,))))
        without = self.delivered(Recipe(casts=(first,)))
        mask = self.engine.mask_codes(first.mask, 16) == 65535
        np.testing.assert_allclose(self.delivered(saved)[mask].astype(int), without[mask], atol=1)
        # Without a look there is nothing to go back to.
        same = Recipe(casts=(first, self.cast(True, id="b", remedies=(back,))))
        np.testing.assert_array_equal(self.delivered(same), without)

    def test_the_proof_counts_from_the_look(self) -> None:
        recipe = Recipe(look=self.look, casts=(self.cast(False),))
        outside = prove(self.engine, recipe).outside
        self.assertEqual(outside.most if outside else None, 0.0)

    def test_it_travels_with_its_table(self) -> None:
        recipe = Recipe(look=self.look)
        again, files = read_file(write_file(recipe, self.files))
        self.assertEqual(again, recipe)
        self.assertEqual(files(self.look.table.sha256), self.files(self.look.table.sha256))
        with self.assertRaisesRegex(RecipeError, "not here"):
            Engine(self.photo).deliver(recipe)


class Exported(unittest.TestCase):
    """The colour part as a table."""

    def test_as_a_look_on_another_photo_it_does_what_the_remedies_do(self) -> None:
        photo, files = wall_photo(), Bundle()
        cast = whole(Shift(id="s", hue=25.0, saturation=0.3))
        made = colour_table(Engine(photo), Recipe(casts=(cast,)), size=33)
        self.assertLess(made.mean, 0.3)
        self.assertEqual(made.left_out, ("masks",))
        table = files.keep_table(write_cube(made.cube))
        other = skin_with_noise()
        by_table = Engine(other, assets=files).deliver(Recipe(look=Look(table=table))).codes
        by_remedy = Engine(other).deliver(Recipe(casts=(cast,))).codes
        apart = np.abs(by_table.astype(int) - by_remedy)
        self.assertLessEqual(int(np.percentile(apart, 99)), 2)

    def test_what_it_cannot_carry_is_named(self) -> None:
        photo = wall_photo()
        (cast,) = recipe_for(photo, brush()).casts
        recipe = Recipe(
            casts=(cast.model_copy(update={"remedies": (*cast.remedies, Calm(id="n"))}),)
        )
        made = colour_table(Engine(photo), recipe, cast.id, 17)
        self.assertEqual(
            made.left_out, ("masks", "amounts that differ from place to place", "noise")
        )
        with self.assertRaises(PlaceError):
            colour_table(Engine(photo), recipe, "nobody")
        with self.assertRaises(PlaceError):
            colour_table(Engine(photo), recipe, size=5)
