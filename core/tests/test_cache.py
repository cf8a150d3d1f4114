"""What is kept, what is forgotten, and that threads may ask at once."""

import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
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


class MadeAtOnce(unittest.TestCase):
    def test_who_asks_for_what_is_being_made_waits_for_it(self) -> None:
        cache, made, begun, go_on = array_cache(4000), [], threading.Event(), threading.Event()

        def make() -> np.ndarray:
            made.append(1)
            begun.set()
            go_on.wait()
            return np.zeros(3, np.float32)

        with ThreadPoolExecutor(3) as pool:
            asked = [pool.submit(cache.get, "one", make) for _ in range(3)]
            begun.wait()
            go_on.set()
            got = [one.result() for one in asked]
        self.assertEqual(len(made), 1)
        self.assertTrue(all(g is got[0] for g in got))

    def test_when_its_maker_fails_the_next_one_makes_it(self) -> None:
        cache, begun, fail = array_cache(4000), threading.Event(), threading.Event()

        def failing() -> np.ndarray:
            begun.set()
            fail.wait()
            raise MemoryError

        with ThreadPoolExecutor(2) as pool:
            first = pool.submit(cache.get, "one", failing)
            begun.wait()
            second = pool.submit(cache.get, "one", lambda: np.ones(3, np.float32))
            fail.set()
            self.assertRaises(MemoryError, first.result)
            np.testing.assert_array_equal(second.result(), 1.0)


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
