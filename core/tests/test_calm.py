"""Calm: made noise taken down to what lies around, edges kept, the same in pieces as whole."""

import unittest

import numpy as np

from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.engine.grain import _patches
from nubilis.mask.combine import Mask
from nubilis.mask.oval import Oval
from nubilis.mask.whole import Whole
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.calm import Calm, taken_away
from nubilis.remedy.remedy import Grain
from nubilis.remedy.tone import Tone

INSIDE = np.s_[200:300, 330:380]  # rows, columns: wholly masked, and flat
AROUND = np.s_[200:300, 20:70]


def noisy(inside: float, around: float, seed: int = 3) -> Photo:
    """Four grey panels with noise of so many code values within the oval and around it."""
    panels = np.repeat(np.array([90.0, 130.0, 90.0, 130.0]), 200)[None, :, None]
    ys, xs = np.mgrid[:500, :800]
    masked = np.hypot((xs - 400) / 250, (ys - 250) / 200) < 1.0
    size = np.where(masked, inside, around)[..., None]
    noise = np.random.default_rng(seed).standard_normal((500, 800, 3)) * size
    return Photo(np.clip(np.rint(panels + noise), 0, 255).astype(np.uint8), srgb())


def recipe(*remedies: object) -> Recipe:
    oval = Oval(
        id="o", centre=(0.5, 250 / 800), radii=(250 / 800, 200 / 800), inside=0.0, outside=0.0
    )
    cast = Cast(id="c", mask=Mask(parts=(oval,)), remedies=remedies)  # type: ignore[arg-type]
    return Recipe(casts=(cast,))


class Matching(unittest.TestCase):
    def test_the_grain_that_stays_is_that_around(self) -> None:
        for sigma in (3.0, 6.0, 12.0):
            codes = Engine(noisy(sigma, sigma / 3)).deliver(recipe(Calm(id="n"))).codes
            ratio = codes[INSIDE].std(axis=(0, 1)).mean() / codes[AROUND].std(axis=(0, 1)).mean()
            self.assertTrue(0.8 < ratio < 1.2, (sigma, ratio))

    def test_no_smooth_patch_where_it_is_quiet_already(self) -> None:
        photo = noisy(2.0, 4.0)
        codes = Engine(photo).deliver(recipe(Calm(id="n"))).codes
        self.assertGreater(codes[INSIDE].std(), 0.95 * photo.codes[INSIDE].std())

    def test_what_a_remedy_before_it_pulls_up_is_calmed_too(self) -> None:
        photo = noisy(3.0, 3.0)
        lifted = recipe(Tone(id="t", exposure=1.5))
        calmed = recipe(Tone(id="t", exposure=1.5), Calm(id="n"))
        spread = [Engine(photo).deliver(r).codes[INSIDE].std() for r in (lifted, calmed)]
        self.assertLess(spread[1], 0.93 * spread[0])

    def test_weights_go_from_all_of_the_noise_to_none(self) -> None:
        grain = Grain((0.5,), ((0.02,),) * 3, ((0.01,),) * 3)
        taken = [taken_away(grain, w, 0.0)[0, 0] for w in (0.0, 0.5, 1.0, 1.5, 2.0)]
        self.assertEqual(sorted(taken), taken)
        self.assertAlmostEqual(float(taken[0]), 0.0, places=6)
        self.assertAlmostEqual(float(taken[4]), 1.0, places=6)
        self.assertTrue(0.45 < taken[2] < 0.6)

    def test_without_surroundings_the_photo_before_its_casts_counts(self) -> None:
        photo = noisy(3.0, 3.0)
        whole = Cast(
            id="c",
            mask=Mask(parts=(Whole(id="w"),)),
            remedies=(Tone(id="t", exposure=1.0), Calm(id="n")),
        )
        engine = Engine(photo)
        grain = engine.grain(Recipe().state, [whole], "n")
        assert grain is not None
        self.assertGreater(np.mean(grain.inside[0]), 1.1 * np.mean(grain.around[0]))


class Keeping(unittest.TestCase):
    def test_edges_are_as_steep_as_before(self) -> None:
        photo = noisy(6.0, 2.0)
        codes = Engine(photo).deliver(recipe(Calm(id="n", colour=2.0, lightness=2.0))).codes
        slope = [
            float((c[150:350, 401].astype(float) - c[150:350, 398]).mean())
            for c in (photo.codes, codes)
        ]
        self.assertAlmostEqual(slope[1] / slope[0], 1.0, delta=0.05)

    def test_pieces_make_the_same_as_the_whole(self) -> None:
        engine = Engine(noisy(6.0, 2.0))
        calm = recipe(Calm(id="n"))
        whole = engine.render(calm, View((800, 500), (0, 0, 800, 500)))
        for region in ((300, 150, 431, 263), (0, 0, 90, 500), (377, 201, 640, 333)):
            x0, y0, x1, y1 = region
            part = engine.render(calm, View((800, 500), region))
            np.testing.assert_allclose(part, whole[:, y0:y1, x0:x1], atol=2e-5)
        shown = np.abs(whole - engine.untouched(View((800, 500), (0, 0, 800, 500)))).max()
        self.assertGreater(shown, 0.01)

    def test_outside_the_mask_nothing_moves(self) -> None:
        photo = noisy(6.0, 2.0)
        engine = Engine(photo)
        calm = recipe(Calm(id="n"))
        outside = engine.mask(calm.casts[0].mask, View((800, 500), (0, 0, 800, 500))) == 0.0
        done = engine.deliver(calm).codes
        np.testing.assert_array_equal(done[outside], photo.codes[outside])


class Patches(unittest.TestCase):
    def test_they_lie_apart_and_within_what_is_wanted(self) -> None:
        rng = np.random.default_rng(3)
        spread = rng.random((80, 120)).astype(np.float32)
        wanted = np.zeros((80, 120), dtype=bool)
        wanted[:, :60] = True
        found = _patches(wanted, spread, (1200, 800), 64)
        self.assertGreater(len(found), 3)
        boxes = [view.region for view in found]
        for i, (x0, y0, x1, y1) in enumerate(boxes):
            self.assertLessEqual(x1, 600)
            for a0, b0, a1, b1 in boxes[:i]:
                apart = x1 <= a0 or a1 <= x0 or y1 <= b0 or b1 <= y0
                self.assertTrue(apart, (boxes[i], (a0, b0, a1, b1)))


if __name__ == "__main__":
    unittest.main()
