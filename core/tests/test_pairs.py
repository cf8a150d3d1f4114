"""Several pairs on one cast: heard, outvoted, contradicting, levelled, averaged, of skin."""

import unittest
from dataclasses import replace

import numpy as np

from nubilis.cast.chroma import luminance_of
from nubilis.cast.direction import MeasuredPair, outvoted
from nubilis.colour.cielab import lab_to_linear_rgb, linear_rgb_to_lab
from nubilis.engine.engine import Engine
from nubilis.photo.sampling import encode
from nubilis.planning import plan_fix, sample_at
from nubilis.proof.casts import CastProof, prove
from nubilis.proof.judgement import Change, judge
from nubilis.recipe.document import Cast, Pair, Recipe, Sample
from nubilis.remedy.match import Match, contrary
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.remedy import Rgb

from .pictures import recipe_for, wall_photo

WARM = (0.5, 0.36, 0.3)
GREY = (0.4, 0.4, 0.4)


def rgb(L: float, a: float, b: float) -> Rgb:
    red, green, blue = (float(v) for v in lab_to_linear_rgb((L, a, b)))
    return red, green, blue


def at(x: float, y: float, tainted: Rgb = WARM, reference: Rgb = GREY) -> MeasuredPair:
    return MeasuredPair(tainted, reference, (x, y))


class Outvoted(unittest.TestCase):
    blue = (0.3, 0.36, 0.5)

    def test_one_that_cannot_be_true_beside_two(self) -> None:
        beside = at(0.15, 0.1, tainted=(0.35, 0.3, 0.2), reference=(0.5, 0.25, 0.1))
        self.assertEqual(outvoted([at(0.1, 0.1), at(0.5, 0.1), beside]), {2})

    def test_the_same_colour_cannot_have_two_casts(self) -> None:
        far = at(0.9, 0.9, reference=(0.6, 0.3, 0.1))
        self.assertEqual(outvoted([far, at(0.1, 0.1), at(0.5, 0.1)]), {0})

    def test_another_light_elsewhere_is_no_contradiction(self) -> None:
        self.assertEqual(outvoted([at(0.1, 0.1), at(0.5, 0.1), at(0.9, 0.9, self.blue)]), set())

    def test_two_cannot_outvote_each_other(self) -> None:
        self.assertEqual(outvoted([at(0.1, 0.1), at(0.1, 0.1, self.blue)]), set())

    def test_pairs_without_a_place_are_judged_by_colour(self) -> None:
        made = [replace(p, tainted_at=None) for p in (at(0, 0), at(0, 0), at(0, 0, self.blue))]
        self.assertEqual(outvoted(made), set())


class OnTheWall(unittest.TestCase):
    """The grey wall in reddish light, with a third pair whose reference is another paint."""

    def setUp(self) -> None:
        self.photo = wall_photo()
        self.photo.codes[:20, 280:] = (220, 120, 60)
        self.engine = Engine(self.photo)
        self.right = [(15.0, 60.0), (30.0, 140.0)], [(280.0, 60.0), (280.0, 140.0)]
        tainted = [sample_at(self.engine, p) for p in self.right[0]]
        clean = [sample_at(self.engine, p) for p in self.right[1]]
        pairs = [
            Pair(id=f"p{i}", tainted=t, reference=r)
            for i, (t, r) in enumerate(zip(tainted, clean, strict=True))
        ]
        self.wrong = (20.0, 70.0), (290.0, 10.0)
        tainted_too, paint = (sample_at(self.engine, p) for p in self.wrong)
        pairs.append(Pair(id="wrong", tainted=tainted_too, reference=paint))
        self.three = tuple(pairs)

    def recipe(self, **more: object) -> Recipe:
        cast = recipe_for(self.photo).casts[0].model_copy(update={"pairs": self.three, **more})
        return Recipe(casts=(cast,))

    def proof(self, recipe: Recipe) -> CastProof:
        return prove(self.engine, recipe).casts[0]

    def test_a_wrong_pair_changes_nothing_and_is_shown(self) -> None:
        recipe = self.recipe()
        view = self.engine.analysis_view
        two = self.recipe(pairs=self.three[:2])
        same = self.engine.render(recipe, view) == self.engine.render(two, view)
        self.assertTrue(same.all())
        proof = self.proof(recipe)
        self.assertEqual([p.outvoted for p in proof.pairs], [False, False, True])
        self.assertEqual(proof.before, self.proof(two).before)
        self.assertNotIn("Sample 5", " ".join(c.text for c in proof.concerns))

    def test_the_editor_may_say_that_it_counts(self) -> None:
        *two, wrong = self.three
        proof = self.proof(self.recipe(pairs=(*two, wrong.model_copy(update={"second": True}))))
        self.assertFalse(proof.pairs[2].outvoted)
        self.assertTrue(proof.pairs[2].other_way)

    def test_the_command_line_leaves_it_with_those_that_outvote_it(self) -> None:
        (tainted, clean), (there, paint) = self.right, self.wrong
        (cast,) = plan_fix(self.engine, [*tainted, there], [*clean, paint]).casts
        self.assertEqual(len(cast.pairs), 3)
        self.assertEqual(cast.outvoted(), {cast.pairs[2].id})

    def test_a_match_tells_what_it_leaves_and_which_pairs_contradict(self) -> None:
        proof = self.proof(self.recipe(remedies=(Match(id="m"),)))
        assert proof.pairs[2].residual is not None
        self.assertGreater(proof.pairs[2].residual, 3.0)
        told = [c for c in proof.concerns if c.kind == "contrary"]
        self.assertEqual([c.pair for c in told], ["wrong"])
        self.assertTrue(told[0].text.startswith("Sample 5 contradicts 1 and 3:"), told[0].text)
        self.assertIsNone(self.proof(self.recipe()).pairs[0].residual)

    def test_a_match_starts_from_what_acts_before_it(self) -> None:
        neutralise, match = Neutralise(id="n"), Match(id="m")
        two = self.three[:2]
        alone = self.proof(self.recipe(pairs=two, remedies=(neutralise,)))
        both = self.proof(self.recipe(pairs=two, remedies=(neutralise, match)))
        assert alone.after is not None and both.after is not None
        self.assertLess(both.after, max(alone.after, 1.0))
        first = self.recipe(pairs=two).casts[0]
        second = first.model_copy(update={"id": "second", "remedies": (match,)})
        after_another = prove(self.engine, Recipe(casts=(first, second))).casts[1]
        assert after_another.after is not None
        self.assertLess(after_another.after, max(alone.after, 1.0))

    def test_a_softened_amount_has_less_detail_and_as_much_of_it(self) -> None:
        sharp, soft = Neutralise(id="n"), Neutralise(id="n", soften=1.0)
        two = self.three[:2]
        view = self.engine.analysis_view
        one, other = (
            self.engine.render(self.recipe(pairs=two, remedies=(r,)), view) for r in (sharp, soft)
        )
        self.assertGreater(float(np.abs(one - other).max()), 2e-4)
        before = self.engine.untouched(view)
        moved = [float(np.abs(v - before).mean()) for v in (one, other)]
        self.assertAlmostEqual(moved[1] / moved[0], 1.0, delta=0.15)
        delivered = self.engine.deliver(self.recipe(pairs=two, remedies=(soft,)))
        shown = encode(other, self.photo.profile)
        self.assertLessEqual(int(np.abs(delivered.codes.astype(int) - shown).max()), 1)

    def test_further_places_are_averaged_in_the_figures_too(self) -> None:
        first = self.three[0]
        wide = first.tainted.model_copy(update={"further": ((0.9, 0.2),)})
        proof = self.proof(self.recipe(pairs=(first.model_copy(update={"tainted": wide}),)))
        bare = self.proof(self.recipe(pairs=(first,)))
        self.assertNotEqual(proof.pairs[0].is_now.lab, bare.pairs[0].is_now.lab)


class Contrary(unittest.TestCase):
    def test_like_colours_sent_to_unlike_ones(self) -> None:
        red = MeasuredPair(rgb(50, 30, 20), rgb(50, 0, 0))
        again = MeasuredPair(rgb(51, 31, 20), rgb(50, 60, 40))
        green = MeasuredPair(rgb(50, -30, 20), rgb(60, -10, 0))
        self.assertEqual(contrary([red, green, again]), [(0, 2)])
        self.assertEqual(contrary([red, red, green]), [])


class Level(unittest.TestCase):
    def test_the_reference_comes_to_the_sample_s_light_along_its_own_hue(self) -> None:
        pair = Pair(
            id="p",
            tainted=Sample(at=None, rgb=rgb(40, 20, 20)),
            reference=Sample(at=None, rgb=rgb(75, 16, 18)),
        )
        measured = pair.model_copy(update={"level": True}).measured()
        assert measured is not None and pair.reference is not None
        self.assertAlmostEqual(measured.lightness_gap, 0.0, places=6)
        self.assertAlmostEqual(luminance_of(measured.reference), luminance_of(pair.tainted.rgb))
        before, after = (linear_rgb_to_lab(c) for c in (pair.reference.rgb, measured.reference))
        hues = [np.degrees(np.arctan2(lab[2], lab[1])) for lab in (before, after)]
        self.assertAlmostEqual(hues[0], hues[1], delta=1.0)


class OfSkin(unittest.TestCase):
    def prove(self, kind: str | None) -> CastProof:
        photo = wall_photo()
        reference = Sample(at=None, rgb=rgb(62, 16, 20), kind=kind)  # type: ignore[arg-type]
        cast: Cast = recipe_for(photo).casts[0]
        pair = cast.pairs[0].model_copy(update={"reference": reference})
        recipe = Recipe(casts=(cast.model_copy(update={"pairs": (pair,)}),))
        return prove(Engine(photo), recipe).casts[0]

    def test_its_angle_is_told_before_and_after(self) -> None:
        proof = self.prove(None)
        assert proof.skin_before is not None and proof.skin_after is not None
        self.assertLess(abs(proof.skin_after), abs(proof.skin_before))

    def test_not_when_the_editor_says_it_is_none(self) -> None:
        self.assertIsNone(self.prove("other").skin_before)


class Steps(unittest.TestCase):
    def concerns(self, grain: float, code: float, stretch: float) -> list[str]:
        rng = np.random.default_rng(1)
        ramp = np.broadcast_to(np.linspace(40.0, 60.0, 180), (120, 180))
        before = np.stack([ramp + rng.normal(0, grain, ramp.shape), 0 * ramp, 0 * ramp])
        after = before.copy()
        after[0] = 50.0 + stretch * (before[0] - 50.0)
        nowhere = np.zeros(ramp.shape, dtype=bool)
        planes = [v.astype(np.float32) for v in (before, after)]
        change = Change(planes[0], planes[1], nowhere, code)
        return [c.kind for c in judge(change, np.ones(ramp.shape, dtype=np.float32))]

    def test_stretched_smooth_tones_of_eight_bits(self) -> None:
        self.assertIn("steps", self.concerns(0.0, 0.5, 3.0))

    def test_not_with_grain_or_more_bits_or_a_moderate_change(self) -> None:
        for grain, code, stretch in ((1.0, 0.5, 3.0), (0.0, 0.0, 3.0), (0.0, 0.5, 1.2)):
            self.assertNotIn("steps", self.concerns(grain, code, stretch))


if __name__ == "__main__":
    unittest.main()
