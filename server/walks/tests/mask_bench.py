"""The mask bench in a browser: parts added, dragged, and read back as saved."""

from collections.abc import Sequence
from typing import Any, ClassVar

import numpy as np

from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import Mask
from nubilis.photo.pyramid import View
from nubilis.planning import sample_at
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.neutralise import Neutralise
from shoots.models import Photo
from studio.engines import engines
from studio.services.save_recipe import save_recipe
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, SHIRT

Point = tuple[float, float]
Way = tuple[Point, ...]


DOWN_THE_GLOW: Way = ((366, 340), (366, 560))


def sample_shirt(row: Photo, strokes: Sequence[Way] = ()) -> None:
    """Save what one has after sampling the tainted shirt and the clean one, and painting so."""
    engine = engines.get(row)
    tainted, reference = (sample_at(engine, place) for place in (SHIRT, CLEAN_SHIRT))
    cast = Cast(
        id="cast",
        pairs=(Pair(id="pair", tainted=tainted, reference=reference),),
        remedies=(Neutralise(id="neutralise"),),
    )
    state = save_recipe(row, row.revision, Recipe(casts=(cast,)), row.shoot.owner)
    if strokes:
        brush = Brush(id="brush", strokes=tuple(map(_stroke, strokes)))
        cast = cast.model_copy(update={"mask": Mask(parts=(brush,))})
        save_recipe(row, state.revision, Recipe(casts=(cast,)), row.shoot.owner)


def _stroke(way: Way) -> Stroke:
    """As the resting brush paints."""
    points = tuple(((x / 1200, y / 1200), 1.0) for x, y in way)
    return Stroke(size=0.12, feather=0.6, points=points)


class MaskBenchCase(BrowserCase):
    """A photo open, a pair sampled. painted: its mask already; without any there is none
    yet."""

    painted: ClassVar[tuple[Way, ...]] = ()

    def setUp(self) -> None:
        super().setUp()
        self.row = self.shoot.photos.get(title="Curtain call")
        sample_shirt(self.row, self.painted)
        self.screen = self.go_to("Curtain call")
        if not self.painted:
            self.page.keyboard.press("p")

    def add(self, name: str) -> None:
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name=name).click()

    def drag(self, *points: Point) -> None:
        self.page.mouse.move(*self.screen.at(*points[0]))
        self.page.mouse.down()
        for point in points[1:]:
            self.page.mouse.move(*self.screen.at(*point), steps=6)
        self.page.mouse.up()

    def casts(self) -> list[dict[str, Any]]:
        self.screen.wait_saved()
        return list(saved_recipe(self.row.id)["casts"])

    def parts(self, kinds: list[str]) -> list[dict[str, Any]]:
        """The saved parts, once they are of these kinds."""
        self.until(lambda: self.assertEqual([p["kind"] for p in self.saved_parts()], kinds))
        return self.saved_parts()

    def saved_parts(self) -> list[dict[str, Any]]:
        return list(self.casts()[0]["mask"]["parts"])

    def mask(self) -> np.ndarray:
        """The engine's own, of the last saved recipe."""
        recipe = Recipe.model_validate(saved_recipe(self.row.id))
        view = View((1200, 800), (0, 0, 1200, 800))
        return engines.get(self.row).mask(recipe.casts[0].mask, view, recipe.state)
