"""A look over the photo: casts before and after it, and the promises with it."""

import unittest
from dataclasses import replace

import numpy as np

from nubilis.arrays import Codes
from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.colour.profile import read_profile
from nubilis.engine.acting import active_casts
from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError, RecipeError
from nubilis.library.looks import own_table
from nubilis.look.cube import write_cube
from nubilis.look.through import looked_up, through
from nubilis.photo.pyramid import View
from nubilis.proof.casts import prove
from nubilis.proof.colour_table import colour_table
from nubilis.proof.shaping import shaping
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.files import read_file, write_file
from nubilis.remedy.calm import Calm
from nubilis.remedy.look import Look
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift

from .pictures import brush, recipe_for, skin_with_noise, wall_photo, whole
from .test_cube import bent
from .test_profiles import parametric, profile_with

# Display P3's colorants under D50.
P3 = ((0.5151, 0.2412, -0.0011), (0.2920, 0.6922, 0.0419), (0.1571, 0.0666, 0.7841))


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

    def test_in_a_photo_s_own_codes_it_needs_no_profile_to_be_right(self) -> None:
        """Code values through the table are the delivered ones."""
        wide = read_profile(profile_with(parametric(0, 1.8), P3))
        photo = replace(wall_photo(), profile=wide)
        cast = whole(Shift(id="s", hue=25.0, saturation=0.1))
        made = colour_table(Engine(photo), Recipe(casts=(cast,)), space=wide)
        self.assertLess(made.mean, 0.3)
        self.assertIn(wide.name, made.cube.title)
        codes = np.moveaxis(photo.codes, 2, 0).reshape(3, -1) / np.float32(255.0)
        by_table = looked_up(made.cube, codes.astype(np.float32)).reshape(3, *photo.codes.shape[:2])
        by_engine = Engine(photo).deliver(Recipe(casts=(cast,))).codes
        apart = np.abs(np.moveaxis(by_table, 0, 2) * 255.0 - by_engine)
        self.assertLess(float(np.percentile(apart, 99)), 2.0)

    def test_shaping_with_a_look_counts_what_stands_before_the_cast(self) -> None:
        photo, files = wall_photo(), Bundle()
        look = Look(table=files.keep_table(own_table("Plaster")))
        cast = whole(Shift(id="s"))
        engine = Engine(photo, assets=files)

        def plane(over: Look | None, after: bool) -> Codes:
            casts = (cast.model_copy(update={"after_look": after}),)
            return shaping(engine, Recipe(look=over, casts=casts), cast.id, "s").plane

        bare = plane(None, False)
        np.testing.assert_array_equal(plane(look, False), bare)
        self.assertTrue((plane(look, True) != bare).any())

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
