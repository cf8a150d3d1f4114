"""Masks taken out as grey pictures and brought in again, and kept apart from the recipes."""

from typing import Any
from unittest import mock

import imagecodecs
import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from config.tests.cases import ServerCase, recipe_document
from nubilis.engine import engine as engine_module
from nubilis.engine.engine import Engine
from nubilis.photo.grey import read_grey
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots.models import Shoot
from shoots.store import asset_path
from studio.engines import engines


class Masks(ServerCase):
    def ask(self, photo_id: int, **more: object) -> object:
        body = {"recipe": recipe_document(), "cast": "a"} | more
        return self.send("post", f"/photos/{photo_id}/mask", body)

    def test_out_and_in_again_as_a_part(self) -> None:
        photo = self.photo()
        answer = self.ask(photo.id, file_format="png16")
        self.assertIn("wall-mask.png", answer.headers["Content-Disposition"])
        read = imagecodecs.png_decode(answer.content)
        engine: Engine = engines.get(photo)
        mask = Recipe.model_validate(recipe_document()).casts[0].mask
        wanted = engine.mask(mask, View((120, 80), (0, 0, 120, 80)))
        np.testing.assert_allclose(read / 65535.0, wanted, atol=2e-5)
        file = SimpleUploadedFile("mask.png", answer.content)
        path = f"/api/photos/{photo.id}/mask-picture"
        part = self.client.post(path, {"file": file, "id": "in"}).json()
        self.assertEqual((part["kind"], part["id"]), ("picture", "in"))

    def brought_in(self, photo_id: int, grey: np.ndarray) -> dict[str, Any]:
        file = SimpleUploadedFile("mask.png", bytes(imagecodecs.png_encode(grey)))
        path = f"/api/photos/{photo_id}/mask-picture"
        return dict(self.client.post(path, {"file": file, "id": "in"}).json())

    def with_part(self, part: dict[str, Any]) -> dict[str, Any]:
        recipe = recipe_document()
        recipe["casts"][0]["mask"]["parts"].append(part | {"join": "intersect"})
        return recipe

    def save(self, photo_id: int, recipe: dict[str, Any], revision: int = 0) -> Any:
        body = {"revision": revision, "recipe": recipe}
        return self.send("put", f"/photos/{photo_id}/recipe", body)

    def test_a_picture_is_decoded_once_for_all_that_is_asked(self) -> None:
        photo = self.photo()
        grey = np.tile(np.arange(120, dtype=np.uint8) * 2, (80, 1))
        recipe = self.with_part(self.brought_in(photo.id, grey))
        with mock.patch.object(engine_module, "read_grey", wraps=read_grey) as decoded:
            self.assertEqual(self.save(photo.id, recipe).status_code, 200)
            self.client.get(f"/api/photos/{photo.id}")
            self.client.get(f"/api/photos/{photo.id}/history")
            self.assertEqual(decoded.call_count, 0)
            view = {"size": [120, 80], "region": [0, 0, 120, 80]}
            for amount in (0.2, 0.5):
                recipe["casts"][0]["remedies"][0]["amount"] = amount
                picture = self.send(
                    "post", f"/photos/{photo.id}/picture", {"recipe": recipe} | view
                )
                self.assertEqual(picture.status_code, 200)
            self.send("post", f"/photos/{photo.id}/proof", {"recipe": recipe})
            self.send("post", f"/photos/{photo.id}/measure", {"recipe": recipe, "at": [0.2, 0.3]})
            self.client.get(f"/api/photos/{photo.id}/thumbnail")
            self.assertEqual(decoded.call_count, 1)

    def test_a_picture_goes_with_the_last_photo_that_needs_it(self) -> None:
        one, two = self.photo(), self.photo(seed=2)
        part = self.brought_in(one.id, np.full((80, 120), 9, np.uint8))
        path = asset_path(part["asset"]["sha256"])
        self.save(one.id, self.with_part(part))
        self.save(one.id, recipe_document(), 1)
        self.save(two.id, self.with_part(part))
        self.client.post(f"/api/photos/{one.id}/undo", {"revision": 2}, "application/json")
        for photo, there in ((one, True), (two, False)):
            with self.captureOnCommitCallbacks(execute=True):
                self.throw_away(photo)
            self.assertEqual(path.exists(), there)

    def test_what_is_not_one_s_own_is_not_there(self) -> None:
        part = self.brought_in(self.photo().id, np.full((80, 120), 9, np.uint8))
        stranger = Shoot.objects.create(owner=self.other, name="Theirs")
        theirs = self.photo(stranger)
        self.client.force_login(self.other)
        recipe = self.with_part(part)
        self.refused(self.save(theirs.id, recipe), 422, "not here")
        view = {"recipe": recipe, "size": [120, 80], "region": [0, 0, 120, 80]}
        self.refused(self.send("post", f"/photos/{theirs.id}/picture", view), 422, "not here")
        self.refused(
            self.send("post", f"/photos/{theirs.id}/proof", {"recipe": recipe}), 422, "not here"
        )
        unknown = self.with_part(part | {"asset": part["asset"] | {"sha256": "0" * 64}})
        self.refused(self.save(theirs.id, unknown), 422, "not here")

    def test_a_lost_file_is_told_in_one_line(self) -> None:
        photo = self.photo()
        part = self.brought_in(photo.id, np.full((80, 120), 9, np.uint8))
        asset_path(part["asset"]["sha256"]).unlink()
        view = {"recipe": self.with_part(part), "size": [120, 80], "region": [0, 0, 120, 80]}
        self.refused(self.send("post", f"/photos/{photo.id}/picture", view), 422, "missing on")

    def test_one_part_alone_and_what_is_not_there(self) -> None:
        photo = self.photo()
        self.assertEqual(self.ask(photo.id, part="b", file_format="tiff").status_code, 200)
        self.refused(self.ask(photo.id, part="z"), 422, "no such part")
        self.refused(self.ask(photo.id, cast="z"), 422, "no such cast")
        self.refused(self.ask(photo.id, file_format="jpeg"), 422, "file_format")
        self.client.force_login(self.other)
        self.refused(self.ask(photo.id), 404, "not yours")

    def test_a_picture_of_another_size_is_refused(self) -> None:
        photo = self.photo()
        path = f"/api/photos/{photo.id}/mask-picture"
        for data, told in (
            (imagecodecs.png_encode(np.zeros((5, 5), np.uint8)), "5 x 5"),
            (b"nothing of the kind", "not a"),
        ):
            file = SimpleUploadedFile("mask.png", bytes(data))
            self.refused(self.client.post(path, {"file": file, "id": "in"}), 422, told)

    def test_what_lies_under_a_place(self) -> None:
        photo = self.photo()
        path = f"/photos/{photo.id}/parts-at"
        for at, parts in (((0.2, 0.3), ["b"]), ((0.9, 0.3), [])):
            found = self.send("post", path, {"recipe": recipe_document(), "at": at}).json()
            self.assertEqual([f["part"] for f in found], parts)

    def test_how_much_of_a_cast_lies_under_a_place(self) -> None:
        photo = self.photo()
        path = f"/photos/{photo.id}/amount-at"
        recipe = recipe_document()
        there = self.send("post", path, {"recipe": recipe, "cast": "a", "at": (0.2, 0.3)}).json()
        # The wall's glow has faded to a half there, but the pair measured there says all of it.
        self.assertTrue(0.5 < there["amount"] < 1.05, there)
        touch = {"id": "t", "at": [0.2, 0.3], "amount": 0.25}
        recipe["casts"][0]["touches"] = [touch]
        touched = self.send("post", path, {"recipe": recipe, "cast": "a", "at": (0.2, 0.3)}).json()
        self.assertAlmostEqual(touched["amount"], 0.25, delta=0.06)
        for cast, at in (("a", (0.9, 0.3)), ("z", (0.2, 0.3))):
            asked = {"recipe": recipe, "cast": cast, "at": at}
            self.assertIsNone(self.send("post", path, asked).json()["amount"])
        recipe["casts"][0]["touches"] = [touch | {"amount": 5}]
        refused = self.send("post", path, {"recipe": recipe, "cast": "a", "at": (0.2, 0.3)})
        self.refused(refused, 422, "touches")

    def test_drawn_in_an_ink_and_one_part_alone(self) -> None:
        photo = self.photo()
        view = {"size": [120, 80], "region": [0, 0, 120, 80], "cast": "a"}
        ask = {"recipe": recipe_document(), **view, "show": "outline"}
        pictures = []
        for more in ({}, {"ink": {"hue": 150.0}}, {"part": "b"}, {"show": "now"}):
            answer = self.send("post", f"/photos/{photo.id}/picture", ask | more)
            pictures.append(imagecodecs.jpeg8_decode(answer.content).astype(int))
        own, green, part, bare = pictures
        self.assertGreater(np.abs(own - bare).max(), 60)
        self.assertGreater(np.abs(own - green).max(), 30)
        np.testing.assert_array_equal(own, part)
        self.assertLess(np.abs(own - bare)[:, 100:].max(), 12)
        refused = self.send("post", f"/photos/{photo.id}/picture", ask | {"part": "z"})
        self.refused(refused, 422, "no such part")
