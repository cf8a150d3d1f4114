"""Odd photos, odd numbers, odd requests: told in a line, never a fault of the server's."""

import io
import json
import re
from typing import Any

import numpy as np
from django.conf import settings
from django.test import Client, override_settings

from config.api import api
from config.tests.bodies import NAMED
from config.tests.cases import ServerCase, png_bytes, recipe_document
from core.tests.hostile import HOSTILE
from nubilis.photo.grey import grey_png
from shoots.models import Photo
from shoots.services.add_photo import add_photo
from studio.models import Revision

SIZES = ((1, 1), (2, 3), (1, 70_000), (70_000, 1))  # rows, columns


class OddPhotos(ServerCase):
    def asked(self, photo: Photo, what: str, **body: Any) -> int:
        answer = self.send("post", f"/photos/{photo.id}/{what}", body)
        content = b"".join(answer.streaming_content) if answer.streaming else answer.content
        self.assertLess(answer.status_code, 500, (what, photo.title, content[:300]))
        return int(answer.status_code)

    def test_of_every_shape(self) -> None:
        for tall, wide in SIZES:
            with self.subTest(f"{wide} x {tall}"):
                path = self.folder / "odd.png"
                codes = np.full((tall, wide, 3), 140, np.uint8)
                path.write_bytes(png_bytes(codes))
                photo, _ = add_photo(self.shoot, path, "odd.png", title=f"{wide} x {tall}")
                recipe = recipe_document()
                whole = {"size": [wide, tall], "region": [0, 0, wide, tall]}
                self.asked(photo, "picture", recipe=recipe, **whole)
                one = {"size": [1, 1], "region": [0, 0, 1, 1]}
                self.asked(photo, "picture", recipe=recipe, **one)
                self.asked(photo, "measure", at=[0.0, 0.0], recipe=recipe)
                for what in ("proof", "scopes", "look", "touches", "field"):
                    self.asked(photo, what, recipe=recipe)
                self.asked(photo, "mask", recipe=recipe, cast="a")
                self.assertEqual(
                    self.client.get(f"/api/photos/{photo.id}/thumbnail").status_code, 200
                )
                file = io.BytesIO(grey_png(codes[..., 0]))
                file.name = "mask.png"
                answer = self.client.post(
                    f"/api/photos/{photo.id}/mask-picture", {"file": file, "id": "m"}
                )
                self.assertLess(answer.status_code, 500, answer.content[:300])
                body = {"revision": 0, "order": {"file_format": "jpeg"}}
                job = self.send("post", f"/photos/{photo.id}/deliveries", body).json()
                self.assertIn(job["state"], ("done", "failed"))
                if job["state"] == "failed":
                    self.assertIn("pixels a side", job["error"])


class Hostile(ServerCase):
    def test_recipes_made_to_take_long_are_refused_in_one_line(self) -> None:
        row = self.photo()
        for name in ("120,000 nodes", "20,000 wrong points", "800,000 numbers"):
            with self.subTest(name):
                body = f'{{"revision": 0, "recipe": {HOSTILE[name]()}}}'
                answer = self.client.put(
                    f"/api/photos/{row.id}/recipe", body, content_type="application/json"
                )
                self.assertIn(answer.status_code, (400, 422), answer.content[:300])
                self.assertLess(len(answer.json()["detail"]), 300)
        self.assertFalse(Revision.objects.filter(photo=row).exists())

    def test_lists_far_too_long_are_refused_at_their_first_fault(self) -> None:
        for path in ("remove", "put-back", "deliveries"):
            body = {"photos": ["x"] * 200_000, "order": {"file_format": "jpeg"}}
            answer = self.send("post", f"/shoots/{self.shoot.id}/{path}", body)
            self.refused(answer, 422, "photos.0")


class OddQuestions(ServerCase):
    def test_numbers_beyond_all_bounds(self) -> None:
        row = self.photo()
        colours: list[Any] = [[0.1, 0.2, 0.3]]
        for body in (
            {"colours": colours, "id": ""},
            {"colours": colours, "id": "x" * 41},
            {"colours": [[1e300, -1e300, 0.5]], "id": "k"},
            {"colours": [[7.0, 3.0, 9.0]], "id": "k"},
            {"colours": [], "id": "k"},
        ):
            answer = self.send("post", f"/photos/{row.id}/key", body)
            self.assertLess(answer.status_code, 500, answer.content[:300])
        for path in ("photos/99999999999999999999999", "shoots/9223372036854775808"):
            self.assertLess(self.client.get(f"/api/{path}").status_code, 500)

    def test_strokes_that_would_take_seconds_are_refused_at_once(self) -> None:
        row = self.photo()
        rng = np.random.default_rng(3)
        far = [[[float(x), float(y)], 1.0] for x, y in rng.random((5000, 2)).round(4)]
        near = [[[0.5, 0.5 + i * 1e-6], 1.0] for i in range(20_000)]
        for size, points, ok in ((0.05, far, False), (5e-324, near, False), (2.0, near, True)):
            document = recipe_document()
            stroke = document["casts"][0]["mask"]["parts"][0]["strokes"][0]
            stroke |= {"size": size, "points": points}
            body = {"recipe": document, "size": [120, 80], "region": [0, 0, 120, 80]}
            answer = self.send("post", f"/photos/{row.id}/picture", body)
            self.assertEqual(answer.status_code == 200, ok, answer.content[:200])
            if not ok:
                self.assertEqual(answer.status_code, 422)

    def test_head_has_no_body_and_a_name_may_have_any_letters(self) -> None:
        head = self.client.head("/health")
        self.assertEqual((head.status_code, head.content), (200, b""))
        row = self.photo()
        Photo.objects.filter(id=row.id).update(file_name="Bühnenlicht №3.png")
        body = {"recipe": recipe_document(), "cast": "a", "file_format": "png"}
        answer = self.send("post", f"/photos/{row.id}/mask", body)
        told = answer.headers["Content-Disposition"]
        self.assertIn("filename*=utf-8''B%C3%BChnenlicht%20%E2%84%963-mask.png", told)

    def test_a_foreign_host_is_refused_without_a_word_in_the_log(self) -> None:
        with self.assertNoLogs("django", "ERROR"):
            answer = self.client.get("/api/shoots", headers={"host": "elsewhere.example"})
        self.assertEqual(answer.status_code, 400)

    def test_the_address_of_a_disk_is_told_to_nobody(self) -> None:
        row = self.photo()
        from unittest import mock

        for number in (28, 30, 13):
            error = OSError(number, "told by the system", str(self.folder / "secret"))
            with mock.patch("nubilis.whole.os.replace", side_effect=error):
                file = io.BytesIO(grey_png(np.zeros((80, 120), np.uint8)))
                file.name = "mask.png"
                answer = self.client.post(
                    f"/api/photos/{row.id}/mask-picture", {"file": file, "id": "m"}
                )
            self.assertEqual(answer.status_code, 507, answer.content[:300])
            self.assertNotIn(str(self.folder), answer.content.decode())
            self.assertIn("nothing was lost", json.loads(answer.content)["detail"])


class BehindTls(ServerCase):
    @override_settings(
        SECURE_PROXY_SSL_HEADER=("HTTP_X_FORWARDED_PROTO", "https"),
        SESSION_COOKIE_SECURE=True,
        CSRF_COOKIE_SECURE=True,
        SECURE_HSTS_SECONDS=3600,
        ALLOWED_HOSTS=["nubilis.example"],
        CSRF_TRUSTED_ORIGINS=["https://nubilis.example"],
    )
    def test_one_signs_in_through_a_front_server(self) -> None:
        from django.test import Client

        browser = Client(enforce_csrf_checks=True)
        common = {
            "headers": {
                "host": "nubilis.example",
                "x-forwarded-proto": "https",
                "origin": "https://nubilis.example",
                "referer": "https://nubilis.example/",
            }
        }
        browser.get("/api/session", **common)  # type: ignore[arg-type]
        token = browser.cookies["csrftoken"]
        self.assertTrue(token["secure"])
        common["headers"]["x-csrftoken"] = token.value
        body = {"name": "ida", "password": "hand and rod"}
        answer = browser.post("/api/session", body, content_type="application/json", **common)  # type: ignore[arg-type]
        self.assertEqual(answer.json()["user"], "ida", answer.content)
        self.assertTrue(browser.cookies["sessionid"]["secure"])
        self.assertIn("max-age=3600", answer.headers["Strict-Transport-Security"])


class Forms(ServerCase):
    def test_a_form_where_json_is_taken_is_refused_in_a_line(self) -> None:
        """Every operation that takes JSON. It is read as a form first, to see whose it is."""
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.person)
        strict.get("/")
        token = strict.cookies[settings.CSRF_COOKIE_NAME].value
        tried = 0
        for path, ways in api.get_openapi_schema()["paths"].items():
            told = ways.get("post", {}).get("requestBody", {}).get("content", {})
            if "application/json" not in told:
                continue
            address = re.sub(r"\{\w+_id\}", "1", path).format(**NAMED | {"kind": "json"})
            answer = strict.post(address, {"a": "b", "csrfmiddlewaretoken": token})
            self.assertIn(answer.status_code, (400, 404, 415), f"{path} {answer.content[:200]!r}")
            tried += answer.status_code == 415
        self.assertGreater(tried, 20)
