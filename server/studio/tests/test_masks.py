"""Masks taken out as grey pictures and brought in again."""

import imagecodecs
import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from config.tests.cases import ServerCase, recipe_document
from nubilis.engine.engine import Engine
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

    def test_what_lies_under_a_place(self) -> None:
        photo = self.photo()
        path = f"/photos/{photo.id}/parts-at"
        for at, parts in (((0.2, 0.3), ["b"]), ((0.9, 0.3), [])):
            found = self.send("post", path, {"recipe": recipe_document(), "at": at}).json()
            self.assertEqual([f["part"] for f in found], parts)

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
