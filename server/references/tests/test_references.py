"""The library through the API: whose it is, and what goes in and out."""

from typing import Any

from config.tests.cases import ServerCase
from references.models import KeptReference
from references.services import keep as library
from shoots.models import Shoot

COAT = {"name": "Ada's coat", "group": "material", "lab": [41.5, 52.0, 30.0], "note": "tent"}


class Library(ServerCase):
    def keep(self, shoot: int | None = None, **more: Any) -> Any:
        return self.send("post", "/references", {"reference": COAT | more, "shoot": shoot})

    def all(self, query: str = "") -> list[dict[str, Any]]:
        return list(self.client.get(f"/api/references{query}").json())

    def mine(self, query: str = "") -> list[str]:
        return [r["name"] for r in self.all(query) if r["id"]]

    def test_everybody_has_greys_and_skins(self) -> None:
        built_in = self.all()
        self.assertEqual({r["group"] for r in built_in}, {"neutral", "skin"})
        self.assertEqual(built_in[0]["colour"]["lab"][0].__round__(), 95)
        self.assertEqual(len(built_in[0]["colour"]["display"]), 3)

    def test_a_colour_is_kept_once_for_all_shoots_or_for_one(self) -> None:
        first = self.keep().json()
        self.assertEqual(self.keep().json()["id"], first["id"])
        self.keep(self.shoot.id, name="Only here")
        other = Shoot.objects.create(owner=self.person, name="Elsewhere")
        self.assertEqual(self.mine(f"?shoot={other.id}"), ["Ada's coat"])
        self.assertEqual(self.mine(f"?shoot={self.shoot.id}"), ["Ada's coat", "Only here"])
        self.assertEqual(self.all()[-1]["shoot_name"], "Rehearsal")

    def test_it_can_be_changed_and_removed(self) -> None:
        kept = self.keep().json()["id"]
        body = {"reference": COAT | {"name": "Coat", "group": "skin"}, "shoot": self.shoot.id}
        changed = self.send("put", f"/references/{kept}", body).json()
        self.assertEqual((changed["name"], changed["shoot"]), ("Coat", self.shoot.id))
        self.assertEqual(self.client.delete(f"/api/references/{kept}").status_code, 204)
        self.assertEqual(self.mine(), [])

    def test_other_people_s_are_not_there(self) -> None:
        kept = self.keep().json()["id"]
        self.client.force_login(self.other)
        self.assertEqual(self.mine(), [])
        body = {"reference": COAT, "shoot": None}
        for answer in (
            self.send("put", f"/references/{kept}", body),
            self.client.delete(f"/api/references/{kept}"),
            self.keep(self.shoot.id),
            self.client.get(f"/api/references/export.csv?shoot={self.shoot.id}"),
        ):
            self.refused(answer, 404, "not yours")

    def test_out_and_in_again(self) -> None:
        self.keep()
        self.keep(self.shoot.id, name="Only here", lab=[20, 1.5, -3])
        for kind in ("json", "csv"):
            out = self.client.get(f"/api/references/export.{kind}")
            self.assertIn(f"references.{kind}", out.headers["Content-Disposition"])
            text = out.content.decode()
            again = self.send("post", "/references/import", {"text": text}).json()
            self.assertEqual(again, {"added": 1, "already": 1} if kind == "json" else
                             {"added": 0, "already": 3})  # fmt: skip
        only = self.client.get(f"/api/references/export.csv?shoot={self.shoot.id}")
        self.assertEqual(
            only.content.decode().splitlines()[1], "Only here,material,20.0,1.5,-3.0,tent"
        )

    def test_what_cannot_be_read_adds_nothing(self) -> None:
        text = "name,group,L,a,b\nCard,neutral,50,0,0\nBad,neutral,150,0,0\n"
        self.refused(self.send("post", "/references/import", {"text": text}), 422, "line 3")
        self.refused(self.keep(name=" "), 422, "name")
        self.refused(self.keep(lab=[0, 200, 0]), 422, "lab")
        self.assertEqual(self.mine(), [])

    def test_a_full_library_says_so(self) -> None:
        rows = [
            KeptReference(owner=self.person, name=f"{i}", group="skin", lightness=i % 100, a=0, b=0)
            for i in range(library.MOST)
        ]
        KeptReference.objects.bulk_create(rows)
        self.refused(self.keep(), 413, "nothing was added")
