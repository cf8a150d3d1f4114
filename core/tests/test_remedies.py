"""Match, shift, even out, restore: what each promises, and that none moves anything outside the mask."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from nubilis.arrays import Floats
from nubilis.cast.direction import MeasuredPair
from nubilis.colour.adaptation import CONES_TO_REC2020, REC2020_TO_CONES
from nubilis.colour.cielab import linear_rgb_to_lab
from nubilis.colour.difference import ciede2000
from nubilis.colour.oklab import oklab_to_linear_rgb
from nubilis.engine.engine import Engine
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import View
from nubilis.remedy.even_out import EvenOut
from nubilis.remedy.glaze import Glaze
from nubilis.remedy.match import Match, mapping, matched
from nubilis.remedy.oklab_planes import lightness_plane
from nubilis.remedy.recolour import Recolour
from nubilis.remedy.remedy import Evidence, Remedy
from nubilis.remedy.restore import Restore
from nubilis.remedy.shift import Shift
from nubilis.remedy.tone import Tone
from nubilis.remedy.wash import Wash, WashStroke
from nubilis.remedy.zones import Zones

from .effort import examples
from .grounds import Rgb, colours, ground, lch, one
from .pictures import brush, recipe_for, wall_photo

SKIN: Rgb = (0.42, 0.27, 0.20)


def apart(a: Rgb, b: Rgb) -> float:
    return ciede2000(linear_rgb_to_lab(a), linear_rgb_to_lab(b))


STROKES = tuple(
    WashStroke(id=f"s{i}", size=2.0, opacity=0.4, points=(((0.5, 0.0), 1.0),), **more)
    for i, more in enumerate(({"tone": SKIN}, {"stops": 0.5}, {"stops": -0.3, "reach": "shadows"}))
)
SOME: list[Remedy] = [
    Shift(id="s", hue=40.0, saturation=0.4, luminance=0.1),
    EvenOut(id="e", target=SKIN, hue=0.8, saturation=0.5, lightness=0.5),
    Restore(id="r", colour_only=True),
    Match(id="m"),
    Recolour(id="c", target=SKIN, lightness=0.5, variation=0.2),
    Wash(id="w", strokes=STROKES),
    Glaze(id="g", target=SKIN, amount=0.5),
    Zones(id="z", shadows_red=0.05, mids_saturation=-0.5, lights_light=0.1),
    Tone(id="t", exposure=0.5, contrast=0.3, saturation=-0.2),
]
EVIDENCE = Evidence((MeasuredPair((0.5, 0.3, 0.3), (0.4, 0.4, 0.4)),))


class EveryKind(unittest.TestCase):
    def setUp(self) -> None:
        self.rgb = colours()
        self.before = ground(self.rgb, EVIDENCE, np.ascontiguousarray(self.rgb[:, :, ::-1]))

    def test_nothing_moves_where_the_mask_is_zero(self) -> None:
        mask = np.zeros(self.rgb.shape[1:], dtype=np.float32)
        mask[:, ::3] = 0.7
        for remedy in SOME:
            with self.subTest(remedy):
                done = remedy.applied(self.rgb, mask, self.before)
                np.testing.assert_array_equal(done[:, mask == 0.0], self.rgb[:, mask == 0.0])
                moved = np.abs(done - self.rgb)[:, mask > 0.0].max(axis=0)
                self.assertGreater((moved > 1e-4).mean(), 0.9)

    def test_half_a_mask_does_less_than_a_whole_one(self) -> None:
        for remedy in SOME:
            with self.subTest(remedy):
                half, full = (
                    np.abs(
                        remedy.applied(
                            self.rgb, np.full(self.rgb.shape[1:], w, np.float32), self.before
                        )
                        - self.rgb
                    ).mean()
                    for w in (0.5, 1.0)
                )
                self.assertLess(half, 0.85 * full)
                self.assertGreater(half, 0.15 * full)

    def test_the_engine_applies_them_in_order_and_delivers_what_it_shows(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, brush(0.5, 0.4, points=(((0.4, 0.3), 1.0),)))
        cast = recipe.casts[0]
        remedies = (*cast.remedies, *SOME)
        recipe = recipe.model_copy(
            update={"casts": (cast.model_copy(update={"remedies": remedies}),)}
        )
        engine = Engine(photo)
        full = View.fit(photo, photo.long_edge)
        shown = engine.render(recipe, full)
        delivered = Engine(engine.deliver(recipe)).untouched(full)
        device = np.tensordot(engine.to_device, shown, axes=1)
        inside = ((device >= 0.0) & (device <= 1.0)).all(axis=0)
        self.assertGreater(inside.mean(), 0.8)
        # In 8 bits of sRGB, a code step is at most .01 of linear light.
        self.assertLess(float(np.abs(shown - delivered)[:, inside].max()), 0.012)
        turned = recipe.model_copy(
            update={"casts": (cast.model_copy(update={"remedies": remedies[::-1]}),)}
        )
        self.assertGreater(np.abs(engine.render(turned, full) - shown).max(), 0.02)


class Shifting(unittest.TestCase):
    def test_units_are_those_of_oklch(self) -> None:
        rgb = colours()
        mask = np.ones(rgb.shape[1:], dtype=np.float32)
        done = lch(Shift(id="s", hue=30.0, saturation=0.5).applied(rgb, mask, ground(rgb)))
        before = lch(rgb)
        coloured = before[1] > 0.02
        turned = (done[2] - before[2] + 180.0) % 360.0 - 180.0
        np.testing.assert_allclose(turned[coloured], 30.0, atol=0.1)
        np.testing.assert_allclose(done[1], 1.5 * before[1], atol=1e-4)
        np.testing.assert_allclose(done[0], before[0], atol=1e-4)

    def test_black_and_white_stay_when_luminance_moves(self) -> None:
        for grey in (0.0, 1.0):
            rgb = one((grey, grey, grey))
            done = Shift(id="s", luminance=0.4).applied(
                rgb, np.ones((1, 1), np.float32), ground(rgb)
            )
            np.testing.assert_allclose(done, rgb, atol=2e-3)
        mid = one((0.2, 0.2, 0.2))
        done = Shift(id="s", luminance=0.1).applied(mid, np.ones((1, 1), np.float32), ground(mid))
        self.assertGreater(done[1, 0, 0], 0.25)


class Evening(unittest.TestCase):
    def even(self, rgb: Floats, **weights: float) -> Floats:
        remedy = EvenOut(id="e", target=SKIN, **({"hue": 0.0, "saturation": 0.0} | weights))
        return remedy.applied(rgb, np.ones(rgb.shape[1:], np.float32), ground(rgb))

    def test_at_full_one_hue_and_one_saturation_are_left(self) -> None:
        aim = lch(one(SKIN))[:, 0]
        done = lch(self.even(colours(), hue=1.0))
        off = (done[2] - aim[2] + 180.0) % 360.0 - 180.0
        self.assertLess(np.abs(off[done[1] > 0.01]).max(), 0.5)
        done = lch(self.even(colours(), saturation=1.0))
        np.testing.assert_allclose(done[1], aim[1], atol=1e-3)

    def test_at_zero_it_is_the_identity(self) -> None:
        rgb = colours()
        self.assertIs(self.even(rgb), rgb)

    @given(st.floats(0.05, 1.0))
    @settings(max_examples=examples(20))
    def test_below_zero_it_spreads_and_above_it_gathers(self, weight: float) -> None:
        rng = np.random.default_rng(2)
        hues = np.radians(rng.uniform(20.0, 90.0, 300))
        lab = np.stack([np.full(300, 0.6), 0.08 * np.cos(hues), 0.08 * np.sin(hues)], axis=1)
        rgb = np.ascontiguousarray(oklab_to_linear_rgb(lab).T.reshape(3, 1, -1), dtype=np.float32)
        spread = [np.std(lch(self.even(rgb, hue=w))[2]) for w in (-weight, 0.0, weight)]
        self.assertGreater(spread[0], spread[1])
        self.assertGreater(spread[1], spread[2])

    def test_texture_is_kept_when_lightness_is_evened(self) -> None:
        """A photo of patches with fine grain: the patches meet, the grain stays."""
        photo = wall_photo()
        engine = Engine(photo)
        even = EvenOut(id="e", target=SKIN, hue=0.0, saturation=0.0, lightness=0.8)
        recipe = recipe_for(photo, Whole(id="w"))
        cast = recipe.casts[0].model_copy(update={"remedies": (even,)})
        view = View.fit(photo, photo.long_edge)
        before = lightness_plane(engine.untouched(view))
        after = lightness_plane(engine.render(recipe.model_copy(update={"casts": (cast,)}), view))
        self.assertLess(after.std(), 0.75 * before.std())
        fine = [np.diff(v, axis=1).std() for v in (before, after)]
        self.assertGreater(fine[1], 0.7 * fine[0])


class Restoring(unittest.TestCase):
    def test_all_of_it_or_the_colour_only(self) -> None:
        came, now = one((0.5, 0.2, 0.2)), one((0.3, 0.3, 0.3))
        there = ground(came)
        mask = np.ones((1, 1), dtype=np.float32)
        np.testing.assert_allclose(Restore(id="r").applied(now, mask, there), came, rtol=1e-6)
        colour = Restore(id="r", colour_only=True).applied(now, mask, there)[:, 0, 0]
        np.testing.assert_allclose(colour[0] / colour[1], 2.5, rtol=1e-4)
        self.assertAlmostEqual(
            float(lightness_plane(one(tuple(colour)))[0, 0]), float(lightness_plane(now)[0, 0]), 1
        )


class Matching(unittest.TestCase):
    """A known mapping of cones, seen through pairs."""

    known = CONES_TO_REC2020 @ (
        np.eye(3) + np.array([[0.10, -0.04, 0.02], [-0.05, 0.02, 0.03], [0.02, 0.06, -0.20]])
    ) @ REC2020_TO_CONES  # fmt: skip

    def pairs(self, n: int, noise: float = 0.0, seed: int = 5) -> tuple[MeasuredPair, ...]:
        rng = np.random.default_rng(seed)
        made = []
        for colour in colours(n, seed).reshape(3, -1).T:
            goal = (self.known @ colour) * (1 + rng.normal(0, noise, 3))
            made.append(MeasuredPair(tuple(map(float, colour)), tuple(map(float, goal))))
        return tuple(made)

    def error(self, matrix: np.ndarray) -> float:
        tests = colours(80, 9).reshape(3, -1).T
        return float(
            np.mean(
                [apart(matched(tuple(c), matrix), matched(tuple(c), self.known)) for c in tests]
            )
        )

    def test_six_pairs_without_noise_recover_it(self) -> None:
        self.assertLess(self.error(mapping(Evidence(self.pairs(6)), hold_neutrals=False)), 0.1)

    def test_neutrals_stay_neutral(self) -> None:
        matrix = mapping(Evidence(self.pairs(4)))
        for y in (0.05, 0.18, 0.5):
            self.assertLess(apart(matched((y, y, y), matrix), (y, y, y)), 1.0)
        kept = Evidence((MeasuredPair((0.5, 0.3, 0.3), (0.45, 0.33, 0.3)),))
        for y in (0.05, 0.18, 0.5):
            self.assertLess(apart(matched((y, y, y), mapping(kept)), (y, y, y)), 0.2)

    def test_it_degrades_smoothly(self) -> None:
        identity = self.error(np.eye(3))
        errors = [
            self.error(mapping(Evidence(self.pairs(8, noise)), hold_neutrals=False))
            for noise in (0.0, 0.01, 0.02, 0.04)
        ]
        self.assertLess(errors[-1], identity)
        self.assertLess(errors[1], 2.0)
        for fewer in (1, 2, 3):
            matrix = mapping(Evidence(self.pairs(fewer)), hold_neutrals=False)
            self.assertLess(self.error(matrix), 1.5 * identity)

    def test_duplicated_pairs_are_no_trouble(self) -> None:
        (pair,) = self.pairs(1)
        once, often = (mapping(Evidence((pair,) * n)) for n in (1, 12))
        self.assertTrue(np.isfinite(often).all())
        self.assertLess(apart(matched(pair.tainted, often), pair.reference), 1.0)
        self.assertLess(np.abs(once - often).max(), 0.2)

    def test_a_kept_colour_stays(self) -> None:
        keep = (0.2, 0.25, 0.1)
        matrix = mapping(Evidence(self.pairs(1), (keep,)))
        self.assertLess(apart(matched(keep, matrix), keep), 1.0)

    def test_luminance_is_let_go_only_as_far_as_said(self) -> None:
        lighter = Evidence((MeasuredPair((0.2, 0.2, 0.2), (0.3, 0.3, 0.3)),))
        rgb = one((0.2, 0.2, 0.2))
        mask = np.ones((1, 1), dtype=np.float32)

        def light(**limits: float | bool) -> float:
            settings = {"hold_luminance": 0.0} | limits
            remedy = Match(id="m", hold_neutrals=False, **settings)  # type: ignore[arg-type]
            return float(remedy.applied(rgb, mask, ground(rgb, lighter))[1, 0, 0])

        self.assertAlmostEqual(light(), 0.3, delta=0.01)
        self.assertAlmostEqual(light(lighten=0.0), 0.2, delta=0.002)
        self.assertAlmostEqual(light(darken=0.0), 0.3, delta=0.01)
        self.assertAlmostEqual(light(hold_luminance=0.5), 0.245, delta=0.01)
        self.assertAlmostEqual(light(hold_luminance=1.0), 0.2, delta=0.001)

    def test_it_follows_what_each_place_carries(self) -> None:
        pair = Evidence((MeasuredPair((0.5, 0.3, 0.3), (0.34, 0.34, 0.34)),))
        rgb = np.tile(one((0.5, 0.3, 0.3)), (1, 1, 4))
        carried = np.array([[0.0, 0.5, 1.0, 3.0]], dtype=np.float32)
        there = ground(rgb, pair, carried=carried)
        mask = np.ones((1, 4), dtype=np.float32)
        done = Match(id="m").applied(rgb, mask, there)
        moved = np.abs(done - rgb).sum(axis=0)[0]
        self.assertEqual(moved[0], 0.0)
        self.assertAlmostEqual(moved[1] / moved[2], 0.5, delta=0.02)
        self.assertAlmostEqual(moved[3] / moved[2], 1.5, delta=0.05)
        even = Match(id="m", follow=0.0).applied(rgb, mask, there)
        np.testing.assert_allclose(even[:, 0, 0], done[:, 0, 2], atol=1e-5)
