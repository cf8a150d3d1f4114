"""Looks that a person keeps, and a treatment's colours as a table, through the API."""

from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from config.tests.cases import ServerCase
from looks.services import keep as looks
from nubilis.look.cube import Cube, identity, read_cube, write_cube
from nubilis.recipe.document import VERSION
from shoots.models import Stored
from shoots.store import asset_path

EMPTY = {"format": "nubilis-recipe", "version": VERSION, "casts": []}


def cube_file(title: str, light: float) -> bytes:
    return write_cube(Cube(title, 3, np.asarray(identity(3) * light, dtype=np.float32)))


class KeptLooks(ServerCase):
    def own(self) -> list[dict[str, Any]]:
        return [k for k in self.client.get("/api/looks").json() if k["id"]]

    def bring_in(self, data: bytes, name: str = "") -> Any:
        file = SimpleUploadedFile("dusk.cube", data)
        return self.client.post("/api/looks", {"file": file, "name": name})

    def test_kept_under_its_title_replaced_and_forgotten(self) -> None:
        kept = self.bring_in(cube_file("Dusk", 0.5)).json()
        self.assertEqual((kept["name"], kept["table"]["name"]), ("Dusk", "Dusk"))
        first = kept["table"]["sha256"]
        self.bring_in(cube_file("other", 0.7), " Dusk ")
        (kept,) = self.own()
        self.assertNotEqual(kept["table"]["sha256"], first)
        self.assertFalse(asset_path(first).exists())  # nobody has a use for it any more
        self.assertEqual(self.client.delete(f"/api/looks/{kept['id']}").status_code, 204)
        self.assertEqual(self.own(), [])
        self.assertFalse(Stored.objects.filter(there=True, kind="asset").exists())

    def test_laid_on_a_photo_it_stays_there_when_it_is_forgotten(self) -> None:
        photo = self.photo()
        kept = self.bring_in(cube_file("Dusk", 0.5)).json()
        look = {"id": "look", "kind": "look", "table": kept["table"]}
        body = {"revision": 0, "recipe": EMPTY | {"look": look}}
        saved = self.send("put", f"/photos/{photo.id}/recipe", body)
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        self.client.delete(f"/api/looks/{kept['id']}")
        self.assertTrue(asset_path(kept["table"]["sha256"]).is_file())
        again = self.send("put", f"/photos/{photo.id}/recipe", body | {"revision": 1})
        self.assertEqual(again.status_code, 200)

    def test_other_people_s_are_not_there(self) -> None:
        kept = self.bring_in(cube_file("Dusk", 0.5)).json()
        self.client.force_login(self.other)
        self.assertEqual(self.own(), [])
        self.assertEqual(self.client.delete(f"/api/looks/{kept['id']}").status_code, 404)

    def test_what_is_no_table_or_too_many_is_refused_in_one_line(self) -> None:
        self.refused(self.bring_in(b"LUT_3D_SIZE 3\n0 0 0\n"), 422, "asks for 27")
        most = looks.MOST
        looks.MOST = 1
        self.addCleanup(setattr, looks, "MOST", most)
        self.bring_in(cube_file("Dusk", 0.5))
        self.refused(self.bring_in(cube_file("Dawn", 0.7)), 413, "nothing was added")
        self.assertEqual([k["name"] for k in self.own()], ["Dusk"])
        self.assertEqual(self.bring_in(cube_file("Dusk", 0.6)).status_code, 200)

    def test_colours_go_out_in_srgb_or_the_photo_s_own_codes(self) -> None:
        photo = self.photo()
        for codes in ("srgb", "photo"):
            body = {"recipe": EMPTY, "size": 17, "codes": codes}
            made = self.send("post", f"/photos/{photo.id}/colour-table", body).json()
            cube = read_cube(made["file"].encode())
            np.testing.assert_allclose(cube.entries, identity(17), atol=1e-5)
            self.assertLess(made["largest"], 0.05)
