"""The history in words, going back to any step, and versions."""

from typing import Any
from unittest import mock

from config.tests.cases import ServerCase, recipe_document
from shoots.models import Photo


class Past(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.one = self.photo()
        self.save(1.0)
        self.save(0.6)

    def save(self, amount: float, **more: Any) -> None:
        body = {"revision": self.revision, "recipe": recipe_document(amount, **more)}
        answer = self.send("put", f"/photos/{self.one.id}/recipe", body)
        self.assertEqual(answer.status_code, 200)

    @property
    def revision(self) -> int:
        return Photo.objects.get(id=self.one.id).revision

    def ask(self, method: str, path: str, body: object = None) -> Any:
        return self.send(method, f"/photos/{self.one.id}/{path}", body)

    def amount(self) -> float:
        recipe = self.client.get(f"/api/photos/{self.one.id}/recipe").json()["recipe"]
        return float(recipe["casts"][0]["remedies"][0]["amount"]) if recipe["casts"] else 0.0


class History(Past):
    def test_it_is_told_in_words_newest_first(self) -> None:
        self.ask("post", "undo", {"revision": 2})
        steps = self.client.get(f"/api/photos/{self.one.id}/history").json()
        self.assertEqual([s["number"] for s in steps], [3, 2, 1])
        self.assertEqual([s["taken_back"] for s in steps], [True, False, False])
        self.assertEqual(steps[1]["words"], ["Cast A: neutralise amount 100 % → 60 %"])
        self.assertEqual(steps[2]["words"], ["Cast A added"])
        self.assertEqual(steps[0]["author"], "ida")
        older = self.client.get(f"/api/photos/{self.one.id}/history?before=2").json()
        self.assertEqual([s["words"] for s in older], [["Cast A added"]])

    def test_any_step_can_be_gone_back_to_and_that_undone(self) -> None:
        state = self.ask("post", "go-to", {"revision": 2, "number": 1}).json()
        self.assertEqual((state["revision"], self.amount()), (3, 1.0))
        self.ask("post", "undo", {"revision": 3})
        self.assertEqual(self.amount(), 0.6)
        self.ask("post", "go-to", {"revision": 4, "number": 0})
        self.assertEqual(self.amount(), 0.0)
        self.refused(self.ask("post", "go-to", {"revision": 5, "number": 99}), 404, "no such step")
        self.refused(self.ask("post", "go-to", {"revision": 2, "number": 1}), 409, "elsewhere")


class Versions(Past):
    def kept(self) -> list[dict[str, Any]]:
        return list(self.client.get(f"/api/photos/{self.one.id}/versions").json())

    def test_kept_told_apart_taken_and_taken_back(self) -> None:
        first = self.ask("post", "versions", {"name": " Light touch "}).json()
        self.assertEqual((first["name"], first["differs"]), ("Light touch", []))
        self.save(0.9)
        (version,) = self.kept()
        self.assertEqual(version["differs"], ["Cast A: neutralise amount 60 % → 90 %"])
        self.ask("post", f"versions/{version['id']}/take", {"revision": 3})
        self.assertEqual(self.amount(), 0.6)
        self.ask("post", "undo", {"revision": 4})
        self.assertEqual(self.amount(), 0.9)

    def test_named_anew_and_deleted(self) -> None:
        kept = self.ask("post", "versions", {"name": "One"}).json()["id"]
        self.ask("put", f"versions/{kept}", {"name": "Two"})
        self.assertEqual([v["name"] for v in self.kept()], ["Two"])
        self.refused(self.ask("put", f"versions/{kept}", {"name": "  "}), 422, "name")
        self.assertEqual(self.ask("delete", f"versions/{kept}").status_code, 204)
        self.assertEqual(self.kept(), [])
        self.refused(self.ask("delete", f"versions/{kept}"), 404, "no such version")

    def test_other_people_s_are_not_there(self) -> None:
        kept = self.ask("post", "versions", {"name": "Mine"}).json()["id"]
        self.client.force_login(self.other)
        self.assertEqual(self.ask("delete", f"versions/{kept}").status_code, 404)
        self.assertEqual(self.ask("post", "versions", {"name": "Theirs"}).status_code, 404)


class LostAnswers(Past):
    def test_a_save_that_is_repeated_with_its_key_is_answered_as_it_was(self) -> None:
        body = {"revision": 2, "recipe": recipe_document(0.3), "key": "this-very-save"}
        first = self.ask("put", "recipe", body)
        again = self.ask("put", "recipe", body)
        self.assertEqual((first.status_code, again.status_code), (200, 200))
        self.assertEqual(first.json(), again.json())
        self.assertEqual(self.revision, 3)
        # Without the key, with another, or after a further step it is a stale save like any.
        for more in ({"key": ""}, {"key": "another"}):
            self.refused(self.ask("put", "recipe", body | more), 409, "changed elsewhere")
        self.save(0.2)
        self.refused(self.ask("put", "recipe", body), 409, "changed elsewhere")

    def test_what_a_step_changed_is_read_once_and_kept(self) -> None:
        address = f"/api/photos/{self.one.id}/history"
        first = self.client.get(address).json()
        with mock.patch("studio.services.history.differences") as differences:
            self.assertEqual(self.client.get(address).json(), first)
        differences.assert_not_called()
        self.assertEqual(self.client.get(f"{address}?before=2").json(), first[1:])
