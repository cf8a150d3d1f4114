"""Headers that every answer has, whatever it is: OWASP ASVS 5, chapter 3."""

import base64
import hashlib
import tempfile
from pathlib import Path

from django.conf import settings
from django.http import HttpResponse
from django.test import override_settings

from config.security import HEADERS
from config.tests.cases import ServerCase, recipe_document

EVERYWHERE = HEADERS | {
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


class Headers(ServerCase):
    def guarded(self, answer: HttpResponse, *, kept: str = "no-store") -> None:
        for name, value in EVERYWHERE.items():
            self.assertEqual(answer.get(name), value, name)
        self.assertIn(kept, answer["Cache-Control"])

    def test_answers_of_every_kind(self) -> None:
        photo = self.photo()
        self.guarded(self.client.get("/api/shoots"))
        self.guarded(self.client.get("/api/photos/999999"))
        self.guarded(self.send("post", f"/photos/{photo.id}/picture", {}))
        small = self.client.get(f"/api/photos/{photo.id}/thumbnail")
        self.guarded(small, kept="private")
        self.guarded(self.client.get("/api/nowhere"))
        self.client.logout()
        self.guarded(self.client.get("/api/shoots"))

    def test_the_page(self) -> None:
        with tempfile.TemporaryDirectory() as folder, override_settings(WEB_DIST=Path(folder)):
            (Path(folder) / "index.html").write_text("<title>Nubilis</title>")
            answer = self.client.get("/photos/1")
        self.guarded(answer, kept="no-cache")
        self.assertEqual(answer["X-Frame-Options"], "DENY")

    def test_nothing_written_into_a_page_counts(self) -> None:
        policy = HEADERS["Content-Security-Policy"]
        self.assertNotIn("unsafe", policy)
        self.assertTrue(policy.startswith("default-src 'none'"))

    def test_no_template_has_a_style_written_into_it(self) -> None:
        """Browsers set those that are computed by themselves; one in the text would be left out."""
        for file in (settings.ROOT / "web/src").rglob("*.svelte"):
            self.assertNotRegex(file.read_text(), r'\sstyle="[^{"]*"', file.name)

    def test_a_proof_s_page_brings_its_own_styles(self) -> None:
        photo = self.photo()
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{photo.id}/recipe", body)
        answer = self.client.get(f"/api/photos/{photo.id}/report.html")
        page = answer.content.decode()
        style = page.split("<style>")[1].split("</style>")[0].encode()
        known = base64.b64encode(hashlib.sha256(style).digest()).decode()
        self.assertIn(f"style-src 'sha256-{known}'", answer["Content-Security-Policy"])
        self.assertNotIn("style=", page)

    def test_over_tls_browsers_are_told_to_stay(self) -> None:
        with override_settings(
            SECURE_PROXY_SSL_HEADER=("HTTP_X_FORWARDED_PROTO", "https"),
            SECURE_HSTS_SECONDS=31536000,
        ):
            self.client.handler.load_middleware()
            answer = self.client.get("/api/session", headers={"X-Forwarded-Proto": "https"})
        self.assertEqual(answer["Strict-Transport-Security"], "max-age=31536000")

    def test_a_session_s_cookie_is_not_for_scripts_nor_other_sites(self) -> None:
        self.client.logout()
        body = {"name": "ida", "password": "hand and rod"}
        token = self.client.get("/api/session").cookies["csrftoken"].value
        answer = self.client.post(
            "/api/session", body, content_type="application/json", headers={"X-CSRFToken": token}
        )
        cookie = answer.cookies["sessionid"]
        self.assertTrue(cookie["httponly"])
        self.assertEqual(cookie["samesite"], "Lax")
