"""Rooms lit anew: the same each time, their truth exact, clicks where an editor would click."""

import unittest
from itertools import islice

import numpy as np

from bench.accuracy import score
from bench.relit import APART, FOLDER, Room, relit_scenes
from bench.scenes import TAINTED
from bench.touching import touched_up
from core.tests.effort import long_tier
from nubilis.cast.direction import MeasuredPair, angle_between
from nubilis.engine.engine import Engine
from nubilis.planning import sample_at


@long_tier
class Rooms(unittest.TestCase):
    def test_there_are_sixty_and_more_in_two_halves(self) -> None:
        self.assertGreaterEqual(len(list(FOLDER.glob("*.webp"))), 60)

    def test_a_room_is_lit_the_same_each_time(self) -> None:
        one, two = (Room("71003").relit(2, 5) for _ in range(2))
        for name in ("photo", "truth", "neutral"):
            np.testing.assert_array_equal(getattr(one, name).codes, getattr(two, name).codes)

    def test_with_one_cast_the_truth_has_none(self) -> None:
        (scene,) = islice(relit_scenes(1), 1)
        np.testing.assert_array_equal(scene.truth.codes, scene.neutral.codes)
        self.assertGreater(float(scene.error_before[scene.tainted].mean()), 5.0)

    def test_two_casts_go_different_ways_and_the_mask_holds_both(self) -> None:
        (scene,) = islice(relit_scenes(2), 1)
        other = scene.error_of_others > TAINTED
        self.assertTrue(other.any())
        mask = scene.loose_mask().codes[..., 0]
        self.assertGreater(float((mask[other | scene.tainted] > 0).mean()), 0.9)
        self.assertGreater(APART, 45.0)

    def test_clicks_pair_a_tainted_place_with_its_clean_twin(self) -> None:
        for scene in islice(relit_scenes(1), 4):
            with self.subTest(scene.name):
                tainted, reference = scene.pairs(Engine(scene.photo), 3)
                self.assertEqual(len(tainted), len(reference))
                for (tx, ty), (rx, ry) in zip(tainted, reference, strict=True):
                    self.assertGreater(scene.error_before[int(ty), int(tx)], TAINTED / 2)
                    self.assertLess(scene.error_before[int(ry), int(rx)], TAINTED)
                    paints = scene.surfaces[int(ty), int(tx)], scene.surfaces[int(ry), int(rx)]
                    self.assertEqual(*paints)

    def test_pairs_speak_for_the_light_that_was_laid_on(self) -> None:
        (scene,) = islice(relit_scenes(1), 1)
        seen, true = Engine(scene.photo), Engine(scene.truth)
        (at,), (twin,) = scene.pairs(seen, 1)
        told = MeasuredPair(sample_at(seen, at).rgb, sample_at(seen, twin).rgb)
        real = MeasuredPair(sample_at(seen, at).rgb, sample_at(true, at).rgb)
        self.assertLess(angle_between(told.shift, real.shift), 30.0)

    def test_treatment_helps_and_touches_help_further(self) -> None:
        (scene,) = islice(relit_scenes(1), 1)
        self.assertLess(score(scene).share, 0.7)
        before, after = touched_up(scene, (0, 2))
        self.assertLess(after, before + 0.02)
