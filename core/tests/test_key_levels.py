"""What is drawn behind a colour key's handles."""

import unittest

import numpy as np

from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError
from nubilis.photo.picture import Photo
from nubilis.proof.key_levels import BINS, key_levels
from nubilis.recipe.document import Recipe

from .pictures import brush, recipe_for, wall_photo


class Levels(unittest.TestCase):
    def test_colours_stand_where_they_are_and_the_mask_s_within_them(self) -> None:
        codes = np.full((80, 120, 3), 128, dtype=np.uint8)
        codes[:, :60] = (220, 40, 30)
        recipe = recipe_for(wall_photo(80, 120), brush(size=0.6, feather=0.1))
        levels = key_levels(Engine(Photo(codes, srgb())), recipe, "cast")
        hue, saturation, luminance = levels.photo
        self.assertEqual(int(hue.argmax()), int(29 / 360 * BINS))  # red, in OKLCh
        self.assertLess(float(np.sort(hue)[-2]), 0.05)  # the grey has none
        self.assertEqual(np.count_nonzero(saturation), 2)
        self.assertEqual(float(luminance.max()), 1.0)
        self.assertTrue((levels.mask <= levels.photo + 1e-6).all())
        self.assertGreater(float(levels.mask[0].max()), 0.4)

    def test_without_a_mask_there_is_nothing_under_it(self) -> None:
        photo = wall_photo(40, 60)
        recipe = recipe_for(photo)
        bare = recipe.casts[0].model_copy(update={"mask": recipe.casts[0].mask.model_copy(
            update={"parts": ()})})  # fmt: skip
        levels = key_levels(Engine(photo), Recipe(casts=(bare,)), "cast")
        self.assertEqual(float(levels.mask.max()), 0.0)
        with self.assertRaises(PlaceError):
            key_levels(Engine(photo), recipe, "other")


if __name__ == "__main__":
    unittest.main()
