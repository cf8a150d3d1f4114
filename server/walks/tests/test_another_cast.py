"""Two casts under one mask, in the browser: the other one is told, and becomes a cast of its own."""

import json

import numpy as np
from playwright.sync_api import expect

from config.tests.cases import png_bytes
from nubilis.engine.engine import Engine
from nubilis.mask.combine import Mask
from nubilis.mask.oval import Oval
from nubilis.photo.read import read_photo
from nubilis.planning import sample_at
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.neutralise import Neutralise
from shoots.services.add_photo import add_photo
from walks.tests.browser import BrowserCase, saved_recipe


def lit_from_both_sides() -> np.ndarray:
    """Paints that stand at many places each; amber light from the left, blue from the right."""
    rng = np.random.default_rng(4)
    palette = rng.uniform(90, 170, (14, 1)) * rng.uniform(0.9, 1.12, (14, 3))
    tiles = palette[rng.integers(0, 14, (20, 30))]
    codes = np.kron(tiles, np.ones((16, 16, 1))) * (1 + rng.normal(0, 0.01, (320, 480, 1)))
    x = np.linspace(0.0, 1.0, 480)
    left, right = (np.clip(1.0 - v / 0.42, 0.0, 1.0)[None, :, None] for v in (x, 1.0 - x))
    amber, blue = np.array([0.20, 0.02, -0.28]), np.array([-0.16, 0.0, 0.24])
    return np.asarray(codes * (1 + left * amber) * (1 + right * blue) + 0.5, dtype=np.uint8)


class AnotherCast(BrowserCase):
    photos = ("Curtain call",)

    def setUp(self) -> None:
        super().setUp()
        path = self.folder / "stage.png"
        path.write_bytes(png_bytes(lit_from_both_sides()))
        self.photo = add_photo(self.shoot, path, "stage.png")[0]
        engine = Engine(read_photo(path))
        tainted, clean = (sample_at(engine, at) for at in self.twins(engine))
        ovals = (
            Oval(id=name, centre=(x, 0.33), radii=(0.3, 0.5), inside=0.0, outside=0.1)
            for name, x in (("left", 0.12), ("right", 0.88))
        )
        cast = Cast(
            id="amber",
            pairs=(Pair(id="p", tainted=tainted, reference=clean),),
            mask=Mask(parts=tuple(ovals)),
            remedies=(Neutralise(id="n"),),
        )
        document = json.loads(Recipe(casts=(cast,)).model_dump_json())
        self.client.force_login(self.demo_user())
        body = json.dumps({"revision": 0, "recipe": document})
        saved = self.client.put(f"/api/photos/{self.photo.id}/recipe", body, "application/json")
        self.assertEqual(saved.status_code, 200, saved.content[:300])

    def twins(self, engine: Engine) -> list[tuple[float, float]]:
        """A tile in the amber light and one of the same paint between the lights."""
        rng = np.random.default_rng(4)
        rng.uniform(90, 170, (14, 1)), rng.uniform(0.9, 1.12, (14, 3))
        paints = rng.integers(0, 14, (20, 30))
        row, column = next((r, c) for r in range(8, 12) for c in (3,))
        twin = next(
            (r, c) for c in (14, 15) for r in range(20) if paints[r, c] == paints[row, column]
        )
        return [(c * 16 + 8.0, r * 16 + 8.0) for r, c in ((row, column), twin)]

    def test_it_is_told_and_becomes_a_cast_of_its_own(self) -> None:
        page = self.page
        screen = self.go_to("stage")
        concern = page.get_by_role("list", name="Concerns").get_by_text("Another cast may lie here")
        expect(concern).to_be_visible()
        page.get_by_role("button", name="Cast of its own").click()
        expect(page.get_by_text("needs a reference")).to_be_visible()
        screen.wait_saved()
        _, own = saved_recipe(self.photo.id)["casts"]
        self.assertEqual(own["mask"]["parts"][0]["cast"], "amber")
        self.assertGreater(own["pairs"][0]["tainted"]["at"][0], 0.6)
