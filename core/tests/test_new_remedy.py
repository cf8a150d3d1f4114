"""A made-up remedy: its file would hold no more than this class, and nothing else in the core knows it."""

import unittest
from typing import ClassVar, Literal

import numpy as np

from nubilis.arrays import Floats
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import decode
from nubilis.proof.touches import touches
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.model import Share
from nubilis.remedy.remedy import Ground, Remedy, Statistic

from .pictures import brush, wall_photo

MEASURED: list[str] = []


def _brightest(rgb: Floats) -> float:
    MEASURED.append("photo")
    return float(rgb.max())


def _mean_inside(rgb: Floats, mask: Floats) -> Floats:
    MEASURED.append("mask")
    return np.asarray((rgb * mask).sum(axis=(1, 2)) / max(float(mask.sum()), 1.0))


BRIGHTEST = Statistic("brightest", _brightest)
MEAN_INSIDE = Statistic("mean inside the mask", _mean_inside, of_mask=True)


class Tame(Remedy):
    """Every colour drawn towards the mean of what is masked. reach: how far."""

    statistics: ClassVar[tuple[Statistic, ...]] = (BRIGHTEST, MEAN_INSIDE)

    kind: Literal["tame"] = "tame"
    reach: Share = 0.5

    def applied(self, rgb: Floats, mask: Floats, ground: Ground) -> Floats:
        mean = ground.measured(MEAN_INSIDE)[:, None, None]
        top = ground.measured(BRIGHTEST)
        share = np.float32(self.amount * self.reach) * mask
        return np.asarray(np.minimum(rgb + share * (mean - rgb), top), dtype=np.float32)


def tamed(*parts: object, **more: float) -> Recipe:
    """As if the kind stood in the registry."""
    remedy = Tame(id="t", **more)  # type: ignore[arg-type]
    cast = Cast(id="c", mask=Mask(parts=parts))  # type: ignore[arg-type]
    return Recipe(casts=(cast.model_copy(update={"remedies": (remedy,)}),))


class NewRemedy(unittest.TestCase):
    def setUp(self) -> None:
        MEASURED.clear()
        self.photo = wall_photo(300, 1500)
        self.engine = Engine(self.photo)

    def test_it_is_measured_once_whatever_is_asked_for(self) -> None:
        for reach in (0.2, 0.9):
            recipe = tamed(brush(), reach=reach)
            for edge in (1500, 400, 120):
                self.engine.render(recipe, View.fit(self.photo, edge))
            self.engine.deliver(recipe)
        self.assertEqual(sorted(MEASURED), ["mask", "photo"])
        self.engine.render(tamed(Whole(id="w")), self.engine.analysis_view)
        self.assertEqual(sorted(MEASURED), ["mask", "mask", "photo"])

    def test_preview_and_delivery_agree_and_nothing_else_moves(self) -> None:
        recipe = tamed(brush(), reach=0.8)
        view = View((1500, 300), (0, 0, 1500, 300))
        shown, done = self.engine.render(recipe, view), self.engine.deliver(recipe).codes
        np.testing.assert_allclose(decode(done, self.photo.profile), shown, atol=6e-3)
        outside = self.engine.mask(recipe.casts[0].mask, view) == 0.0
        np.testing.assert_array_equal(done[outside], self.photo.codes[outside])
        self.assertGreater(float((done != self.photo.codes)[~outside].mean()), 0.2)

    def test_the_chart_of_colours_shows_it_too(self) -> None:
        recipe = tamed(brush())
        chart = touches(self.engine, recipe, "c").chart
        self.assertGreater(len(chart), 50)
        # Each colour of the chart stands alone, and its own mean is itself.
        for point in chart:
            np.testing.assert_allclose(point.after.lab, point.before.lab, atol=0.02)


if __name__ == "__main__":
    unittest.main()
