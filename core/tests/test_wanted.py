"""What nobody waits for any more ends at its next step, and loses nothing that was made."""

import threading
import unittest

import numpy as np

from nubilis.cache import array_cache
from nubilis.engine.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.wanted import Unwanted, check_wanted, computing_while

from .pictures import recipe_for, wall_photo


class Wanted(unittest.TestCase):
    def test_nothing_is_made_and_what_was_stays(self) -> None:
        cache = array_cache(4000)
        one = cache.get("one", lambda: np.zeros(3, np.float32))
        with computing_while(lambda: False):
            self.assertIs(cache.get("one", self.fail), one)
            with self.assertRaises(Unwanted):
                cache.get("two", self.fail)
        cache.get("two", lambda: np.zeros(3, np.float32))

    def test_whoever_asks_is_asked_and_nobody_else(self) -> None:
        told: list[str] = []

        def other() -> None:
            check_wanted()
            told.append("goes on")

        with computing_while(lambda: False):
            thread = threading.Thread(target=other)
            thread.start()
            thread.join()
            with computing_while(lambda: True):
                check_wanted()
            self.assertRaises(Unwanted, check_wanted)
        check_wanted()
        self.assertEqual(told, ["goes on"])

    def test_a_picture_ends_half_way_and_is_the_same_afterwards(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo)
        view = View.fit(photo, 200)
        whole = Engine(photo).render(recipe, view)
        for steps in range(1, 40):
            left, engine = iter(range(steps)), Engine(photo)
            with computing_while(lambda left=left: next(left, None) is not None):  # type: ignore[misc]
                try:
                    engine.render(recipe, view)
                except Unwanted:
                    pass
                else:
                    break
            np.testing.assert_array_equal(engine.render(recipe, view), whole)
        self.assertGreater(steps, 5)
