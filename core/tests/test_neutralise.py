"""Taking a cast off: exact where the cast is known, nothing where it is not asked for."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.cast.amount import solve_amount
from nubilis.cast.chroma import chroma_of, chroma_planes, log_gains
from nubilis.cast.direction import MeasuredPair, angle_between, same_cast
from nubilis.cast.lead import led_shift
from nubilis.cast.take_off import take_off
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.cielab import lab_planes
from nubilis.colour.rgb import LUMINANCE
from nubilis.errors import ShapeError

from .effort import examples
from .pictures import random_light


def tainted(rgb: np.ndarray, shift: np.ndarray, amount: np.ndarray) -> np.ndarray:
    """Von Kries light, in double precision."""
    cones = np.einsum("ij,jhw->ihw", REC2020_TO_CONES, rgb.astype(np.float64))
    lit = cones * np.exp(log_gains(shift)[:, None, None] * amount)
    return np.einsum("ij,jhw->ihw", CONES_TO_REC2020, lit).astype(np.float32)


class TakingOff(unittest.TestCase):
    @given(st.floats(-0.3, 0.3), st.floats(-0.4, 0.4), st.integers(0, 99))
    @settings(max_examples=examples(40))
    def test_undoes_what_light_did(self, u: float, v: float, seed: int) -> None:
        clean = random_light(5, 7, seed) * 0.8 + 0.1
        amount = random_light(5, 7, seed + 1)[0]
        shift = np.array([u, v])
        one = np.ones((5, 7))
        back = take_off(tainted(clean, shift, amount), one, amount, shift, hold_lightness=0.0)
        np.testing.assert_allclose(back, clean, atol=2e-4)

    def test_nothing_asked_nothing_moved(self) -> None:
        rgb = random_light(9, 17) * 2 - 0.3
        some, none = np.ones((9, 17)), np.zeros((9, 17))
        shift = (0.2, -0.1)
        for mask, amount, gain in (
            (none, some, 1.0),
            (some, none, 1.0),
            (some, some, 0.0),
        ):
            np.testing.assert_array_equal(take_off(rgb, mask, amount, shift, gain), rgb)

    def test_outside_a_soft_mask_to_the_bit(self) -> None:
        rgb = random_light(20, 30)
        mask = np.zeros((20, 30), dtype=np.float32)
        mask[5:12, 8:20] = 0.7
        mask[8, 12] = 0.0  # a hole within a row
        out = take_off(rgb, mask, np.ones((20, 30)), (0.2, 0.1))
        np.testing.assert_array_equal(out[:, mask == 0], rgb[:, mask == 0])
        self.assertTrue((out[:, mask > 0] != rgb[:, mask > 0]).any(axis=0).all())

    def test_luminance_is_held(self) -> None:
        rgb = random_light(20, 30) * 0.9 + 0.02
        out = take_off(rgb, np.ones((20, 30)), np.ones((20, 30)), (0.25, -0.2))
        before, after = (np.tensordot(LUMINANCE, p, axes=1) for p in (rgb, out))
        np.testing.assert_allclose(after, before, rtol=2e-4, atol=1e-5)
        self.assertLess(np.abs(lab_planes(out)[0] - lab_planes(rgb)[0]).mean(), 0.2)

    def test_shapes_are_checked(self) -> None:
        with self.assertRaises(ShapeError):
            take_off(random_light(4, 4), np.ones((4, 5)), np.ones((4, 4)), (0.1, 0.1))


class Directions(unittest.TestCase):
    def pair(self, angle: float, size: float = 0.2) -> MeasuredPair:
        turn = np.radians(angle)
        shift = size * np.array([np.cos(turn), np.sin(turn)])
        clean = np.full((3, 1, 1), 0.4, dtype=np.float32)
        lit = tainted(clean, shift, np.ones((1, 1))).ravel()
        return MeasuredPair((float(lit[0]), float(lit[1]), float(lit[2])), (0.4, 0.4, 0.4))

    def test_a_pair_measures_its_light(self) -> None:
        shift = self.pair(70.0).shift
        self.assertAlmostEqual(float(np.hypot(*shift)), 0.2, places=4)
        self.assertAlmostEqual(float(np.degrees(np.arctan2(*shift[::-1]))), 70.0, places=2)

    def test_more_than_thirty_degrees_apart_is_another_cast(self) -> None:
        self.assertEqual(len(same_cast([self.pair(0), self.pair(25)])), 1)
        self.assertEqual(len(same_cast([self.pair(0), self.pair(40)])), 2)
        groups = same_cast([self.pair(0, 0.1), self.pair(180, 0.3), self.pair(5, 0.1)])
        self.assertEqual(groups[0], [1])
        self.assertEqual(sorted(groups[1]), [0, 2])

    def test_a_pair_without_a_direction_joins_the_strongest(self) -> None:
        self.assertEqual(len(same_cast([self.pair(0), self.pair(120, 0.001)])), 1)

    def test_angles(self) -> None:
        self.assertAlmostEqual(angle_between(np.array([1.0, 0]), np.array([0, 2.0])), 90.0)
        self.assertEqual(angle_between(np.zeros(2), np.ones(2)), 180.0)

    def test_planes_equal_single_colours(self) -> None:
        rgb = random_light(3, 4)
        planes = chroma_planes(rgb)
        for y in range(3):
            for x in range(4):
                np.testing.assert_allclose(planes[:2, y, x], chroma_of(rgb[:, y, x]), atol=1e-5)


class Amounts(unittest.TestCase):
    def scene(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """A wall of two paints under a light that fades from left to right; amount, shift."""
        h, w = 96, 144
        rng = np.random.default_rng(5)
        paint = np.where(np.arange(h)[:, None] < h // 2, 0.45, 0.25) * np.ones((h, w))
        clean = (paint * (1 + rng.normal(0, 0.01, (h, w)))).astype(np.float32)
        amount = np.clip(1.2 - np.linspace(0, 2.4, w), 0, None)[None].repeat(h, 0)
        shift = np.array([0.12, 0.18])
        lit = tainted(np.stack([clean] * 3), shift, amount)
        return lit, amount.astype(np.float32), shift

    def pair(self, lit: np.ndarray, x: int, y: int) -> MeasuredPair:
        def colour(px: int) -> tuple[float, float, float]:
            r, g, b = (float(v) for v in lit[:, y - 1 : y + 2, px - 1 : px + 2].mean(axis=(1, 2)))
            return r, g, b

        w = lit.shape[2]
        return MeasuredPair(colour(x), colour(w - 8), ((x + 0.5) / w, (y + 0.5) / w), None)

    def test_the_fading_light_is_found(self) -> None:
        lit, amount, shift = self.scene()
        mask = np.ones(amount.shape, dtype=np.float32)
        mask[:, 90:] = 0.0
        solved = solve_amount(lit, mask, [self.pair(lit, 20, 30)])
        found, way = solved.amount, solved.shift
        self.assertLess(angle_between(way, shift), 3.0)
        strength = found * np.hypot(*way)
        inside = mask > 0
        error = np.abs(strength - amount * np.hypot(*shift))[inside].mean()
        self.assertLess(error, 0.15 * (amount * np.hypot(*shift))[inside].mean())

    def rippled(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """One grey paint under a light that plays on it, strong and weak, three quarters of the photo;
        amount, mask."""
        h, w = 96, 144
        ys, xs = np.mgrid[0:h, 0:w]
        amount = 1.0 + 0.8 * np.sin(xs / 9.0) * np.sin(ys / 11.0)
        amount = np.where(xs < 108, amount, 0.0)
        grain = 0.4 * (1 + np.random.default_rng(6).normal(0, 0.01, (h, w)))
        lit = tainted(np.stack([grain.astype(np.float32)] * 3), np.array([-0.1, 0.03]), amount)
        mask = np.where((xs > 10) & (xs < 100), 1.0, 0.0).astype(np.float32)
        return lit, amount, mask

    def made_neutral(self, lit: np.ndarray, *places: tuple[int, int]) -> MeasuredPair:
        w = lit.shape[2]
        colour = np.mean(
            [lit[:, y - 1 : y + 2, x - 1 : x + 2].mean(axis=(1, 2)) for x, y in places], 0
        )
        red, green, blue = (float(v) for v in colour)
        at, *further = [((x + 0.5) / w, (y + 0.5) / w) for x, y in places]
        return MeasuredPair((red, green, blue), (0.4, 0.4, 0.4), at, None, tuple(further))

    def test_a_weak_sample_and_a_made_neutral_reach_what_is_three_times_as_strong(self) -> None:
        lit, amount, mask = self.rippled()
        weak = np.argwhere((np.abs(amount - 0.6) < 0.03) & (mask > 0))[40]
        solved = solve_amount(lit, mask, [self.made_neutral(lit, (int(weak[1]), int(weak[0])))])
        found = solved.amount * np.hypot(*solved.shift) / np.hypot(-0.1, 0.03)
        inner = np.s_[4:-4, 14:96]
        left = np.abs(found - amount)[inner].mean() / amount[inner].mean()
        self.assertLess(left, 0.12)
        self.assertLess(angle_between(solved.shift, np.array([-0.1, 0.03])), 4.0)

    def test_each_of_several_places_holds_its_own_amount(self) -> None:
        lit, amount, mask = self.rippled()
        places = [(20, 20), (40, 50), (60, 30), (85, 70)]
        solved = solve_amount(lit, mask, [self.made_neutral(lit, *places)])
        found = solved.amount * np.hypot(*solved.shift) / np.hypot(-0.1, 0.03)
        for x, y in places:
            self.assertAlmostEqual(float(found[y, x]), float(amount[y, x]), delta=0.08)

    def test_only_what_looks_like_the_sample_leads(self) -> None:
        lit, _, mask = self.rippled()
        pair = self.made_neutral(lit, (20, 20))
        red, green, blue = pair.reference
        askew = replace(pair, reference=(red, green, 1.03 * blue))
        chroma = chroma_planes(lit)
        led = angle_between(led_shift(chroma, mask, askew), askew.shift)
        self.assertGreater(led, 1.0)
        few = np.zeros_like(mask)
        few[:, 100:] = 1.0  # clean
        np.testing.assert_array_equal(led_shift(chroma, few, askew), askew.shift)

    def test_a_guard_keeps_its_area(self) -> None:
        lit, amount, _ = self.scene()
        lit = lit.copy()
        lit[:, 60:80, 20:50] = np.array([0.45, 0.12, 0.10], dtype=np.float32)[:, None, None]
        mask = np.ones(amount.shape, dtype=np.float32)
        guard = (35.5 / 144, 70.5 / 144)
        found = solve_amount(lit, mask, [self.pair(lit, 20, 30)], [guard]).amount
        self.assertLess(found[64:76, 25:45].max(), 0.05)
        self.assertGreater(found[10:30, 10:30].mean(), 0.4)
