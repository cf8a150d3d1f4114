"""The pixels that are shown for a figure are those that it counts."""

import unittest

import numpy as np

from nubilis.engine.engine import Engine
from nubilis.errors import PlaceError
from nubilis.mask.oval import Oval
from nubilis.planning import sample_at
from nubilis.proof.casts import prove_outcome
from nubilis.proof.figures import FULL_INK, figures_of
from nubilis.proof.outcome import Outcome
from nubilis.proof.pixels import inked, pixels, pixels_picture
from nubilis.recipe.document import Guard

from .pictures import recipe_for, wall_photo

OVAL = Oval(id="o", centre=(0.3, 0.3), radii=(0.25, 0.2), inside=0.1, outside=0.1)


class Pixels(unittest.TestCase):
    def setUp(self) -> None:
        photo = wall_photo()
        recipe = recipe_for(photo, OVAL)
        guard = Guard(id="g", sample=sample_at(Engine(photo), (5.0, 20.0)))
        cast = recipe.casts[0].model_copy(update={"guards": (guard,)})
        self.outcome = Outcome(Engine(photo), recipe.model_copy(update={"casts": (cast,)}))
        self.proof = prove_outcome(self.outcome)

    def of(self, key: str, when: str = "now") -> np.ndarray:
        return pixels(self.outcome, key, when, "cast")  # type: ignore[arg-type]

    def test_every_figure_has_a_picture(self) -> None:
        figures = figures_of(self.proof)
        told = (*figures.casts["cast"], *figures.photo)
        self.assertEqual({f.key for f in told}, set(FULL_INK) - {"skin"})
        for figure in told:
            picture = pixels_picture(self.outcome, figure.key, "now", "cast")
            self.assertEqual(picture.shape, (200, 300, 3))

    def test_the_few_that_stand_on_the_bench(self) -> None:
        figures = figures_of(self.proof)
        told = (*figures.casts["cast"], *figures.photo)
        self.assertEqual(len({f.name for f in told}), len(told))
        brief = [f.name for f in told if f.brief]
        of_cast = ["Distance to reference", "Lightness change", "Moved where clean, 95 %"]
        of_photo = ["Outside the masks, most", "Newly clipped"]
        self.assertEqual(brief, [*of_cast, "Kept colours, most", *of_photo])
        for figure in told:
            if figure.part:
                self.assertTrue(figure.name.endswith(f", {figure.part}"))

    def test_planes_sum_up_to_the_figures(self) -> None:
        besides = self.proof.casts[0].besides
        assert besides is not None and besides.clean is not None
        for key, moved in (("tainted", besides.tainted), ("clean", besides.clean)):
            shown = self.of(key)
            self.assertAlmostEqual(
                float(shown.sum() / shown.size), moved.share * moved.mean, delta=1e-3
            )
            self.assertAlmostEqual(float(shown.max()), moved.most, delta=1e-4)
        self.assertEqual(float(self.of("outside").max()), self.proof.outside.most)
        mask = self.of("masked")
        self.assertAlmostEqual(float((mask > 0.5).mean()), self.proof.casts[0].area, delta=1e-6)
        self.assertGreaterEqual(float(self.of("lightness").min()), 0.0)

    def test_samples_are_drawn_where_they_lie(self) -> None:
        x, y = 15, 100  # the pair's tainted sample
        for when, value in (
            ("before", self.proof.casts[0].before),
            ("now", self.proof.casts[0].after),
        ):
            self.assertAlmostEqual(float(self.of("distance", when)[y, x]), value or 0.0, delta=1e-3)
        self.assertEqual(float(self.of("distance")[150, 200]), 0.0)
        moved = self.proof.casts[0].guards[0].moved
        self.assertAlmostEqual(float(self.of("kept")[20, 5]), moved, delta=1e-3)

    def test_noise_is_told_before_and_now(self) -> None:
        before, now = self.of("noise", "before"), self.of("noise", "now")
        besides = self.proof.casts[0].besides
        assert besides is not None
        grew = besides.noise_after > besides.noise_before
        self.assertEqual(float(now.sum()) > float(before.sum()), grew)

    def test_ink_lies_only_where_something_is_counted(self) -> None:
        ink = np.zeros((4, 6), dtype=np.float32)
        ink[1, 2] = 1.0
        codes = inked(np.full((4, 6), 50.0, dtype=np.float32), ink).astype(int)
        colourful = codes.max(axis=2) - codes.min(axis=2) > 3
        self.assertEqual(colourful.tolist(), (ink > 0).tolist())

    def test_a_cast_that_is_not_there(self) -> None:
        with self.assertRaises(PlaceError):
            pixels(self.outcome, "masked", "now", "nobody")


if __name__ == "__main__":
    unittest.main()
