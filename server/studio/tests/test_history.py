"""Revisions: nothing is overwritten, undo has no end and survives."""

from config.tests.cases import ServerCase, recipe_document
from nubilis.recipe.document import VERSION
from studio.models import Revision


class History(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def save(self, revision: int, name: str):  # type: ignore[no-untyped-def]
        body = {"revision": revision, "recipe": recipe_document(name=name)}
        return self.send("put", f"/photos/{self.row.id}/recipe", body)

    def step(self, way: str, revision: int) -> dict[str, object]:
        response = self.send("post", f"/photos/{self.row.id}/{way}", {"revision": revision})
        self.assertEqual(response.status_code, 200, response.content)
        return dict(response.json())

    def name(self, state: dict) -> str:  # type: ignore[type-arg]
        casts = state["recipe"]["casts"]
        return str(casts[0]["name"]) if casts else "-"

    def test_saving_and_reading_back(self) -> None:
        state = self.save(0, "one").json()
        self.assertEqual(
            (state["revision"], state["can_undo"], state["can_redo"]), (1, True, False)
        )
        again = self.client.get(f"/api/photos/{self.row.id}").json()
        self.assertEqual(again["state"], state)
        self.assertEqual(again["photo"]["revision"], 1)

    def test_a_stale_save_loses_nothing(self) -> None:
        self.save(0, "mine")
        response = self.save(0, "theirs")
        self.refused(response, 409, "changed elsewhere")
        self.assertEqual(response.json()["revision"], 1)
        self.assertEqual(Revision.objects.count(), 1)
        self.assertEqual(
            self.name(self.client.get(f"/api/photos/{self.row.id}/recipe").json()), "mine"
        )

    def test_a_stale_undo_is_refused(self) -> None:
        self.save(0, "one")
        self.save(1, "two")
        response = self.send("post", f"/photos/{self.row.id}/undo", {"revision": 1})
        self.refused(response, 409, "changed elsewhere")

    def test_undo_and_redo_to_the_ends(self) -> None:
        for i, name in enumerate("abc"):
            self.save(i, name)
        names, state = [], {"revision": 3}
        for _ in range(3):
            state = self.step("undo", state["revision"])  # type: ignore[arg-type]
            names.append(self.name(state))
        self.assertEqual(names, ["b", "a", "-"])
        self.assertFalse(state["can_undo"])
        for _ in range(3):
            state = self.step("redo", state["revision"])  # type: ignore[arg-type]
            names.append(self.name(state))
        self.assertEqual(names[3:], ["a", "b", "c"])
        self.assertFalse(state["can_redo"])
        response = self.send("post", f"/photos/{self.row.id}/redo", {"revision": state["revision"]})
        self.refused(response, 409, "nothing to redo")
        state = self.step("undo", state["revision"])  # type: ignore[arg-type]
        self.assertEqual(self.name(state), "b")

    def test_a_new_step_after_undo_ends_the_redo(self) -> None:
        self.save(0, "a")
        self.save(1, "b")
        state = self.step("undo", 2)
        state = self.save(state["revision"], "c").json()  # type: ignore[arg-type]
        self.assertFalse(state["can_redo"])
        self.assertEqual(self.name(self.step("undo", state["revision"])), "a")
        self.assertEqual(Revision.objects.count(), 5)

    def test_nothing_to_undo(self) -> None:
        response = self.send("post", f"/photos/{self.row.id}/undo", {"revision": 0})
        self.refused(response, 409, "nothing to undo")

    def test_bad_recipes_are_refused_and_nothing_is_saved(self) -> None:
        newer = recipe_document() | {"version": VERSION + 1}
        strange = recipe_document() | {"colour": "mauve"}
        for document, reason in (
            (newer, f"version {VERSION + 1}"),
            (strange, "colour"),
            ({"casts": 3}, "casts"),
        ):
            body = {"revision": 0, "recipe": document}
            self.refused(self.send("put", f"/photos/{self.row.id}/recipe", body), 422, reason)
        self.assertEqual(Revision.objects.count(), 0)

    def test_other_people_s_recipes_are_not_there(self) -> None:
        self.client.force_login(self.other)
        self.refused(self.save(0, "x"), 404, "not yours")
        self.refused(self.client.get(f"/api/photos/{self.row.id}/recipe"), 404, "not yours")
