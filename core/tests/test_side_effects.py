"""Side effects against plain calculation."""

import unittest

import numpy as np

from nubilis.colour.cielab import lab_planes
from nubilis.colour.difference import difference_plane
from nubilis.engine.engine import Engine
from nubilis.mask.oval import Oval
from nubilis.mask.whole import Whole
from nubilis.proof.casts import prove_outcome
from nubilis.proof.outcome import Outcome
from nubilis.proof.side_effects import SideEffects as Told
from nubilis.proof.side_effects import moved_in, side_effects
from nubilis.recipe.document import Recipe

from .pictures import recipe_for, wall_photo

OVAL = Oval(id="o", centre=(0.3, 0.3), radii=(0.2, 0.2), inside=0.0, outside=0.0)
EMPTY = OVAL.model_copy(update={"centre": (3.0, 3.0)})


def told_of(engine: Engine, recipe: Recipe) -> Told | None:
    return side_effects(Outcome(engine, recipe), recipe.casts[0])


class SideEffects(unittest.TestCase):
    def test_outside_is_exactly_nothing(self) -> None:
        photo = wall_photo()
        outcome = Outcome(Engine(photo), recipe_for(photo, OVAL))
        outside = moved_in(outcome.moved, ~outcome.reached)
        self.assertEqual((outside.mean, outside.p95, outside.most), (0.0, 0.0, 0.0))
        self.assertAlmostEqual(outside.share, 1 - np.pi * 60 * 60 / 60_000, delta=0.02)

    def test_inside_is_parted_by_what_carries_the_cast(self) -> None:
        """The wall's glow ends at two fifths; a mask over all of it holds both."""
        photo = wall_photo()
        engine, recipe = Engine(photo), recipe_for(photo, Whole(id="w"))
        cast = told_of(engine, recipe)
        assert cast is not None and cast.clean is not None
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
            told.edge
            for part in (OVAL, OVAL.model_copy(update={"inside": 0.9, "outside": 0.9}))
            if (told := told_of(Engine(photo), recipe_for(photo, part)))
        )
        assert hard is not None
        self.assertGreater(hard, 1.0)
        self.assertLess(soft or 0.0, 0.5 * hard)

    def test_a_close_view_holds_the_mask_and_a_margin(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, OVAL)
        view = Outcome(Engine(photo), recipe).close_view(recipe.casts[0], 90)
        assert view is not None
        x0, y0, x1, y1 = (v / max(view.size) for v in view.region)
        self.assertLessEqual(max(view.shape), 92)
        for edge, wanted in ((x0, 0.04), (y0, 0.04), (x1, 0.56), (y1, 0.56)):
            self.assertAlmostEqual(edge, wanted, delta=0.02)
        self.assertIsNone(
            Outcome(Engine(photo), recipe_for(photo, EMPTY)).close_view(
                recipe_for(photo, EMPTY).casts[0], 90
            )
        )

    def test_looking_only_where_masks_reach_tells_the_same(self) -> None:
        photo = wall_photo()
        in_the_glow = OVAL.model_copy(update={"centre": (0.2, 0.3), "radii": (0.15, 0.2)})
        recipe = recipe_for(photo, in_the_glow, amount=1.5)
        near, all_over = (Outcome(Engine(photo), recipe) for _ in range(2))
        height, width = all_over.view.shape
        all_over.__dict__["area"] = slice(0, height), slice(0, width)
        one, two = (prove_outcome(o).casts[0] for o in (near, all_over))
        self.assertLess(near.change.skin.size, 0.6 * all_over.change.skin.size)
        self.assertEqual([c.kind for c in one.concerns], [c.kind for c in two.concerns])
        self.assertTrue(one.concerns)
        for concern, wanted in zip(one.concerns, two.concerns, strict=True):
            self.assertEqual(concern.text, wanted.text)
            np.testing.assert_allclose(concern.at or (), wanted.at or (), atol=0.01)
        assert one.besides is not None and two.besides is not None
        for name in ("noise_before", "noise_after", "edge"):
            told, wanted_value = (getattr(b, name) for b in (one.besides, two.besides))
            self.assertAlmostEqual(told, wanted_value, places=3)
        self.assertAlmostEqual(one.lightness_change, two.lightness_change, places=4)

    def test_what_is_off_or_masks_nothing_is_left_out(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, OVAL)
        off = recipe.model_copy(
            update={"casts": (recipe.casts[0].model_copy(update={"on": False}),)}
        )
        self.assertIsNone(told_of(Engine(photo), off))
        self.assertFalse(Outcome(Engine(photo), off).reached.any())
        self.assertIsNone(told_of(Engine(photo), recipe_for(photo, EMPTY)))


if __name__ == "__main__":
    unittest.main()
