"""A shoot shared with another person: to look at, or to work on; and nothing beyond."""

import re
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from config.tests.bodies import NAMED, bodies, body_of, operations
from config.tests.cases import ServerCase, recipe_document
from jobs.models import Job
from shoots.models import Share, Shoot

VIEW = {"size": [120, 80], "region": [0, 0, 120, 80]}
UNDER = re.compile(r"^/api/(photos/\{photo_id\}|shoots/\{shoot_id\})")
# Questions about what one sees; anything else that is not a GET changes something.
ASKED = re.compile(
    r"/(picture|measure|figures|scope.*|zones|key|key-levels|colour|seen|light|parts-at|amount-at|mask|field|"
    r"touches|proof|standing|look|look-effect|colour-table|delivery-name|shaping|skin.*|people/at|links|"
    r"people/same-skin|differences?|samples?|over|grain)$"
)


class Sharing(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.wall = self.photo()
        self.send("put", self.path("/recipe"), {"revision": 0, "recipe": recipe_document()})

    def path(self, rest: str = "") -> str:
        return f"/photos/{self.wall.id}{rest}"

    def share(self, may: str, person: str = "otto") -> Any:
        body = {"person": person, "may": may}
        return self.send("put", f"/shoots/{self.shoot.id}/shares", body)

    def as_otto(self) -> None:
        self.client.force_login(self.other)

    def test_to_look_at(self) -> None:
        self.assertEqual(self.share("see").status_code, 200)
        self.as_otto()
        (row,) = self.client.get("/api/shoots").json()
        self.assertEqual((row["may"], row["owner"], row["photos"]), ("see", "ida", 1))
        told = self.client.get(f"/api{self.path()}").json()
        self.assertEqual((told["may"], told["owner"], told["state"]["revision"]), ("see", "ida", 1))
        self.assertEqual(self.client.get(f"/api{self.path('/thumbnail')}").status_code, 200)
        asked = {"recipe": recipe_document(), **VIEW}
        self.assertEqual(self.send("post", self.path("/picture"), asked).status_code, 200)
        save = {"revision": 1, "recipe": recipe_document(0.5)}
        self.refused(self.send("put", self.path("/recipe"), save), 403, "to look at")
        self.refused(self.upload(b"x"), 403, "to look at")

    def test_to_look_at_is_not_to_change_anything(self) -> None:
        """Every operation there is that changes something."""
        self.share("see")
        self.as_otto()
        known, tried = bodies(self.wall.id, self.shoot.id, recipe_document(0.5)), 0
        for path, way, _ in operations():
            if not UNDER.match(path) or ASKED.search(path) or way == "get":
                continue
            address = path.format(photo_id=self.wall.id, shoot_id=self.shoot.id, **NAMED)
            if path.endswith(("/photos", "/mask-picture")):
                given = {"file": SimpleUploadedFile("a.png", b"x"), "id": "m"}
                answer = self.client.post(address, given)
            else:
                answer = self.send(way, address.removeprefix("/api"), body_of(path, known))
            own = path.endswith("{share_id}")
            self.assertEqual(answer.status_code, 404 if own else 403, f"{way} {path}")
            tried += 1
        self.assertGreater(tried, 30)
        self.wall.refresh_from_db()
        self.assertEqual((self.wall.revision, self.wall.removed), (1, None))
        self.assertEqual(Job.objects.count(), 0)
        self.assertEqual(Share.objects.get().may, "see")

    def test_to_work_on(self) -> None:
        self.share("work")
        self.as_otto()
        save = {"revision": 1, "recipe": recipe_document(0.5)}
        self.assertEqual(self.send("put", self.path("/recipe"), save).json()["revision"], 2)
        steps = self.client.get(f"/api{self.path('/history')}").json()
        self.assertEqual(steps[0]["author"], "otto")
        order = {"revision": 2, "order": {"file_format": "png"}}
        job = self.send("post", self.path("/deliveries"), order).json()
        delivery = self.client.get(f"/api/jobs/{job['id']}").json()["delivery"]
        self.assertEqual(self.client.get(f"/api/deliveries/{delivery}").status_code, 200)
        # What cannot be taken back, and with whom it is shared, stays its owner's.
        self.refused(self.client.delete(f"/api/shoots/{self.shoot.id}/bin"), 403, "belongs to")
        self.refused(self.share("work", "ida"), 403, "belongs to")
        self.refused(self.send("put", f"/shoots/{self.shoot.id}", {"name": "Mine"}), 403, "belongs")

    def test_not_shared_any_more(self) -> None:
        share = self.share("work").json()
        self.as_otto()
        order = {"revision": 1, "order": {"file_format": "png"}}
        job = self.send("post", self.path("/deliveries"), order).json()
        delivery = self.client.get(f"/api/jobs/{job['id']}").json()["delivery"]
        self.client.force_login(self.person)
        gone = self.client.delete(f"/api/shoots/{self.shoot.id}/shares/{share['id']}")
        self.assertEqual(gone.status_code, 204)
        self.as_otto()
        self.assertEqual(self.client.get("/api/shoots").json(), [])
        for path in (self.path(), f"/jobs/{job['id']}", f"/deliveries/{delivery}",
                     f"/jobs/{job['id']}/files.zip", f"/shoots/{self.shoot.id}"):  # fmt: skip
            self.refused(self.client.get(f"/api{path}"), 404, "not yours")

    def test_whoever_it_is_shared_with_may_leave(self) -> None:
        share = self.share("see").json()
        third = self.share("see", "otto").json()
        self.assertEqual(third["id"], share["id"])
        self.as_otto()
        gone = self.client.delete(f"/api/shoots/{self.shoot.id}/shares/{share['id']}")
        self.assertEqual(gone.status_code, 204)
        self.assertEqual(self.client.get("/api/shoots").json(), [])

    def test_with_whom(self) -> None:
        self.refused(self.share("see", "nobody"), 404, "no account called nobody")
        self.refused(self.share("see", "ida"), 422, "yours already")
        self.assertEqual(self.share("own").status_code, 422)
        self.share("see")
        self.share("work")
        rows = self.client.get(f"/api/shoots/{self.shoot.id}/shares").json()
        self.assertEqual([(r["person"], r["may"]) for r in rows], [("otto", "work")])

    def test_casts_stay_with_one_person_s_shoots(self) -> None:
        self.share("work")
        self.as_otto()
        own = self.client.post("/api/shoots", {"name": "Own"}, content_type="application/json")
        self.upload(self.wall_file(), shoot=Shoot.objects.get(id=own.json()["id"]))
        other = self.client.get(f"/api/shoots/{own.json()['id']}").json()["photos"][0]["id"]
        body = {"casts": None, "to": [other], "mask_only": False}
        self.refused(self.send("post", self.path("/copy"), body), 422, "one person")

    def wall_file(self) -> bytes:
        return (self.folder / "wall.png").read_bytes()
