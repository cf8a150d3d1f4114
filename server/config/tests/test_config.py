"""Pages are served safely, and the API is described."""

import json
import tempfile
from pathlib import Path

from django.core.management import call_command
from django.test import TestCase, override_settings

from config.tests.cases import ServerCase


class Pages(TestCase):
    def test_every_address_is_the_one_page(self) -> None:
        with tempfile.TemporaryDirectory() as folder, override_settings(WEB_DIST=Path(folder)):
            (Path(folder) / "index.html").write_text("<title>Nubilis</title>")
            for path in ("/", "/shoots/3", "/photos/12"):
                response = self.client.get(path)
                self.assertContains(response, "Nubilis")
                self.assertIn("csrftoken", response.cookies)
                self.assertIn("default-src 'none'", response["Content-Security-Policy"])
                self.assertEqual(response["X-Content-Type-Options"], "nosniff")

    def test_a_front_end_that_is_not_built_says_so(self) -> None:
        with (
            override_settings(WEB_DIST=Path("/nowhere")),
            self.assertLogs("django.request", "ERROR"),
        ):
            self.assertContains(self.client.get("/"), "not built", status_code=503)


class Api(ServerCase):
    def test_the_document_describes_it(self) -> None:
        call_command("api_document", str(self.folder))
        document = json.loads((self.folder / "openapi.json").read_text())
        self.assertIn("/api/photos/{photo_id}/picture", document["paths"])
        self.assertIn("Recipe", document["components"]["schemas"])
        kinds = (self.folder / "kinds.ts").read_text().split("KINDS = ")[1].split(" as const")[0]
        known = json.loads(kinds)
        shift = known["remedies"]["shift"]
        self.assertEqual((shift["name"], shift["bounds"]["hue"]), ("shift", [-180.0, 180.0]))
        self.assertEqual(known["parts"]["similar"]["resting"]["tolerance"], 14.0)
        self.assertEqual((known["letters"][25:28], len(known["letters"])), (["Z", "AA", "AB"], 52))

    def test_strangers_are_asked_to_sign_in(self) -> None:
        self.client.logout()
        for path in ("/shoots", "/photos/1", "/photos/1/recipe", "/photos/1/thumbnail"):
            self.refused(self.client.get(f"/api{path}"), 401, "sign in")

    def test_nonsense_is_told_in_one_line(self) -> None:
        photo = self.photo()
        address = f"/api/photos/{photo.id}/picture"
        broken = self.client.post(address, "{", content_type="application/json")
        self.assertEqual(broken.status_code, 400)
        self.refused(self.send("post", f"/photos/{photo.id}/picture", {}), 422, "recipe")
