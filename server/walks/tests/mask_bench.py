"""The mask bench in a browser: parts added, dragged, and read back as saved."""

from typing import Any

import numpy as np

from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, SHIRT

Point = tuple[float, float]


class MaskBenchCase(BrowserCase):
    """A photo open, a pair sampled, no mask yet."""

    def setUp(self) -> None:
        super().setUp()
        self.open_demo()
        self.screen = self.open_photo("Curtain call")
        self.row = Photo.objects.get(title="Curtain call")
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)

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
