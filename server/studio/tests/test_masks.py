"""Masks taken out as grey pictures and brought in again."""

import imagecodecs
import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from config.tests.cases import ServerCase, recipe_document
from nubilis.engine import Engine
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
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

    def test_ready_keys(self) -> None:
        names = self.client.get("/api/ready-keys").json()
        self.assertIn("Deep skins", names)
        key = self.client.get("/api/ready-keys/Skies?id=k1").json()
        self.assertEqual((key["kind"], key["id"]), ("colour-key", "k1"))
        self.refused(self.client.get("/api/ready-keys/Cats?id=k1"), 422, "no key named")
