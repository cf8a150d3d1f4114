"""The engine's promises: nothing outside the mask moves, preview and delivery agree, lightness stays."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine import engine as engine_module
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import decode
from nubilis.recipe.document import Recipe

from .effort import examples
from .pictures import brush, random_codes, recipe_for, wall_photo, warm_key


def full_mask(engine: Engine, recipe: Recipe) -> np.ndarray:
    photo = engine.photo
    view = View((photo.width, photo.height), (0, 0, photo.width, photo.height))
    return np.max([engine.mask(c.mask, view) for c in recipe.casts], axis=0)


class Identity(unittest.TestCase):
    @given(
        st.floats(0.02, 0.6),
        st.floats(0.0, 1.0),
        st.tuples(st.floats(-0.2, 1.0), st.floats(-0.2, 0.8)),
        st.sampled_from([8, 16]),
        st.booleans(),
    )
    @settings(max_examples=examples(15))
    def test_code_values_outside_the_mask_are_the_input_s(
        self, size: float, feather: float, at: tuple[float, float], bits: int, keyed: bool
    ) -> None:
        photo = wall_photo(bits=bits)
        painted = brush(size, feather, points=((at, 1.0), ((0.1, 0.3), 1.0)))
        recipe = recipe_for(photo, *([painted, warm_key()] if keyed else [painted]))
        engine = Engine(photo)
        outside = full_mask(engine, recipe) == 0.0
        done = engine.deliver(recipe)
        np.testing.assert_array_equal(done.codes[outside], photo.codes[outside])

    def test_inside_something_happens(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo)
        engine = Engine(photo)
        inside = full_mask(engine, recipe) > 0.9
        self.assertGreater((engine.deliver(recipe).codes != photo.codes)[inside].mean(), 0.3)

    def test_amount_zero_is_the_identity(self) -> None:
        photo = Photo(random_codes(60, 90), wall_photo().profile)
        recipe = recipe_for(photo, Whole(id="whole"), amount=0.0)
        np.testing.assert_array_equal(Engine(photo).deliver(recipe).codes, photo.codes)

    def test_switched_off_or_unmasked_is_the_identity(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, Whole(id="whole"))
        cast = recipe.casts[0]
        off = cast.model_copy(update={"on": False})
        bare = cast.model_copy(update={"mask": Mask()})
        still = cast.model_copy(
            update={"remedies": (cast.remedies[0].model_copy(update={"on": False}),)}
        )
        for one in (off, bare, still):
            done = Engine(photo).deliver(Recipe(casts=(one,)))
            np.testing.assert_array_equal(done.codes, photo.codes)


class OneTruth(unittest.TestCase):
    def test_preview_equals_the_delivery_scaled_down(self) -> None:
        photo = wall_photo(1200, 1800)
        for parts in ([brush(0.4, 0.8)], [brush(0.9, 0.3), warm_key()]):
            recipe = recipe_for(photo, *parts)
            engine = Engine(photo)
            delivered = engine.deliver(recipe)
            for long_edge in (1800, 1100, 600, 333):
                view = View.fit(photo, long_edge)
                preview = engine.render(recipe, view)
                reduced = Engine(delivered).untouched(view)
                off = difference_plane(lab_planes(preview), lab_planes(reduced))
                with self.subTest(long_edge):
                    self.assertLess(float(off.mean()), 0.3)
                    self.assertLess(float(np.percentile(off, 99)), 1.5)

    def test_a_region_is_a_cut_of_the_whole(self) -> None:
        photo = wall_photo(400, 600)
        recipe = recipe_for(photo, brush(0.4, 0.8), warm_key())
        engine = Engine(photo)
        for size in ((600, 400), (450, 300)):
            whole = engine.render(recipe, View(size, (0, 0, *size)))
            part = engine.render(recipe, View(size, (21, 13, 222, 187)))
            np.testing.assert_allclose(part, whole[:, 13:187, 21:222], atol=2e-5)

    def test_delivery_in_tiles_equals_delivery_whole(self) -> None:
        photo = wall_photo(300, 500)
        recipe = recipe_for(photo, brush(0.5, 0.7), warm_key())
        whole = Engine(photo).deliver(recipe).codes
        with mock.patch.object(engine_module, "TILE", (37, 91)):
            tiled = Engine(photo).deliver(recipe).codes
        # Soft brushes are read from a grid: a value may fall on the other side of a rounding.
        self.assertLessEqual(int(np.abs(tiled.astype(int) - whole).max()), 1)
        self.assertLess(float((tiled != whole).mean()), 1e-3)

    def test_delivery_is_what_is_rendered(self) -> None:
        photo = wall_photo(bits=16)
        recipe = recipe_for(photo)
        engine = Engine(photo)
        view = View((photo.width, photo.height), (0, 0, photo.width, photo.height))
        rendered = engine.render(recipe, view)
        delivered = decode(engine.deliver(recipe).codes, photo.profile)
        np.testing.assert_allclose(delivered, rendered, atol=3e-4)

    def test_cached_answers_are_the_same(self) -> None:
        photo = wall_photo()
        engine = Engine(photo)
        view = View.fit(photo, 200)
        first = [recipe_for(photo, brush(), amount=a) for a in (0.3, 1.0, 0.3)]
        answers = [engine.render(r, view) for r in first]
        np.testing.assert_array_equal(answers[0], answers[2])
        np.testing.assert_array_equal(answers[1], Engine(photo).render(first[1], view))


class Lightness(unittest.TestCase):
    def test_lightness_is_held_inside_the_mask(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, Whole(id="whole"))
        before = lab_planes(decode(photo.codes, photo.profile))[0]
        after = lab_planes(decode(Engine(photo).deliver(recipe).codes, photo.profile))[0]
        self.assertLess(float(np.abs(after - before).mean()), 0.5)


class Progress(unittest.TestCase):
    def test_progress_is_told_and_can_cancel(self) -> None:
        photo = wall_photo(700, 90)
        recipe = recipe_for(photo, Whole(id="whole"))
        told: list[float] = []
        Engine(photo).deliver(recipe, progress=told.append)
        self.assertEqual(told[-1], 1.0)
        self.assertEqual(told, sorted(told))

        def stop(_: float) -> None:
            raise InterruptedError

        with self.assertRaises(InterruptedError):
            Engine(photo).deliver(recipe, progress=stop)

    def test_in_place_writes_into_the_photo(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo)
        expected = Engine(photo).deliver(recipe).codes
        done = Engine(photo).deliver(recipe, in_place=True)
        self.assertIs(done.codes, photo.codes)
        np.testing.assert_array_equal(done.codes, expected)
