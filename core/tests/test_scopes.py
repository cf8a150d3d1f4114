"""The instruments: densities where the colours are, outlines round them, skin against its line."""

import unittest

import numpy as np

from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError
from nubilis.people.people import Face
from nubilis.photo.picture import Photo
from nubilis.proof.plane import BINS, density, outline
from nubilis.proof.scopes import Area, scopes
from nubilis.recipe.document import Recipe
from nubilis.settle.base import Base

from .pictures import brush, recipe_for, wall_photo


def flat(*colours: tuple[int, int, int]) -> Engine:
    """Stripes of equal width."""
    codes = np.repeat(np.array(colours, dtype=np.uint8), 120 // len(colours), axis=0)
    return Engine(Photo(np.repeat(codes[None], 80, axis=0), srgb()))


def centre(alpha: np.ndarray) -> tuple[float, float]:
    """Weighted middle of what is drawn, in -1..1, y upward."""
    ys, xs = np.mgrid[:BINS, :BINS]
    weight = alpha / alpha.sum()
    return (
        float((xs * weight).sum() + 0.5) * 2 / BINS - 1,
        1 - float((ys * weight).sum() + 0.5) * 2 / BINS,
    )


class Planes(unittest.TestCase):
    def test_a_colour_stands_where_its_coordinates_are(self) -> None:
        x = np.full((4, 4), 0.25, dtype=np.float32)
        of = density(x, -x, np.ones_like(x), 0.5)
        at = centre(of)
        np.testing.assert_allclose(at, (0.5, -0.5), atol=1.5 / BINS)
        (line,) = outline(of)
        np.testing.assert_allclose(np.mean(line, axis=0), (0.5, -0.5), atol=0.05)

    def test_nothing_has_no_outline(self) -> None:
        nothing = np.zeros((4, 4), dtype=np.float32)
        self.assertEqual(outline(density(nothing, nothing, nothing, 1.0)), ())


class Areas(unittest.TestCase):
    def setUp(self) -> None:
        self.engine = flat((200, 60, 60), (60, 60, 200))

    def test_red_lies_up_and_blue_to_the_right(self) -> None:
        for box, way in (((0.0, 0.0, 0.4, 0.6), 1), ((0.6, 0.0, 1.0, 0.6), 0)):
            alpha = scopes(self.engine, Recipe(), Area(box=box)).vectorscope.picture[..., 3]
            self.assertGreater(centre(alpha.astype(float))[way], 0.2)

    def test_zoom_moves_colours_outward(self) -> None:
        engine = flat((140, 120, 120))
        near, far = (
            centre(scopes(engine, Recipe(), zoom=z).ab.picture[..., 3].astype(float))
            for z in (1.0, 4.0)
        )
        self.assertAlmostEqual(far[0], 4 * near[0], delta=0.08)

    def test_levels_count_where_the_light_is(self) -> None:
        seen = scopes(flat((0, 0, 0), (255, 255, 255)), Recipe())
        self.assertGreater(seen.before[0, 0], 0.9)
        self.assertGreater(seen.before[0, -1], 0.9)
        self.assertLess(seen.before[0, 10:50].max(), 0.01)
        # The fullest of before is 1; without any light there is nothing to divide by.
        many = scopes(flat((0, 0, 0), (255, 255, 255), (255, 255, 255)), Recipe())
        self.assertAlmostEqual(float(many.before.max()), 1.0, places=6)
        self.assertLessEqual(float(many.now.max()), 1.0 + 1e-6)

    def test_a_mask_s_colours_move_with_its_amount_and_the_photo_s_before_stays(self) -> None:
        photo = wall_photo()
        engine = Engine(photo)
        recipe = recipe_for(photo, brush(0.4, 0.3, points=(((0.4, 0.3), 1.0),)))
        area = Area(cast=recipe.casts[0].id)
        weak = recipe.casts[0].model_copy(
            update={"remedies": (recipe.casts[0].remedies[0].model_copy(update={"amount": 0.1}),)}
        )
        one = scopes(engine, recipe, area)
        two = scopes(engine, recipe.model_copy(update={"casts": (weak,)}), area)
        self.assertFalse(np.array_equal(one.ab.picture, two.ab.picture))
        self.assertEqual(one.ab.outline, two.ab.outline)

    def test_an_empty_mask_is_said_to_be_empty(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, brush(0.01, 0.3, points=(((1.9, 1.9), 1.0),)))
        self.assertTrue(scopes(Engine(photo), recipe, Area(cast=recipe.casts[0].id)).empty)

    def test_an_unknown_cast_is_refused(self) -> None:
        with self.assertRaises(PlaceError):
            scopes(self.engine, Recipe(), Area(cast="nowhere"))


class SkinLine(unittest.TestCase):
    def test_an_ordinary_skin_lies_near_the_line_and_a_green_one_does_not(self) -> None:
        face = Area(
            faces=(Face(np.zeros((468, 2)), np.zeros((2, 5, 2)), (0.0, 0.0, 1.0, 1.0), 1.0),)
        )
        self.assertIsNone(scopes(flat((214, 168, 142)), Recipe()).skin)  # a cup may be so, too
        skin = scopes(flat((214, 168, 142)), Recipe(), face).skin
        assert skin is not None
        self.assertLess(abs(skin.now), 8.0)
        tainted = scopes(flat((206, 176, 134)), Recipe(), face).skin
        assert tainted is not None
        self.assertGreater(tainted.now, skin.now + 10.0)

    def test_the_base_moves_now_and_before_alike(self) -> None:
        skin = scopes(
            flat((214, 168, 142)), Recipe(base=Base(temperature=7500.0)), Area(skin_at=(0.1, 0.1))
        ).skin
        assert skin is not None
        self.assertEqual(skin.before, skin.now)

    def test_skin_that_was_picked_is_read_at_its_place(self) -> None:
        engine = flat((214, 168, 142), (40, 90, 40))
        green = scopes(engine, Recipe(), Area(skin_at=(0.9, 0.3))).skin
        assert green is not None
        self.assertGreater(abs(green.now), 40.0)

    def test_where_there_is_no_skin_none_is_read(self) -> None:
        self.assertIsNone(scopes(flat((60, 60, 200)), Recipe()).skin)
