"""The finder: a made cast is found where and which way it lies; nothing is found where there is nothing."""

import unittest
from dataclasses import replace

import numpy as np

from nubilis.arrays import Floats
from nubilis.cast.direction import angle_between
from nubilis.cast.take_off import take_off
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.find import palette
from nubilis.find.adopt import MODEST, PLAIN, adopted_amount, all_adopted
from nubilis.find.cause import Guess, guess
from nubilis.find.colours import RED_GREEN, log_shift, reduced
from nubilis.find.field import Looker, Words
from nubilis.find.look import Survey, Surveyor, look
from nubilis.find.palette import BINS, SHIFTS, evidence
from nubilis.find.regions import LEAST_CONFIDENCE
from nubilis.photo.picture import Photo
from nubilis.photo.sampling import encode
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Dismissed, Recipe
from nubilis.settle.base import Base

SHIFT = np.array([-0.05, 0.22])  # towards amber
FREE = {"hold_lightness": 0.0}


def paints(h: int = 160, w: int = 240) -> Floats:
    """Many surfaces of muted paints, each of which stands at several places."""
    rng = np.random.default_rng(4)
    palette = rng.uniform(0.10, 0.45, (14, 1)) * rng.uniform(0.8, 1.25, (14, 3))
    tiles = palette[rng.integers(0, 14, (h // 8, w // 8))]
    rgb = np.kron(tiles, np.ones((8, 8, 1))) * (1 + rng.normal(0, 0.02, (h, w, 1)))
    return np.ascontiguousarray(np.moveaxis(rgb, 2, 0), dtype=np.float32)


def lit(rgb: Floats) -> tuple[Floats, Floats]:
    """An amber light from the left that fades by the middle; how much of it lies where."""
    w = rgb.shape[2]
    amount = np.clip(1.3 - np.linspace(0.0, 2.6, w), 0.0, 1.0).astype(np.float32)
    amount = np.repeat(amount[None], rgb.shape[1], axis=0)
    return take_off(rgb, np.ones_like(amount), amount, -SHIFT, **FREE), amount


def photo_of(rgb: Floats) -> Photo:
    return Photo(encode(rgb, srgb()), srgb())


class Palettes(unittest.TestCase):
    def test_dark_colours_say_nothing_of_light_ones(self) -> None:
        """The layers of lightness have ends: the darkest is no neighbour of the lightest."""
        rgb = np.full((3, 120, 180), 0.85, dtype=np.float32)
        rgb[:, :, :90] = np.array([0.02, 0.004, 0.004], dtype=np.float32)[:, None, None]
        small = reduced(rgb)
        self.assertEqual(set(np.unique(palette._layer(small))), {0, 2})
        far = palette._palettes(small, (), ())[palette.TILES[0] - 1]  # it sees the dark half alone
        dark = palette._layer(small) == 0
        x, y = (int(np.median(palette._bin(small.u[i])[dark])) for i in (0, 1))
        never = float(far.min())
        self.assertGreater(far[0, y, x], never + 1.0)
        self.assertGreater(far[1, y, x], never + 1.0)
        self.assertAlmostEqual(float(far[2, y, x]), never, places=5)


class MadeCast(unittest.TestCase):
    def setUp(self) -> None:
        rgb, self.amount = lit(paints())
        self.assets = Bundle()
        self.engine = Engine(photo_of(rgb), assets=self.assets)
        self.tainted = self.amount > 0.3

    def test_it_is_found_where_and_which_way_it_lies(self) -> None:
        found = look(self.engine).findings
        self.assertGreaterEqual(len(found), 1)
        first = found[0]
        self.assertLess(angle_between(np.array(first.shift), SHIFT), 25.0)
        self.assertGreaterEqual(first.confidence, LEAST_CONFIDENCE)
        inside = first.mask > 0.5
        self.assertGreater(self.tainted[inside].mean(), 0.7)
        self.assertGreater(first.severity, 2.0)
        self.assertIn("towards", first.reason)
        x, y = first.tainted
        self.assertTrue(self.tainted[int(y * 240), int(x * 240)])
        if first.reference is not None:
            x, y = first.reference
            self.assertLess(self.amount[int(y * 240), int(x * 240)], 0.3)

    def test_samples_stand_on_several_materials(self) -> None:
        first = look(self.engine).findings[0]
        self.assertGreaterEqual(len(first.further), 1)
        places = [first.tainted, *(tainted for tainted, _ in first.further)]
        for x, y in places:
            self.assertTrue(self.tainted[int(y * 240), int(x * 240)])
        for x, y in (clean for _, clean in first.further):
            self.assertLess(self.amount[int(y * 240), int(x * 240)], 0.3)
        (cast,) = all_adopted(self.engine, [first], self.assets.keep, 1.0).casts
        self.assertEqual(len(cast.pairs), len(places))

    def test_the_surer_the_more_is_taken_off(self) -> None:
        first = look(self.engine).findings[0]
        amounts = [adopted_amount(replace(first, confidence=c)) for c in (0.0, 0.5, 1.0)]
        self.assertEqual(amounts, [MODEST, 0.7, PLAIN])

    def test_a_mask_that_is_adopted_reaches_farther_than_what_was_found(self) -> None:
        first = look(self.engine).findings[0]
        recipe = all_adopted(self.engine, [first], self.assets.keep, 1.0)
        mask = self.engine.mask(recipe.casts[0].mask, self.engine.analysis_view)
        self.assertTrue((mask >= first.mask - 0.01).all())
        self.assertGreater((mask > 0.5).mean(), (first.mask > 0.5).mean() + 0.02)

    def test_the_map_is_high_where_the_light_is(self) -> None:
        taint = look(self.engine).taint
        self.assertEqual(taint.shape, self.tainted.shape)
        self.assertGreater(taint[self.tainted].mean(), 3 * taint[~self.tainted].mean())

    def test_words_sharpen(self) -> None:
        looker = Looker(reduced(self.engine.pyramid.analysis))
        free = looker.field()
        opposite = looker.field(Words((float(-SHIFT[0]), float(-SHIFT[1]))))
        told = looker.field(Words((float(SHIFT[0]), float(SHIFT[1])), ((0.1, 0.3),)))
        w = free.taint.shape[1]
        left = np.s_[:, : w // 3]
        share = [f.taint[left].sum() / max(f.taint.sum(), 1e-9) for f in (opposite, free, told)]
        self.assertLess(share[0], share[1])
        self.assertGreater(share[2], 0.7)

    def test_a_click_is_answered_even_when_the_finder_doubts(self) -> None:
        engine = Engine(photo_of(paints()))
        doubted = [f.confidence for f in look(engine, Words(places=((0.1, 0.3),))).findings]
        self.assertTrue(all(0.0 <= c <= 1.0 for c in doubted))

    def test_adopting_takes_it_off(self) -> None:
        found = look(self.engine).findings
        proof = prove(self.engine, all_adopted(self.engine, found, self.assets.keep, 0.85)).casts[0]
        assert proof.before is not None and proof.after is not None
        self.assertLess(proof.after, 0.7 * proof.before)


class Nothing(unittest.TestCase):
    def test_pictures_without_anything_to_find(self) -> None:
        rng = np.random.default_rng(1)
        ramp = np.repeat(np.linspace(0, 255, 120)[None, :, None], 80, axis=0).repeat(3, axis=2)
        pictures = {
            "uniform": np.full((80, 120, 3), 128.0),
            "noise": rng.uniform(0, 255, (80, 120, 3)),
            "black": np.zeros((80, 120, 3)),
            "overexposed": np.full((80, 120, 3), 255.0),
            "monochrome": ramp,
            "one column": rng.uniform(0, 255, (90, 1, 3)),
            "one row": rng.uniform(0, 255, (1, 90, 3)),
            "one pixel": np.full((1, 1, 3), 90.0),
        }
        for name, codes in pictures.items():
            with self.subTest(name):
                engine = Engine(Photo(codes.astype(np.uint8), srgb()))
                seen_ = look(engine)
                self.assertEqual(seen_.findings, ())
                self.assertTrue(np.isfinite(seen_.taint).all())

    def test_one_light_everywhere_is_no_local_cast(self) -> None:
        rgb = paints()
        full = np.ones(rgb.shape[1:], dtype=np.float32)
        self.assertEqual(
            look(Engine(photo_of(take_off(rgb, full, full, -SHIFT, **FREE)))).findings, ()
        )


class Parts(unittest.TestCase):
    def test_evidence_prefers_the_true_shift(self) -> None:
        rgb, amount = lit(paints())
        small = reduced(rgb)
        volume = evidence(small)
        self.assertEqual(volume.shape, (len(SHIFTS), *small.shape))
        strong = np.s_[:, :, : small.shape[1] // 5]
        best = SHIFTS[int(volume[strong].mean(axis=(1, 2)).argmax())]
        self.assertLess(angle_between(log_shift(best), SHIFT), 30.0)
        self.assertGreater(amount[:, : amount.shape[1] // 5].min(), 0.7)

    def test_the_scaled_plane_and_back(self) -> None:
        np.testing.assert_allclose(log_shift([RED_GREEN, 1.0]), [1.0, 1.0])
        self.assertEqual(BINS % 2, 0)

    def test_causes_and_sources(self) -> None:
        clean = np.zeros((3, 120, 180), dtype=np.float32)
        clean[0] = 60.0
        inside = np.zeros((120, 180), dtype=bool)
        inside[8:112, 45:175] = True

        def because(a: float, b: float, ripple: bool = False) -> Guess:
            cast = np.zeros_like(clean)
            cast[1, inside], cast[2, inside] = a, b
            if ripple:
                cast[:, :, ::4] *= 4.0
            return guess(clean + cast, clean, inside)

        self.assertEqual(because(1.0, 12.0).cause, "mixed-light")
        self.assertEqual(because(-2.0, -12.0).cause, "mixed-light")
        self.assertEqual(because(-10.0, 9.0, ripple=True).cause, "foliage")
        self.assertEqual(because(-10.0, 9.0).cause, "unknown")  # smooth, and no leaf in sight
        self.assertEqual(because(-10.0, -1.0).cause, "flash")
        self.assertEqual(because(-10.0, -1.0, ripple=True).cause, "water")
        self.assertEqual(because(20.0, -10.0).cause, "gel")
        self.assertEqual(because(20.0, 5.0), Guess("unknown", None))
        clean[1, :, :40] = 60.0
        curtain = because(8.0, 2.0)
        self.assertEqual(curtain.cause, "spill")
        assert curtain.source is not None
        np.testing.assert_allclose(curtain.source, (0, 0, 40 / 180, 120 / 180))
        clean[1, :, :40] = 10.0
        self.assertIsNone(because(8.0, 2.0).source)


class WhatTheEditorSays(unittest.TestCase):
    """One amber cast; the editor's words change what is shown of it."""

    @classmethod
    def setUpClass(cls) -> None:
        rgb, cls.amount = lit(paints())
        cls.assets = Bundle()
        cls.engine = Engine(photo_of(rgb), assets=cls.assets)
        cls.sight = Surveyor(cls.engine)
        cls.first = cls.sight.look().findings[0]

    def after(self, recipe: Recipe) -> Survey:
        return self.sight.look(Words(explained=self.sight.explained(self.engine, recipe)))

    def dismissed(self) -> Recipe:
        one = Dismissed(id="d1", shift=self.first.shift, box=self.first.box)
        return Recipe(dismissed=(one,))

    def test_directions_to_choose_from_name_the_true_one(self) -> None:
        names = [d.towards for d in self.sight.look().directions]
        self.assertIn(self.first.towards, names)
        self.assertLessEqual(len(names), 3)

    def test_a_direction_leads_to_findings_that_way(self) -> None:
        for direction in self.sight.look().directions:
            told = self.sight.look(Words(direction.shift)).findings
            for finding in told:
                angle = angle_between(np.array(finding.shift), np.array(direction.shift))
                self.assertLess(angle, 60.0)

    def test_a_click_finds_the_cast_under_it(self) -> None:
        (finding,) = self.sight.look(Words(places=((0.1, 0.3),))).findings
        self.assertLess(angle_between(np.array(finding.shift), SHIFT), 30.0)
        self.assertGreater((self.amount > 0.1)[finding.mask > 0.5].mean(), 0.8)

    def test_what_was_dismissed_is_not_shown_again(self) -> None:
        again = self.after(self.dismissed())
        for finding in again.findings:
            self.assertGreater(
                angle_between(np.array(finding.shift), np.array(self.first.shift)), 35.0
            )
        shown = self.sight.look().taint
        self.assertLess(
            again.taint[self.amount > 0.5].mean(), 0.5 * shown[self.amount > 0.5].mean()
        )

    def test_what_was_adopted_is_not_found_again(self) -> None:
        recipe = all_adopted(self.engine, [self.first], self.assets.keep, 0.7)
        for finding in self.after(recipe).findings:
            self.assertGreater(
                angle_between(np.array(finding.shift), np.array(self.first.shift)), 35.0
            )

    def test_the_map_tells_the_way(self) -> None:
        seen_ = self.sight.look()
        strong = self.amount > 0.5
        a, b = seen_.cast[:, strong].mean(axis=1)
        self.assertLess(
            abs(np.degrees(np.arctan2(b, a) - np.arctan2(*self.first.cast[2:0:-1]))), 20
        )

    def test_another_photo_of_the_shoot_helps(self) -> None:
        """All of the frame in amber light is nothing to find, but for the same paints elsewhere."""
        rgb = paints()
        part = np.zeros(rgb.shape[1:], dtype=np.float32)
        part[:, : int(0.7 * part.shape[1])] = 1.0
        amber = take_off(rgb, np.ones_like(part), part, -1.5 * SHIFT, **FREE)
        other = reduced(paints())
        alone, helped = (
            Surveyor(Engine(photo_of(amber)), others=o).look() for o in ((), (other, other))
        )
        inside = part > 0.5
        gained = [s.taint[inside].mean() - s.taint[~inside].mean() for s in (alone, helped)]
        self.assertGreater(gained[1], gained[0])
        self.assertGreater(gained[1], 3.0)

    def test_the_reason_is_a_sentence_with_the_figure(self) -> None:
        self.assertIn(f"{self.first.severity:.1f} towards {self.first.towards}", self.first.reason)
        self.assertTrue(self.first.reason[0].isupper())
        self.assertTrue(self.first.reason.endswith("."))

    def test_a_base_set_first_is_what_is_looked_at(self) -> None:
        grey = Base(saturation=-1.0)
        self.assertEqual(look(self.engine, recipe=Recipe(base=grey)).findings, ())

    def test_the_outline_goes_round_the_region(self) -> None:
        points = np.concatenate([np.array(line) for line in self.first.outline])
        x0, y0, x1, y1 = self.first.box
        self.assertTrue((points >= (x0 - 0.01, y0 - 0.01)).all())
        self.assertTrue((points <= (x1 + 0.01, y1 + 0.01)).all())
