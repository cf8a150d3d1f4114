"""Pixels and figures over HTTP."""

import base64
import io
from pathlib import Path

import numpy as np
from django.conf import settings
from PIL import Image

from config.tests.cases import ServerCase, glowing_wall, recipe_document
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from shoots.store import original_path
from studio.engines import EnginePool


class Pictures(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def picture(self, **more: object):  # type: ignore[no-untyped-def]
        body = {"recipe": recipe_document(), "size": [120, 80], "region": [0, 0, 120, 80]} | more
        return self.send("post", f"/photos/{self.row.id}/picture", body)

    def pixels(self, **more: object) -> np.ndarray:
        response = self.picture(**more)
        self.assertEqual(response["Content-Type"], "image/jpeg")
        return np.asarray(Image.open(io.BytesIO(response.content))).astype(int)

    def test_before_and_now(self) -> None:
        before, now = self.pixels(show="before"), self.pixels()
        self.assertLess(np.abs(before - glowing_wall()).mean(), 2.0)
        self.assertLess(np.abs(now - before)[:, 70:].max(), 6)
        spot = np.s_[30:40, 22:27]
        spread = [np.ptp(p[spot].mean(axis=(0, 1))) for p in (before, now)]
        self.assertLess(spread[1], 0.5 * spread[0])

    def test_regions_and_matte(self) -> None:
        self.assertEqual(self.pixels(size=[60, 40], region=[10, 5, 41, 33]).shape, (28, 31, 3))
        matte = self.pixels(show="matte", cast="a")
        self.assertGreater(matte[30, 24].min(), 240)
        self.assertLess(matte[30, 100].max(), 10)

    def test_the_pixels_behind_a_figure(self) -> None:
        shown = self.pixels(figure={"key": "tainted"}, cast="a")
        colour = shown.max(axis=2) - shown.min(axis=2)
        self.assertGreater(colour[30:40, 20:28].mean(), 20)  # masked, and moved
        self.assertLess(colour[:, 80:].mean(), 4)
        self.refused(self.picture(figure={"key": "masked"}, cast="x"), 422, "no such cast")
        self.refused(self.picture(figure={"key": "charm"}), 422, "figure")

    def test_a_draft_is_smaller_and_nearly_the_same(self) -> None:
        full, draft = self.picture().content, self.picture(draft=True).content
        self.assertLess(len(draft), len(full))
        self.assertLess(np.abs(self.pixels(draft=True) - self.pixels()).mean(), 3.0)

    def test_impossible_views(self) -> None:
        self.refused(self.picture(region=[0, 0, 121, 80]), 422, "outside")
        self.refused(self.picture(size=[240, 160]), 422, "does not fit")
        self.refused(self.picture(region=[5, 5, 5, 9]), 422, "outside")
        self.refused(self.picture(show="sideways"), 422, "show")

    def test_measuring(self) -> None:
        body = {"at": [0.2, 0.3], "radius": 0.02, "patch": True, "recipe": recipe_document()}
        told = self.send("post", f"/photos/{self.row.id}/measure", body).json()
        self.assertGreater(told["before"]["lab"][1], 5.0)
        self.assertLess(abs(told["now"]["lab"][1]), 0.6 * told["before"]["lab"][1])
        self.assertEqual(len(set(told["neutral"]["rgb"])), 1)
        png = base64.b64decode(told["patch"].removeprefix("data:image/png;base64,"))
        self.assertEqual(Image.open(io.BytesIO(png)).size, (told["patch_pixels"],) * 2)

    def test_places_outside(self) -> None:
        for at in ([1.0, 0.1], [0.1, 0.7], [-0.5, 0.1]):
            self.refused(
                self.send("post", f"/photos/{self.row.id}/measure", {"at": at}), 422, "outside"
            )
        self.refused(
            self.send("post", f"/photos/{self.row.id}/measure", {"at": [99, 0]}), 422, "at"
        )

    def test_proof(self) -> None:
        answer = self.send(
            "post", f"/photos/{self.row.id}/proof", {"recipe": recipe_document()}
        ).json()
        told, figures = answer["proof"], answer["figures"]
        cast = told["casts"][0]
        self.assertLess(cast["after"], 0.5 * cast["before"])
        self.assertEqual(told["outside"]["most"], 0.0)
        self.assertEqual(cast["towards"], "red")
        distance = figures["casts"][cast["id"]][0]
        self.assertEqual((distance["before"], distance["now"]), (cast["before"], cast["after"]))

    def test_a_key_round_colours(self) -> None:
        body = {"id": "k", "colours": [[0.4, 0.28, 0.25]]}
        key = self.send("post", f"/photos/{self.row.id}/key", body).json()
        self.assertEqual((key["kind"], key["id"]), ("colour-key", "k"))
        self.assertLess(key["hue"]["core"][0], key["hue"]["core"][1])
        self.refused(
            self.send("post", f"/photos/{self.row.id}/key", {"id": "k", "colours": []}),
            422,
            "colours",
        )

    def test_the_thumbnail_shows_the_treated_photo(self) -> None:
        address = f"/api/photos/{self.row.id}/thumbnail"
        untouched = self.client.get(f"{address}?revision=0").content
        self.send(
            "put", f"/photos/{self.row.id}/recipe", {"revision": 0, "recipe": recipe_document()}
        )
        treated = self.client.get(f"{address}?revision=1").content
        self.assertNotEqual(treated, untouched)
        body = {"revision": 1, "recipe": recipe_document(0.5)}
        self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.assertNotEqual(self.client.get(f"{address}?revision=2").content, treated)
        self.assertEqual(len(list(Path(settings.THUMBNAILS).rglob("*.jpg"))), 2)

    def test_a_missing_original_says_so(self) -> None:
        other = self.photo(seed=99)
        original_path(other.content_hash).unlink()
        body = {"recipe": recipe_document()}
        self.refused(self.send("post", f"/photos/{other.id}/proof", body), 422, "missing")


class Pool(ServerCase):
    def test_engines_are_kept_and_forgotten(self) -> None:
        photos = [self.photo(seed=s) for s in range(3)]
        pool = EnginePool(limit_bytes=int(2.5 * 3 * 120 * 80))  # room for the codes of two
        first = pool.get(photos[0])
        self.assertIs(pool.get(Photo.objects.get(id=photos[0].id)), first)
        pool.get(photos[1])
        self.assertIs(pool.get(photos[0]), first)
        pool.get(photos[2])
        self.assertIs(pool.get(photos[0]), first)

    def test_results_are_let_go_of_before_photos_are(self) -> None:
        photos = [self.photo(seed=s) for s in range(3)]
        codes = 3 * 120 * 80
        pool = EnginePool(limit_bytes=8 * codes)
        first = pool.get(photos[0])
        view = first.analysis_view
        first.mask(Mask(parts=(Whole(id="w"),)), view)
        first.render(Recipe.model_validate(recipe_document()), view)
        self.assertGreater(first.held_bytes, 6 * codes)
        pool.get(photos[1])
        pool.get(photos[2])
        self.assertEqual(first.held_bytes, codes)
        self.assertIs(pool.get(photos[0]), first)
        self.assertLessEqual(pool.held_bytes, 8 * codes)
