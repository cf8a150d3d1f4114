"""Colour keys through the API: ready-made ones, and a person's own."""

import json
from typing import Any

from config.tests.cases import ServerCase


class Keys(ServerCase):
    def own(self) -> list[dict[str, Any]]:
        return [k for k in self.client.get("/api/keys").json() if k["id"]]

    def ready(self, name: str) -> dict[str, Any]:
        every = self.client.get("/api/keys").json()
        return dict(next(k["key"] for k in every if k["key"]["name"] == name))

    def keep(self, name: str, like: str = "Skies") -> Any:
        return self.send("post", "/keys", self.ready(like) | {"name": name}).json()

    def test_everybody_has_the_ready_made_ones(self) -> None:
        names = [k["key"]["name"] for k in self.client.get("/api/keys").json()]
        self.assertIn("Deep skins", names)
        self.assertEqual(self.own(), [])

    def test_kept_replaced_and_removed(self) -> None:
        self.assertEqual(self.keep(" Water "), {"added": 1, "changed": 0})
        self.assertEqual(self.keep("Water", like="Foliage"), {"added": 0, "changed": 1})
        (kept,) = self.own()
        self.assertEqual(kept["key"], self.ready("Foliage") | {"name": "Water"})
        self.assertEqual(self.client.delete(f"/api/keys/{kept['id']}").status_code, 204)
        self.assertEqual(self.own(), [])

    def test_accents_tell_names_apart_and_capitals_do_not(self) -> None:
        self.assertEqual(self.keep("Gr\u00fcn"), {"added": 1, "changed": 0})
        self.assertEqual(self.keep("Grun"), {"added": 1, "changed": 0})
        self.assertEqual(self.keep("GRUN"), {"added": 0, "changed": 1})
        self.assertEqual(len(self.own()), 2)

    def test_out_as_a_file_and_in_at_another_person_s(self) -> None:
        self.keep("Water")
        self.keep("Leaves", like="Foliage")
        text = self.client.get("/api/keys/export.json").content.decode()
        self.assertEqual(json.loads(text)["format"], "nubilis-keys")
        mine = [k["key"] for k in self.own()]
        kept = self.own()[0]["id"]
        self.client.force_login(self.other)
        self.assertEqual(self.own(), [])
        self.assertEqual(self.client.delete(f"/api/keys/{kept}").status_code, 404)
        self.assertEqual(
            self.send("post", "/keys/import", {"text": text}).json(), {"added": 2, "changed": 0}
        )
        self.assertEqual([k["key"] for k in self.own()], mine)

    def test_what_is_not_a_key_is_refused(self) -> None:
        self.refused(self.send("post", "/keys/import", {"text": "{}"}), 422, "not a file")
        self.refused(self.send("post", "/keys", self.ready("Skies") | {"name": " "}), 422, "name")
        self.client.logout()
        self.assertEqual(self.client.get("/api/keys").status_code, 401)
