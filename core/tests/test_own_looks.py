"""Looks of our own, and what a look does to skin and greys."""

import unittest

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import TableError
from nubilis.library.looks import OWN, own_table
from nubilis.look.cube import read_cube
from nubilis.proof.look_effect import look_effect
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Recipe
from nubilis.remedy.look import Look

from .pictures import skin_with_noise, wall_photo


class Own(unittest.TestCase):
    def test_each_is_a_table_of_its_own(self) -> None:
        self.assertEqual(len(OWN), 8)
        tables = [read_cube(own_table(one.name)) for one in OWN]
        for one, cube in zip(OWN, tables, strict=True):
            self.assertEqual((cube.title, cube.size), (one.name, 33))
            self.assertTrue((cube.entries >= 0.0).all() and (cube.entries <= 1.0).all())
        for i, cube in enumerate(tables):
            for other in tables[:i]:
                self.assertGreater(float(np.abs(cube.entries - other.entries).max()), 0.05)

    def test_none_turns_a_grey_ramp_back(self) -> None:
        for one in OWN:
            entries = read_cube(own_table(one.name)).entries
            ramp = np.array([entries[i, i, i] for i in range(33)]).mean(axis=1)
            self.assertTrue((np.diff(ramp) > -1e-4).all(), one.name)

    def test_the_black_and_white_one_is_without_colour(self) -> None:
        entries = read_cube(own_table("Plaster")).entries
        self.assertLess(float(np.ptp(entries, axis=-1).max()), 0.02)

    def test_another_name_is_refused(self) -> None:
        with self.assertRaises(TableError):
            own_table("Sunset")


class Effects(unittest.TestCase):
    def test_what_it_does_to_skin_and_greys_is_told(self) -> None:
        files = Bundle()
        look = Look(table=files.keep_table(own_table("Night wagon")))
        recipe = Recipe(look=look)
        skin = look_effect(Engine(skin_with_noise(), assets=files), recipe)[0]
        self.assertEqual(skin.group, "skin")
        self.assertGreater(skin.moved, 3.0)
        grey = look_effect(Engine(wall_photo(), assets=files), recipe)[-1]
        self.assertEqual(grey.group, "greys")
        self.assertLess(grey.b, -1.0)  # towards blue
        self.assertEqual(look_effect(Engine(wall_photo()), Recipe()), ())
