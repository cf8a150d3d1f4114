"""Side effects against plain calculation."""

import unittest

import numpy as np

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine import Engine
from nubilis.mask.oval import Oval
from nubilis.mask.whole import Whole
from nubilis.proof.side_effects import side_effects

from .pictures import recipe_for, wall_photo

OVAL = Oval(id="o", centre=(0.3, 0.3), radii=(0.2, 0.2), inside=0.0, outside=0.0)


class SideEffects(unittest.TestCase):
    def test_outside_is_exactly_nothing(self) -> None:
        photo = wall_photo()
        told = side_effects(Engine(photo), recipe_for(photo, OVAL))
        self.assertEqual((told.outside.mean, told.outside.p95), (0.0, 0.0))
        self.assertAlmostEqual(told.outside.share, 1 - np.pi * 60 * 60 / 60_000, delta=0.02)

    def test_inside_is_parted_by_what_carries_the_cast(self) -> None:
        """The wall's glow ends at two fifths; a mask over all of it holds both."""
        photo = wall_photo()
        engine, recipe = Engine(photo), recipe_for(photo, Whole(id="w"))
        (cast,) = side_effects(engine, recipe).casts
        assert cast.clean is not None
        self.assertAlmostEqual(cast.clean.share, 0.65, delta=0.15)
        self.assertGreater(cast.tainted.mean, 3.0)
        self.assertLess(cast.clean.mean, 1.0)
        view = engine.analysis_view
        moved = difference_plane(
            lab_planes(engine.untouched(view)), lab_planes(engine.render(recipe, view))
        )
        both = cast.tainted.share * cast.tainted.mean + cast.clean.share * cast.clean.mean
        self.assertAlmostEqual(both, float(moved.mean()), delta=0.02)

    def test_a_hard_edge_shows_and_a_soft_one_does_not(self) -> None:
        photo = wall_photo()
        hard, soft = (
            side_effects(Engine(photo), recipe_for(photo, part)).casts[0].edge
            for part in (OVAL, OVAL.model_copy(update={"inside": 0.9, "outside": 0.9}))
        )
        assert hard is not None
        self.assertGreater(hard, 1.0)
        self.assertLess(soft or 0.0, 0.5 * hard)

    def test_what_is_off_or_masks_nothing_is_left_out(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, OVAL)
        off = recipe.model_copy(
            update={"casts": (recipe.casts[0].model_copy(update={"on": False}),)}
        )
        self.assertEqual(side_effects(Engine(photo), off).casts, ())
        self.assertEqual(side_effects(Engine(photo), off).outside.share, 1.0)


if __name__ == "__main__":
    unittest.main()
