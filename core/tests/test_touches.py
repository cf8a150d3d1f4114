"""What a cast's remedies touch, and would touch without a mask."""

import unittest

import numpy as np

from nubilis.colour.difference import ciede2000
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError
from nubilis.mask.combine import Mask
from nubilis.mask.oval import Oval
from nubilis.photo.picture import Photo
from nubilis.proof.touches import touches
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.shift import Shift

from .pictures import recipe_for, wall_photo

GREEN, GREY, RED = (60, 140, 70), (130, 130, 130), (170, 60, 60)


def flag() -> Photo:
    """A half green, a quarter each grey and red."""
    codes = np.zeros((80, 120, 3), dtype=np.uint8)
    codes[:, :60] = GREEN
    codes[:40, 60:] = GREY
    codes[40:, 60:] = RED
    return Photo(codes, srgb())


def turned(**more: object) -> Recipe:
    """Hues turned within the green half."""
    oval = Oval(id="o", centre=(0.2, 0.33), radii=(0.15, 0.15), inside=0.0, outside=0.0)
    cast = Cast.model_validate(
        {"id": "c", "mask": Mask(parts=(oval,)), "remedies": (Shift(id="s", hue=60.0),), **more}
    )
    return Recipe(casts=(cast,))


class Touching(unittest.TestCase):
    def test_the_photo_is_summed_up_in_its_colours(self) -> None:
        colours = touches(Engine(flag()), turned(), "c").colours
        found = [c for c in colours if c.share > 0.1]
        self.assertAlmostEqual(found[0].share, 0.5, delta=0.02)
        self.assertEqual(found[0].before.codes, GREEN)
        self.assertAlmostEqual(sum(c.share for c in colours), 1.0, delta=1e-6)

    def test_masked_and_unmasked_are_told_apart(self) -> None:
        by = {c.before.codes: c for c in touches(Engine(flag()), turned(), "c").colours}
        red, grey, green = (by[c] for c in (RED, GREY, GREEN))
        self.assertEqual(red.moved, 0.0)
        self.assertGreater(red.would_move, 10.0)  # were the mask wider, it would turn
        self.assertLess(grey.would_move, 0.5)
        self.assertGreater(green.moved, 1.0)
        self.assertGreater(green.would_move, green.moved)  # only in part masked

    def test_the_chart_is_what_the_remedy_does_to_any_colour(self) -> None:
        chart = touches(Engine(flag()), turned(), "c").chart
        self.assertGreater(len(chart), 30)
        for point in chart:
            turn = (point.after.lch[2] - point.before.lch[2]) % 360.0
            if point.before.lch[1] > 0.03:
                self.assertAlmostEqual(turn, 60.0, delta=3.0)
        for still in (turned(on=False), turned(remedies=(Shift(id="s", hue=60.0, amount=0.0),))):
            for point in touches(Engine(flag()), still, "c").chart:
                self.assertLess(ciede2000(point.before.lab, point.after.lab), 0.01)

    def test_neutralising_takes_the_cast_off_every_colour_that_carries_it(self) -> None:
        photo = wall_photo()
        told = touches(Engine(photo), recipe_for(photo), "cast")
        grey = next(
            p for p in told.chart if abs(p.before.lab[1]) < 1.0 and abs(p.before.lab[2]) < 1.0
        )
        self.assertLess(grey.after.lab[1], -3.0)  # away from red

    def test_photos_of_a_few_pixels(self) -> None:
        for wide, tall in ((1, 1), (2, 1), (1, 3), (3, 3), (2, 5)):
            with self.subTest(f"{wide} x {tall}"):
                codes = np.full((tall, wide, 3), 140, dtype=np.uint8)
                told = touches(Engine(Photo(codes, srgb())), turned(), "c")
                self.assertAlmostEqual(sum(c.share for c in told.colours), 1.0, delta=1e-6)

    def test_an_unknown_cast(self) -> None:
        with self.assertRaises(PlaceError):
            touches(Engine(flag()), turned(), "zz")


if __name__ == "__main__":
    unittest.main()
