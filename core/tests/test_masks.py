"""Colour keys, grey pictures, and the algebra of joining."""

import unittest

import imagecodecs
import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from nubilis.arrays import Floats
from nubilis.colour.oklab import linear_rgb_to_oklab, oklab_to_linear_rgb, oklab_to_oklch
from nubilis.errors import NubilisError
from nubilis.mask.colour_key import (
    FULL_CHROMA,
    ColourKey,
    Range,
    key_around,
    key_with,
    key_without,
)
from nubilis.mask.combine import Mask, combine
from nubilis.mask.part import Given, Join, Part
from nubilis.mask.picture import Picture
from nubilis.mask.ramp import Ramp
from nubilis.mask.whole import Whole
from nubilis.photo.grey import grey_png
from nubilis.photo.pyramid import View
from nubilis.recipe.asset import asset_of

from .pictures import random_light


def view_of(h: int, w: int) -> View:
    return View((w, h), (0, 0, w, h))


def wide() -> Range:
    return Range(core=(0.0, 100.0), fade=(0.0, 0.0))


def smooth(t: np.ndarray) -> np.ndarray:
    t = np.clip(t, 0.0, 1.0)
    return np.asarray(t * t * (3 - 2 * t))


def plain_key(key: ColourKey, rgb: Floats) -> np.ndarray:
    """By the definition, in double precision."""
    lch = oklab_to_oklch(linear_rgb_to_oklab(rgb.reshape(3, -1).T))
    values = {
        "hue": lch[:, 2],
        "saturation": lch[:, 1] * 100 / FULL_CHROMA,
        "luminance": lch[:, 0] * 100,
    }
    out = np.ones(len(lch))
    for name, v in values.items():
        r: Range = getattr(key, name)
        if not r.on:
            continue
        low, high = r.core
        if name == "hue":
            centre, half = (low + high) / 2, min((high - low) / 2, 180.0)
            v, low, high = (v - centre + 180) % 360 - 180, -half, half
        below = smooth(1 - (low - v) / max(r.fade[0], 1e-4))
        above = smooth(1 - (v - high) / max(r.fade[1], 1e-4))
        out *= np.where(v < low, below, np.where(v > high, above, 1.0))
    return out.reshape(rgb.shape[1:])


class Keys(unittest.TestCase):
    def test_equals_the_definition(self) -> None:
        hues = (
            Range(core=(20.0, 60.0), fade=(30.0, 10.0)),
            Range(core=(340.0, 390.0), fade=(15.0, 15.0)),  # over the seam
            Range(core=(0.0, 360.0), fade=(0.0, 0.0)),
            Range(on=False, core=(0.0, 1.0), fade=(0.0, 0.0)),
        )
        some = Range(core=(15.0, 60.0), fade=(10.0, 20.0))
        for h, w in ((1, 1), (7, 13), (40, 31)):
            rgb = random_light(h, w, seed=w)
            for hue in hues:
                key = ColourKey(id="k", hue=hue, saturation=some, luminance=some)
                # A hundredth of a degree may decide, so compare in the mean as well.
                off = np.abs(key.coverage(rgb, view_of(h, w)) - plain_key(key, rgb))
                self.assertLess(float(off.max()), 0.02)
                self.assertLess(float(off.mean()), 1e-3)

    def test_a_core_must_not_be_turned_round(self) -> None:
        with self.assertRaises(ValidationError):
            Range(core=(5.0, 4.0), fade=(0.0, 0.0))

    def test_a_key_takes_in_what_it_was_made_from(self) -> None:
        for lab in ((0.6, 0.10, 0.06), (0.4, -0.08, 0.02), (0.7, 0.09, -0.004), (0.5, 0.001, 0.0)):
            rgb = oklab_to_linear_rgb(lab)
            key = key_around([rgb], "k")
            patch = np.repeat(rgb.reshape(3, 1, 1), 4, axis=2).astype(np.float32)
            self.assertGreater(float(key.coverage(patch, view_of(1, 4)).min()), 0.99)
        self.assertFalse(key_around([(0.2, 0.2, 0.2)], "k").hue.on)

    def test_two_reds_on_either_side_of_the_seam_make_a_narrow_key(self) -> None:
        reds = [oklab_to_linear_rgb((0.6, 0.1, b)) for b in (-0.01, 0.01)]
        key = key_around(reds, "k")
        self.assertLess(key.hue.core[1] - key.hue.core[0], 60.0)
        opposite = np.asarray(oklab_to_linear_rgb((0.6, -0.1, 0.0)), dtype=np.float32)
        self.assertEqual(float(key.coverage(opposite.reshape(3, 1, 1), view_of(1, 1)).max()), 0.0)

    def test_a_colour_that_is_left_out_goes_and_the_taken_ones_stay(self) -> None:
        one, two = (oklab_to_linear_rgb((0.6, 0.08, b)) for b in (0.02, 0.035))
        red, orange = (tuple(float(v) for v in c) for c in (one, two))
        key = key_with(None, [red], "k")  # type: ignore[list-item]
        patch = np.stack([one, two], axis=1).reshape(3, 1, 2).astype(np.float32)
        self.assertGreater(float(key.coverage(patch, view_of(1, 2)).min()), 0.5)
        without = key_without(key, [orange])  # type: ignore[list-item]
        left = without.coverage(patch, view_of(1, 2))[0]
        self.assertGreater(float(left[0]), 0.99)
        self.assertEqual(float(left[1]), 0.0)
        wider = key_with(without, [orange], "k")  # type: ignore[list-item]
        self.assertEqual((len(wider.taken), wider.left_out), (2, without.left_out))


class Pictures(unittest.TestCase):
    def coverage(self, plane: np.ndarray, view: View) -> np.ndarray:
        asset = asset_of(grey_png(plane))
        nothing = np.zeros((3, *view.shape), dtype=np.float32)
        given = Given(
            codes_of=lambda asked: plane if asked == asset else np.zeros((1, 1), np.uint8)
        )
        return np.asarray(Picture(id="p", asset=asset).coverage(nothing, view, given))

    def test_its_own_size_is_exact_and_regions_are_cuts(self) -> None:
        plane = np.random.default_rng(1).integers(0, 65536, (30, 50)).astype(np.uint16)
        full = self.coverage(plane, view_of(30, 50))
        np.testing.assert_allclose(full, plane / 65535.0, atol=1e-7)
        cut = self.coverage(plane, View((50, 30), (4, 3, 20, 9)))
        np.testing.assert_array_equal(cut, full[3:9, 4:20])

    def test_half_size_is_an_average(self) -> None:
        plane = np.kron(np.eye(8, dtype=np.uint8) * 255, np.ones((8, 8), np.uint8))
        half = self.coverage(plane, view_of(32, 32))
        averaged = plane.reshape(32, 2, 32, 2).mean(axis=(1, 3)) / 255
        self.assertLess(np.abs(half - averaged).mean(), 0.02)

    def test_other_things_are_refused(self) -> None:
        colour = bytes(imagecodecs.png_encode(np.zeros((2, 2, 3), np.uint8)))
        for data in (b"no png", colour):
            with self.assertRaises(NubilisError):
                asset_of(data)

    def test_regions_of_every_zoom_are_cuts_of_the_whole(self) -> None:
        plane = np.random.default_rng(2).integers(0, 256, (40, 60)).astype(np.uint8)
        for size in ((90, 60), (45, 30), (20, 13)):
            whole = self.coverage(plane, View(size, (0, 0, *size)))
            region = size[0] // 4, size[1] // 4, size[0] // 2 + 3, size[1] // 2 + 2
            x0, y0, x1, y1 = region
            cut = self.coverage(plane, View(size, region))
            np.testing.assert_allclose(cut, whole[y0:y1, x0:x1], atol=1e-6)


def fields() -> st.SearchStrategy[Floats]:
    values = st.floats(0, 1, width=32)
    return st.lists(values, min_size=6, max_size=6).map(
        lambda v: np.array(v, dtype=np.float32).reshape(2, 3)
    )


def part(join: Join = "add", **more: object) -> Part:
    return Whole.model_validate({"id": "x", "join": join, **more})


class Algebra(unittest.TestCase):
    @given(fields(), fields())
    def test_laws(self, a: Floats, b: Floats) -> None:
        def joined(*parts: tuple[Part, Floats]) -> Floats:
            known = {id(p): coverage for p, coverage in parts}
            return combine([p for p, _ in parts], lambda p: known[id(p)], (2, 3))

        one = (part(), a)
        np.testing.assert_allclose(joined(one, (part(), b)), joined((part(), b), one), atol=1e-6)
        twice = joined((part(invert=True), np.float32(1) - a))
        np.testing.assert_allclose(twice, a, atol=1e-6)
        everything = np.ones_like(a)
        np.testing.assert_allclose(joined(one, (part("intersect"), everything)), a, atol=1e-6)
        self.assertFalse(joined(one, (part("subtract"), everything)).any())
        for join in ("add", "subtract", "intersect"):
            mask = joined(one, (part(join), b))  # type: ignore[arg-type]
            self.assertTrue(((mask >= 0) & (mask <= 1.000001)).all())
            unfelt = joined(one, (part(join, strength=0.0), b))  # type: ignore[arg-type]
            np.testing.assert_allclose(unfelt, a if join != "intersect" else 0 * a, atol=1e-6)

    @given(fields(), fields(), fields())
    def test_more_laws(self, a: Floats, b: Floats, c: Floats) -> None:
        def joined(*parts: tuple[Part, Floats]) -> Floats:
            known = {id(p): coverage for p, coverage in parts}
            return combine([p for p, _ in parts], lambda p: known[id(p)], (2, 3))

        def same(one: Floats, two: Floats) -> None:
            np.testing.assert_allclose(one, two, atol=1e-5)

        # The order of what adds does not matter, nor that of what takes away.
        same(
            joined((part(), a), (part(), b), (part(), c)),
            joined((part(), c), (part(), a), (part(), b)),
        )
        less = [(part("subtract"), v) for v in (b, c)]
        same(joined((part(), a), *less), joined((part(), a), *less[::-1]))
        # With itself: twice as much, at most all; from itself; within itself.
        same(joined((part(), a), (part(), a)), np.minimum(2 * a, 1))
        same(joined((part(), a), (part("subtract"), a)), a * (1 - a))
        same(joined((part(), a), (part("intersect"), a)), a * a)
        # Taking away is holding to the rest.
        inverted = part("intersect", invert=True)
        same(joined((part(), a), less[0]), joined((part(), a), (inverted, b)))
        # A part and what it leaves are the whole, without a seam.
        same(joined((part(), a), (part(invert=True), a)), np.ones_like(a))

    def test_two_halves_of_a_ramp_leave_no_seam(self) -> None:
        one = Ramp(id="one", full=(0.3, 0.3), none=(0.6, 0.3))
        two = Ramp(id="two", full=(0.6, 0.3), none=(0.3, 0.3))
        view = View((100, 60), (0, 0, 100, 60))
        nothing = np.zeros((3, 60, 100), dtype=np.float32)
        whole = combine([one, two], lambda p: p.coverage(nothing, view), view.shape)
        np.testing.assert_allclose(whole, 1.0, atol=1e-5)

    def test_a_first_part_that_takes_away_leaves_nothing(self) -> None:
        full = np.ones((2, 3), dtype=np.float32)
        self.assertFalse(combine([part("subtract")], lambda _: full, (2, 3)).any())
        self.assertFalse(combine([], lambda _: full, (2, 3)).any())

    def test_what_cannot_matter_is_not_computed(self) -> None:
        asked: list[str] = []

        def coverage(one: Part) -> Floats:
            asked.append(one.join)
            return np.zeros((2, 3), dtype=np.float32)

        self.assertFalse(combine([part(), part("intersect")], coverage, (2, 3)).any())
        self.assertEqual(asked, ["add"])
        self.assertEqual(Mask().parts, ())
