"""What is kept, what is forgotten, and that threads may ask at once."""

import threading
import unittest
from unittest import mock

import numpy as np

from nubilis.cache import array_cache
from nubilis.engine import engine as engine_module
from nubilis.engine.engine import Engine
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import View

from .pictures import brush, recipe_for, wall_photo


class Cache(unittest.TestCase):
    def setUp(self) -> None:
        self.made: list[str] = []
        self.cache = array_cache(limit_bytes=3 * 400)

    def get(self, key: str, size: int = 100) -> np.ndarray:
        def make() -> np.ndarray:
            self.made.append(key)
            return np.zeros(size, dtype=np.float32)

        return self.cache.get(key, make)

    def test_made_once(self) -> None:
        self.assertIs(self.get("a"), self.get("a"))
        self.assertEqual(self.made, ["a"])

    def test_the_least_recently_used_goes_first(self) -> None:
        for key in "abcad":
            self.get(key)
        self.made.clear()
        self.get("a")
        self.assertEqual(self.made, [])
        self.get("b")
        self.assertEqual(self.made, ["b"])

    def test_one_that_is_too_large_is_kept_alone(self) -> None:
        self.get("small")
        large = self.get("large", 10_000)
        self.assertIs(self.get("large", 10_000), large)
        self.made.clear()
        self.get("small")
        self.assertEqual(self.made, ["small"])

    def test_a_failure_is_not_kept(self) -> None:
        def fail() -> np.ndarray:
            raise MemoryError

        with self.assertRaises(MemoryError):
            self.cache.get("a", fail)
        self.assertEqual(self.get("a").size, 100)


class Threads(unittest.TestCase):
    def test_many_threads_one_plan_one_answer(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, brush(0.6))
        expected = Engine(photo).render(recipe, View.fit(photo, 200))
        engine, answers = Engine(photo), []

        def ask(edge: int) -> None:
            engine.render(recipe, View.fit(photo, edge))
            answers.append(engine.render(recipe, View.fit(photo, 200)))

        with mock.patch.object(engine_module, "treat", wraps=engine_module.treat) as treat:
            threads = [threading.Thread(target=ask, args=(100 + 20 * i,)) for i in range(6)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(treat.call_count, 1)
        self.assertEqual(len(answers), 6)
        for answer in answers:
            np.testing.assert_array_equal(answer, expected)

    def test_a_moved_amount_needs_no_new_plan(self) -> None:
        photo = wall_photo()
        engine = Engine(photo)
        view = View.fit(photo, 200)
        engine.render(recipe_for(photo, Whole(id="w"), amount=1.0), view)
        with mock.patch.object(engine_module, "treat") as treat:
            engine.render(recipe_for(photo, Whole(id="w"), amount=0.4), view)
        treat.assert_not_called()
