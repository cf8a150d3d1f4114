"""Figures: samples, distances, what moved; and the mask as it is shown."""

import unittest
from dataclasses import replace

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Show, display
from nubilis.engine.sample import measure_place, neutral_of, patch_around
from nubilis.errors import PlaceError, ShapeError
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.planning import sample_at
from nubilis.proof.casts import hue_word, prove
from nubilis.proof.compare import compare, unchanged_share
from nubilis.recipe.document import Guard, Pair, Recipe

from .pictures import brush, random_codes, recipe_for, wall_photo


class Samples(unittest.TestCase):
    def setUp(self) -> None:
        codes = np.full((40, 60, 3), (200, 150, 100), dtype=np.uint8)
        codes[18:22, 28:32] = 0  # a speck
        self.engine = Engine(Photo(codes, wall_photo().profile))

    def test_a_speck_does_not_count(self) -> None:
        measured = measure_place(self.engine, (30 / 60, 20 / 60), 8 / 60)
        self.assertEqual(measured.codes, (200, 150, 100))
        self.assertEqual(measured.display, (200, 150, 100))
        self.assertGreater(measured.count, 100)

    def test_a_radius_of_zero_is_one_pixel(self) -> None:
        self.assertEqual(measure_place(self.engine, (30 / 60, 20 / 60), 0.0).codes, (0, 0, 0))

    def test_corners_count_what_is_there(self) -> None:
        for at in ((0.0, 0.0), (59.9 / 60, 39.9 / 60)):
            self.assertEqual(measure_place(self.engine, at, 0.1).codes, (200, 150, 100))

    def test_places_outside_are_refused(self) -> None:
        for at in ((1.0, 0.1), (0.1, 40 / 60), (-0.01, 0.1)):
            with self.assertRaises(PlaceError):
                measure_place(self.engine, at)
        with self.assertRaises(PlaceError):
            sample_at(self.engine, (60.0, 3.0))

    def test_a_made_neutral_keeps_the_luminance(self) -> None:
        grey = neutral_of(measure_place(self.engine, (0.1, 0.1)).rgb)
        self.assertEqual(len(set(grey)), 1)

    def test_the_patch_is_the_photo_s_own_pixels(self) -> None:
        patch = patch_around(self.engine, (30.5 / 60, 20.5 / 60), 5)
        self.assertEqual(patch.shape, (3, 11, 11))
        self.assertEqual(float(patch[:, 5, 5].max()), 0.0)
        corner = patch_around(self.engine, (0.5 / 60, 0.5 / 60), 5)
        self.assertEqual(corner.shape, (3, 11, 11))
        np.testing.assert_array_equal(corner[:, 0, 0], corner[:, 5, 5])


class Figures(unittest.TestCase):
    def setUp(self) -> None:
        self.photo = wall_photo(300, 450)
        self.engine = Engine(self.photo)
        self.recipe = recipe_for(self.photo, Whole(id="whole"))

    def test_the_cast_goes_and_its_figures_say_so(self) -> None:
        proof = prove(self.engine, self.recipe)
        cast = proof.casts[0]
        assert cast.before is not None and cast.after is not None
        self.assertGreater(cast.before, 8.0)
        self.assertLess(cast.after, 0.15 * cast.before)
        self.assertEqual(cast.towards, "red")
        self.assertLess(abs(cast.lightness_change), 0.3)
        self.assertEqual(cast.area, 1.0)
        self.assertEqual(proof.outside.most, 0.0)

    def test_outside_a_brush_nothing_moves(self) -> None:
        proof = prove(self.engine, recipe_for(self.photo, brush(0.2)))
        self.assertEqual(proof.outside.most, 0.0)
        self.assertGreater(proof.inside.mean, 0.5)
        edge = proof.casts[0].edge
        assert edge is not None
        self.assertAlmostEqual(edge[0], 0.1, delta=0.02)
        self.assertLess(edge[1], 0.1)

    def test_a_waiting_pair_is_shown_but_not_counted(self) -> None:
        cast = self.recipe.casts[0]
        waiting = Pair(id="waiting", tainted=cast.pairs[0].tainted)
        both = cast.model_copy(update={"pairs": (*cast.pairs, waiting)})
        proof = prove(self.engine, Recipe(casts=(both,))).casts[0]
        self.assertIsNone(proof.pairs[1].should_be)
        self.assertIsNone(proof.pairs[1].after)
        self.assertEqual(proof.before, proof.pairs[0].before)
        alone = cast.model_copy(update={"pairs": (waiting,)})
        proof = prove(self.engine, Recipe(casts=(alone,))).casts[0]
        self.assertEqual((proof.before, proof.offset_before, proof.towards), (None, None, None))

    def test_a_guard_is_verified(self) -> None:
        cast = self.recipe.casts[0]
        guard = Guard(id="g", sample=sample_at(self.engine, (5.0, 20.0)))
        free = prove(self.engine, Recipe(casts=(cast,)))
        held = prove(self.engine, Recipe(casts=(cast.model_copy(update={"guards": (guard,)}),)))
        self.assertEqual(free.casts[0].guards, ())
        self.assertLess(held.casts[0].guards[0].moved, 1.5)

    def test_no_casts_at_all(self) -> None:
        proof = prove(self.engine, Recipe())
        self.assertEqual((proof.casts, proof.outside.most, proof.inside.mean), ((), 0.0, 0.0))

    def test_hues_have_words(self) -> None:
        for offset, word in (
            ((9, 4), "red"),
            ((0, 9), "yellow"),
            ((-9, 1), "green"),
            ((1, -9), "blue"),
        ):
            self.assertEqual(hue_word(offset), word)
        self.assertEqual(hue_word((9, -0.001)), "pink")
        self.assertIsNone(hue_word((0.1, 0.1)))


class Comparing(unittest.TestCase):
    def test_inside_and_outside(self) -> None:
        before = Photo(random_codes(600, 20), wall_photo().profile)
        codes = before.codes.copy()
        codes[:100] = 255 - codes[:100]
        after = replace(before, codes=codes)
        inside = np.zeros((600, 20), dtype=bool)
        inside[:100] = True
        told = compare(before, after, inside)
        assert told.inside is not None and told.outside is not None
        self.assertGreater(told.inside.mean, 10.0)
        self.assertEqual((told.outside.mean, told.outside.most), (0.0, 0.0))
        self.assertEqual(told.changed_codes_outside, 0)
        self.assertAlmostEqual(told.inside.share, 1 / 6)
        self.assertAlmostEqual(unchanged_share(before, after), 5 / 6)

    def test_sizes_must_agree(self) -> None:
        one = Photo(random_codes(4, 4), wall_photo().profile)
        two = Photo(random_codes(4, 5), wall_photo().profile)
        for call in (lambda: compare(one, two), lambda: unchanged_share(one, two)):
            with self.assertRaises(ShapeError):
                call()
        with self.assertRaises(ShapeError):
            compare(one, one, np.zeros((2, 2), dtype=bool))


class Showing(unittest.TestCase):
    def setUp(self) -> None:
        self.photo = wall_photo()
        self.engine = Engine(self.photo)
        self.recipe = recipe_for(self.photo, brush(0.5, 0.2))
        self.view = View.fit(self.photo, 300)

    def shown(self, show: Show) -> np.ndarray:
        return display(self.engine, self.recipe, self.view, show, "cast")

    def test_before_is_the_photo(self) -> None:
        np.testing.assert_array_equal(self.shown(Show.BEFORE), self.photo.codes)

    def test_now_differs_only_inside(self) -> None:
        outside = self.engine.mask(self.recipe.casts[0].mask, self.view) == 0
        np.testing.assert_array_equal(self.shown(Show.NOW)[outside], self.photo.codes[outside])

    def test_matte_is_the_mask(self) -> None:
        mask = self.engine.mask(self.recipe.casts[0].mask, self.view)
        np.testing.assert_allclose(self.shown(Show.MATTE)[..., 0] / 255, mask, atol=0.003)

    def test_hatch_is_drawn_inside_only_and_in_another_hue(self) -> None:
        mask = self.engine.mask(self.recipe.casts[0].mask, self.view)
        drawn = (self.shown(Show.HATCH) != self.shown(Show.NOW)).any(axis=2)
        self.assertGreater(drawn[mask > 0.9].mean(), 0.05)
        self.assertLess(drawn[mask > 0.9].mean(), 0.4)
        self.assertFalse(drawn[mask == 0].any())

    def test_isolate_takes_the_colour_outside(self) -> None:
        mask = self.engine.mask(self.recipe.casts[0].mask, self.view)
        outside = self.shown(Show.ISOLATE)[mask == 0]
        self.assertLessEqual(int(np.ptp(outside.astype(int), axis=1).max()), 1)

    def test_an_unknown_cast_shows_the_picture(self) -> None:
        now = display(self.engine, self.recipe, self.view, Show.MATTE, None)
        np.testing.assert_array_equal(now, self.shown(Show.NOW))
