"""The base: at rest it is nothing; light, tone and saturation do what their units say."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.cast.chroma import luminance_of
from nubilis.colour.cielab import lab_planes
from nubilis.colour.temperature import balance_matrix, light_of_neutral, light_xyz, locus
from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.proof.casts import prove
from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_recipe, write_file
from nubilis.settle.apply import settled, settled_colour
from nubilis.settle.base import NEUTRAL_KELVIN, RESTING, Base
from nubilis.settle.tone import curve

from .effort import examples
from .pictures import brush, recipe_for, wall_photo

signed = st.floats(-1.0, 1.0)


class Light(unittest.TestCase):
    def test_the_locus_passes_through_known_black_bodies(self) -> None:
        # Chromaticities of Planck's law in CIE 1960 (Wyszecki and Stiles 1982, table 1(3.11)).
        known = {
            2000.0: (0.30505, 0.35907),
            5000.0: (0.21142, 0.32312),
            10000.0: (0.19032, 0.29326),
        }
        for kelvin, uv in known.items():
            np.testing.assert_allclose(locus(np.array([kelvin]))[0], uv, atol=6e-4)

    @given(st.floats(2500.0, 12000.0), st.floats(-15.0, 15.0))
    @settings(max_examples=examples(60))
    def test_a_picked_neutral_becomes_neutral(self, kelvin: float, tint: float) -> None:
        red, green, blue = np.linalg.inv(balance_matrix(kelvin, tint)) @ np.full(3, 0.3)
        found = light_of_neutral((red, green, blue))
        self.assertAlmostEqual(found[0] / kelvin, 1.0, delta=0.02)
        self.assertAlmostEqual(found[1], tint, delta=0.5)
        neutral = settled_colour((red, green, blue), Base(temperature=found[0], tint=found[1]))
        self.assertLess(max(neutral) / min(neutral), 1.01)

    def test_warm_light_is_taken_off_by_blue(self) -> None:
        r, _, b = settled_colour((0.4, 0.4, 0.4), Base(temperature=3200.0))
        self.assertGreater(b, r)
        r, g, _ = settled_colour((0.4, 0.4, 0.4), Base(tint=20.0))
        self.assertGreater(r, g)  # greenish light is answered by magenta

    def test_a_light_has_the_luminance_one(self) -> None:
        self.assertEqual(light_xyz(NEUTRAL_KELVIN, 0.0)[1], 1.0)


class Tone(unittest.TestCase):
    @given(signed, signed, signed, st.floats(-0.1, 0.4), st.floats(0.6, 1.3))
    @settings(max_examples=examples(200))
    def test_no_tones_swap_places(
        self, contrast: float, highlights: float, shadows: float, black: float, white: float
    ) -> None:
        base = Base(
            contrast=contrast, highlights=highlights, shadows=shadows, black=black, white=white
        )
        self.assertTrue((np.diff(curve(np.linspace(0.0, 1.5, 400), base)) >= -1e-9).all())

    def test_settings_go_the_way_their_names_say(self) -> None:
        dark, mid, light = (0.03,) * 3, (0.125,) * 3, (0.6,) * 3
        for base, colour, up in (
            (Base(shadows=0.5), dark, True),
            (Base(shadows=-0.5), dark, False),
            (Base(highlights=0.5), light, True),
            (Base(contrast=0.5), dark, False),
            (Base(contrast=0.5), light, True),
            (Base(black=0.1), dark, False),
            (Base(white=0.9), light, True),
        ):
            self.assertEqual(settled_colour(colour, base)[1] > colour[1], up, base)
        self.assertAlmostEqual(settled_colour(mid, Base(contrast=0.5))[1], 0.125, places=3)

    def test_a_stop_doubles(self) -> None:
        red, green, blue = settled_colour((0.1, 0.2, 0.05), Base(exposure=1.0))
        np.testing.assert_allclose((red, green, blue), (0.2, 0.4, 0.1), rtol=1e-4)


class Saturation(unittest.TestCase):
    def test_none_is_grey_of_the_same_luminance(self) -> None:
        colour = (0.4, 0.2, 0.1)
        grey = settled_colour(colour, Base(saturation=-1.0))
        np.testing.assert_allclose(grey, luminance_of(colour), rtol=1e-3)


class Settled(unittest.TestCase):
    base = Base(temperature=4800.0, exposure=0.4, contrast=0.3, saturation=-0.2)

    def setUp(self) -> None:
        self.photo = wall_photo()
        self.engine = Engine(self.photo)
        self.recipe = recipe_for(self.photo, brush(0.4, 0.5, points=(((0.4, 0.3), 1.0),)))
        self.view = View.fit(self.photo, 200)

    def with_base(self, base: Base) -> Recipe:
        return self.recipe.model_copy(update={"base": base})

    def test_at_rest_or_switched_off_it_is_the_identity(self) -> None:
        rgb = self.engine.untouched(self.view)
        self.assertIs(settled(rgb, RESTING), rgb)
        off = self.base.model_copy(update={"on": False})
        np.testing.assert_array_equal(
            self.engine.deliver(self.with_base(off)).codes, self.engine.deliver(self.recipe).codes
        )

    def test_outside_the_masks_only_the_base_acts(self) -> None:
        recipe = self.with_base(self.base)
        mask = self.engine.mask(recipe.casts[0].mask, self.view, recipe.state)
        done = self.engine.render(recipe, self.view)
        before = self.engine.settled(self.view, recipe.state)
        np.testing.assert_array_equal(done[:, mask == 0.0], before[:, mask == 0.0])
        self.assertFalse(np.array_equal(done, before))
        self.assertEqual(prove(self.engine, recipe).outside.most, 0.0)

    def test_preview_and_delivery_agree(self) -> None:
        recipe = self.with_base(self.base)
        full = View.fit(self.photo, self.photo.long_edge)
        shown = lab_planes(np.clip(self.engine.render(recipe, full), 0.0, 1.0))
        delivered = lab_planes(Engine(self.engine.deliver(recipe)).untouched(full))
        self.assertLess(float(np.abs(shown - delivered).mean()), 0.3)

    def test_casts_are_measured_on_the_settled_photo(self) -> None:
        """A neutralised place stays neutralised when the base changes afterwards."""
        everywhere = recipe_for(self.photo)
        for base in (RESTING, self.base):
            recipe = everywhere.model_copy(update={"base": base})
            proof = prove(self.engine, recipe).casts[0]
            assert proof.before is not None and proof.after is not None
            self.assertLess(proof.after, 0.35 * proof.before)

    def test_it_is_kept_in_the_recipe(self) -> None:
        recipe = self.with_base(self.base)
        self.assertEqual(read_recipe(write_file(recipe)), recipe)
