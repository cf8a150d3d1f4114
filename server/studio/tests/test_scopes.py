"""The instruments over HTTP."""

import base64
import io
from typing import Any

import numpy as np
from PIL import Image

from config.tests.cases import ServerCase, recipe_document
from nubilis.recipe.document import VERSION


def alpha_of(address: str) -> np.ndarray:
    png = base64.b64decode(address.removeprefix("data:image/png;base64,"))
    return np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"))[..., 3]


class Scopes(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def scopes(self, **more: Any) -> Any:
        body = {"recipe": recipe_document()} | more
        response = self.send("post", f"/photos/{self.row.id}/scopes", body)
        self.assertEqual(response.status_code, 200, response.content[:300])
        return response.json()

    def test_a_mask_s_scope_follows_the_amount_and_its_outline_does_not(self) -> None:
        one, two = (self.scopes(recipe=recipe_document(amount=a), cast="a") for a in (0.0, 1.0))
        self.assertNotEqual(one["ab"]["picture"], two["ab"]["picture"])
        self.assertEqual(one["ab"]["outline"], two["ab"]["outline"])
        self.assertGreater(alpha_of(one["vectorscope"]["picture"]).max(), 200)

    def test_a_rectangle_counts_what_lies_in_it(self) -> None:
        left, right = (self.scopes(box=box) for box in ([0.0, 0.0, 0.4, 0.6], [0.6, 0.0, 1.0, 0.6]))
        self.assertNotEqual(left["before"], right["before"])
        self.assertEqual((len(left["before"]), len(left["before"][0])), (4, 64))

    def test_wrong_areas_are_refused(self) -> None:
        for more in ({"box": [0.0, 0.0, 2.0, 1.0]}, {"zoom": 3}, {"cast": "zz"}):
            body = {"recipe": recipe_document()} | more
            response = self.send("post", f"/photos/{self.row.id}/scopes", body)
            self.assertEqual(response.status_code, 422)


class Base(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def test_a_picked_neutral_gives_the_light_that_makes_it_one(self) -> None:
        place = {"at": [0.2, 0.3], "radius": 0.02}
        came = self.send("post", f"/photos/{self.row.id}/measure", place).json()["came"]
        light = self.send("post", f"/photos/{self.row.id}/light", {"colour": came}).json()
        self.assertLess(light["temperature"], 6500)
        recipe = {"format": "nubilis-recipe", "version": VERSION, "casts": [], "base": light}
        measured = self.send(
            "post", f"/photos/{self.row.id}/measure", place | {"recipe": recipe}
        ).json()
        self.assertLess(np.hypot(*measured["before"]["lab"][1:]), 0.6)
        self.assertEqual(measured["came"], came)

    def test_settings_out_of_range_are_refused(self) -> None:
        recipe = {"format": "nubilis-recipe", "version": VERSION, "base": {"temperature": 900}}
        body = {"revision": 0, "recipe": recipe}
        response = self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.refused(response, 422, "temperature")
