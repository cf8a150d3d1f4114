"""Work shared out over threads: all of it done once, whoever else is busy."""

import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

import numpy as np

from nubilis import cores
from nubilis import kernel_types as of
from nubilis.cores import each_on_one_core, share_out
from nubilis.kernels import kernel
from nubilis.precompile import everything
from nubilis.wanted import Unwanted, check_wanted, computing_while


@kernel(of.plane, of.plane)
def _double(rows, plane, out):  # type: ignore[no-untyped-def]
    for y in range(*rows):
        for x in range(plane.shape[1]):
            out[y, x] += 2 * plane[y, x]


class SharedOut(unittest.TestCase):
    def test_every_row_is_done_once_at_any_height(self) -> None:
        for count in (0, 1, 63, 64, 65, 257, 1000):
            done = np.zeros(count, np.int64)

            def work(band: tuple[int, int], done: np.ndarray = done) -> None:
                done[slice(*band)] += 1

            with mock.patch.object(cores, "CORES", 3):
                share_out(work, count, 64)
            np.testing.assert_array_equal(done, 1)

    def test_whoever_asks_does_it_alone_while_the_helpers_are_busy(self) -> None:
        busy, free = threading.Event(), threading.Event()

        def wait() -> None:
            busy.set()
            free.wait()

        held = [cores._helpers.submit(wait) for _ in range(cores._helpers._max_workers)]
        busy.wait()
        done = np.zeros(500, np.int64)
        try:
            with mock.patch.object(cores, "CORES", 3):
                share_out(lambda band: done[slice(*band)].__iadd__(1), 500, 10)
        finally:
            free.set()
        for one in held:
            one.result()
        np.testing.assert_array_equal(done, 1)

    def test_what_fails_in_a_helper_is_raised_and_nothing_runs_on(self) -> None:
        def work(band: tuple[int, int]) -> None:
            raise ValueError("no")

        with mock.patch.object(cores, "CORES", 3), self.assertRaises(ValueError):
            share_out(work, 500, 10)

    def test_several_threads_share_out_at_once(self) -> None:
        plane = np.random.default_rng(1).random((700, 40)).astype(np.float32)

        def doubled(_: int) -> np.ndarray:
            out = np.zeros_like(plane)
            _double(700, plane, out)
            return out

        with ThreadPoolExecutor(6) as pool:
            for out in pool.map(doubled, range(60)):
                np.testing.assert_array_equal(out, 2 * plane)


class OneCoreEach(unittest.TestCase):
    def test_in_their_order_each_on_its_own_thread_alone(self) -> None:
        def piece(i: int) -> tuple[int, set[int]]:
            threads: set[int] = set()
            share_out(lambda _: threads.add(threading.get_ident()), 1000, 1)
            return i, threads

        made = list(each_on_one_core(piece, range(20)))
        self.assertEqual([i for i, _ in made], list(range(20)))
        self.assertTrue(all(len(threads) == 1 for _, threads in made))

    def test_pieces_end_when_their_caller_is_not_wanted(self) -> None:
        with computing_while(lambda: False), self.assertRaises(Unwanted):
            list(each_on_one_core(lambda _: check_wanted(), [1, 2]))


class Types(unittest.TestCase):
    def test_undeclared_types_are_refused(self) -> None:
        with self.assertRaises(TypeError):
            _double(2, np.zeros((2, 2)), np.zeros((2, 2), np.float32))
        with self.assertRaises(TypeError):
            across = np.zeros((4, 4), np.float32).T
            _double(4, across, across)

    def test_all_that_is_compiled_is_known_to_set_up(self) -> None:
        names = [one.name for one in everything() if one.name.startswith("nubilis.")]
        self.assertEqual(len(names), len(set(names)))
        self.assertIn("nubilis.remedy.curves._bend", names)
        self.assertIn("nubilis.mask.walk._add_up", names)
