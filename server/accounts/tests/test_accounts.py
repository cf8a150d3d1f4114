"""Signing in and out, the demo's one click, and the first account."""

import json
import os
from unittest import mock

from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings

from accounts.demo import DEMO_NAME
from accounts.models import User

QUIET = {"stdout": open(os.devnull, "w")}  # noqa: SIM115


MEMBER = {"owner": False, "to_change": False}


class Sessions(TestCase):
    def setUp(self) -> None:
        User.objects.create_user("ida", password="hand and rod")
        self.browser = Client(enforce_csrf_checks=True)
        self.browser.get("/api/session")

    def post(self, path: str, body: object = None) -> tuple[int, dict[str, object]]:
        token = self.browser.cookies["csrftoken"].value
        response = self.browser.post(
            f"/api{path}", json.dumps(body), content_type="application/json",
            headers={"X-CSRFToken": token},
        )  # fmt: skip
        told = response.json()
        self.assertEqual(told.pop("id", None) is None, told.get("user") is None)
        return response.status_code, told

    def test_in_and_out(self) -> None:
        self.assertIsNone(self.browser.get("/api/session").json()["user"])
        answer = self.post("/session", {"name": "ida", "password": "hand and rod"})
        self.assertEqual(answer, (200, {"user": "ida", "demo": False, **MEMBER}))
        self.assertEqual(self.browser.get("/api/shoots").status_code, 200)
        token = self.browser.cookies["csrftoken"].value
        self.browser.delete("/api/session", headers={"X-CSRFToken": token})
        self.assertIsNone(self.browser.get("/api/session").json()["user"])
        self.assertEqual(self.browser.get("/api/shoots").status_code, 401)

    def test_wrong_words(self) -> None:
        status, body = self.post("/session", {"name": "ida", "password": "wrong"})
        self.assertEqual((status, body["detail"]), (401, "Name and password do not match"))

    def test_another_site_cannot_sign_a_person_in(self) -> None:
        body = json.dumps({"name": "ida", "password": "hand and rod"})
        response = self.browser.post("/api/session", body, content_type="application/json")
        self.assertEqual(response.status_code, 403)

    def test_the_demo_is_one_click_and_only_in_demo_mode(self) -> None:
        User.objects.create_user(DEMO_NAME)
        self.assertEqual(self.post("/session/demo")[0], 404)
        with override_settings(DEMO=True):
            self.assertEqual(
                self.post("/session/demo"), (200, {"user": DEMO_NAME, "demo": True, **MEMBER})
            )


class FirstAccount(TestCase):
    def make(self, **environment: str) -> None:
        with (
            mock.patch.dict(os.environ, environment),
            mock.patch("sys.stdin.isatty", lambda: False),
        ):
            call_command("first_account", **QUIET)

    def test_from_the_environment(self) -> None:
        self.make(NUBILIS_USER="ida", NUBILIS_PASSWORD="hand and rod")
        self.assertTrue(User.objects.get(username="ida").check_password("hand and rod"))
        self.make(NUBILIS_USER="otto", NUBILIS_PASSWORD="string and wood")
        self.assertEqual(User.objects.count(), 1)

    def test_weak_or_missing_words_are_refused(self) -> None:
        with self.assertRaisesRegex(CommandError, "too short"):
            self.make(NUBILIS_USER="ida", NUBILIS_PASSWORD="short")
        with self.assertRaisesRegex(CommandError, "no account yet"):
            self.make(NUBILIS_USER="", NUBILIS_PASSWORD="")
