"""Accounts that owners look after, passwords, and the browsers in which one is signed in."""

import json
from typing import Any

from django.test import Client, TestCase

from accounts.models import Noted, SignedIn, User
from accounts.services.signed_in import browser_of

FIREFOX = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"


class PeopleCase(TestCase):
    def setUp(self) -> None:
        self.owner = User.objects.create_superuser("ida", password="hand and rod")
        self.member = User.objects.create_user("otto", password="string and wood")

    def browser(self, name: str, password: str) -> Client:
        browser = Client(headers={"User-Agent": FIREFOX})
        body = {"name": name, "password": password}
        answer = browser.post("/api/session", body, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        return browser

    def ask(self, browser: Client, method: str, path: str, body: object = None) -> tuple[int, Any]:
        call = getattr(browser, method)
        sent = (
            {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        )
        answer = call(f"/api{path}", **sent)
        return answer.status_code, answer.json() if answer.content else None


class Accounts(PeopleCase):
    def test_a_new_person_chooses_a_password_before_anything_else(self) -> None:
        owner = self.browser("ida", "hand and rod")
        status, given = self.ask(owner, "post", "/people", {"name": "fenn"})
        self.assertEqual((status, given["person"]), (200, "fenn"))
        fenn = self.browser("fenn", given["password"])
        self.assertTrue(self.ask(fenn, "get", "/session")[1]["to_change"])
        status, told = self.ask(fenn, "get", "/shoots")
        self.assertEqual(status, 403)
        self.assertIn("password of your own", told["detail"])
        change = {"old": given["password"], "new": "short"}
        self.assertEqual(self.ask(fenn, "put", "/session/password", change)[0], 422)
        change["new"] = "glue and gold leaf"
        status, told = self.ask(fenn, "put", "/session/password", change)
        self.assertEqual((status, told["to_change"]), (200, False))
        self.assertEqual(self.ask(fenn, "get", "/shoots"), (200, []))

    def test_a_lost_password_is_given_anew_and_signs_everybody_out(self) -> None:
        owner, otto = self.browser("ida", "hand and rod"), self.browser("otto", "string and wood")
        path = f"/people/{self.member.id}/password"
        given = self.ask(owner, "post", path)[1]
        self.assertEqual(self.ask(otto, "get", "/shoots")[0], 401)
        body = {"name": "otto", "password": "string and wood"}
        self.assertEqual(self.ask(Client(), "post", "/session", body)[0], 401)
        self.browser("otto", given["password"])
        lines = [n.what for n in Noted.objects.all()]
        self.assertIn("gave otto a password to begin with", lines)
        self.assertNotIn(given["password"], " ".join(lines))

    def test_members_look_after_nobody(self) -> None:
        otto = self.browser("otto", "string and wood")
        change = {"owner": True, "active": True, "quota_mb": None}
        for method, path, body in (
            ("get", "/people", None),
            ("post", "/people", {"name": "fenn"}),
            ("put", f"/people/{self.member.id}", change),
            ("post", f"/people/{self.owner.id}/password", {}),
            ("get", "/noted", None),
        ):
            self.assertEqual(self.ask(otto, method, path, body)[0], 403, path)
        self.member.refresh_from_db()
        self.assertFalse(self.member.is_superuser)

    def test_somebody_always_looks_after_the_accounts(self) -> None:
        owner = self.browser("ida", "hand and rod")
        own, other = f"/people/{self.owner.id}", f"/people/{self.member.id}"
        member = {"owner": False, "active": True, "quota_mb": None}
        status, told = self.ask(owner, "put", own, member)
        self.assertEqual(status, 409)
        self.assertIn("another owner first", told["detail"])
        self.assertEqual(self.ask(owner, "put", other, member | {"owner": True})[0], 200)
        self.assertEqual(self.ask(owner, "put", own, member)[0], 200)
        self.assertEqual(self.ask(owner, "get", "/people")[0], 403)

    def test_who_may_not_sign_in_any_more_is_out_at_once(self) -> None:
        owner, otto = self.browser("ida", "hand and rod"), self.browser("otto", "string and wood")
        closed = {"owner": False, "active": False, "quota_mb": 500}
        told = self.ask(owner, "put", f"/people/{self.member.id}", closed)[1]
        row = next(p for p in told if p["name"] == "otto")
        self.assertEqual((row["active"], row["quota_mb"]), (False, 500))
        self.assertEqual(self.ask(otto, "get", "/shoots")[0], 401)
        body = {"name": "otto", "password": "string and wood"}
        self.assertEqual(self.ask(Client(), "post", "/session", body)[0], 401)

    def test_names(self) -> None:
        owner = self.browser("ida", "hand and rod")
        self.assertEqual(self.ask(owner, "post", "/people", {"name": "otto"})[0], 409)
        self.assertEqual(self.ask(owner, "post", "/people", {"name": "a b/c"})[0], 422)

    def test_what_was_noted_is_the_owner_s_to_read(self) -> None:
        owner = self.browser("ida", "hand and rod")
        lines = self.ask(owner, "get", "/noted")[1]
        self.assertEqual((lines[0]["person"], lines[0]["what"]), ("ida", "signed in"))
        self.assertEqual(lines[0]["address"], "127.0.0.1")


class Browsers(PeopleCase):
    def test_they_are_listed_and_ended(self) -> None:
        here, there = (self.browser("otto", "string and wood") for _ in range(2))
        self.browser("ida", "hand and rod")
        rows = self.ask(here, "get", "/sessions")[1]
        self.assertEqual([r["browser"] for r in rows], ["Firefox on Linux"] * 2)
        self.assertEqual(sorted(r["here"] for r in rows), [False, True])
        keys = set(SignedIn.objects.values_list("session_key", flat=True))
        self.assertFalse(keys & {r["id"] for r in rows})
        other = next(r["id"] for r in rows if not r["here"])
        self.assertEqual(len(self.ask(here, "delete", f"/sessions/{other}")[1]), 1)
        self.assertEqual(self.ask(there, "get", "/shoots")[0], 401)
        self.assertEqual(self.ask(here, "get", "/shoots")[0], 200)

    def test_other_people_s_are_not_there(self) -> None:
        ida, otto = self.browser("ida", "hand and rod"), self.browser("otto", "string and wood")
        (row,) = self.ask(ida, "get", "/sessions")[1]
        self.assertEqual(self.ask(otto, "delete", f"/sessions/{row['id']}")[0], 404)

    def test_a_changed_password_signs_other_browsers_out(self) -> None:
        here, there = (self.browser("otto", "string and wood") for _ in range(2))
        change = {"old": "wrong", "new": "glue and gold leaf"}
        self.assertEqual(self.ask(here, "put", "/session/password", change)[0], 401)
        self.assertEqual(self.ask(here, "get", "/shoots")[0], 200)
        change["old"] = "string and wood"
        self.assertEqual(self.ask(here, "put", "/session/password", change)[0], 200)
        self.assertEqual(self.ask(here, "get", "/shoots")[0], 200)
        self.assertEqual(self.ask(there, "get", "/shoots")[0], 401)

    def test_what_a_browser_says_that_it_is(self) -> None:
        phone = "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Version/18.0 Safari/604.1"
        self.assertEqual(browser_of(phone), "Safari on iOS")
        self.assertEqual(browser_of(""), "A browser")
