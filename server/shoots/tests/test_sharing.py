"""A shoot shared with another person: to look at, or to work on; and nothing beyond."""

import re
from collections.abc import Callable
from io import BytesIO
from typing import Any
from unittest import mock
from uuid import UUID
from zipfile import ZipFile

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings

from config.tests.bodies import NAMED, bodies, body_of, operations
from config.tests.cases import ServerCase, recipe_document
from delivery.models import Delivery
from jobs.models import Job
from jobs.progress import Progress
from jobs.runner import work_on
from jobs.services import rights
from shoots.models import Share, Shoot

VIEW = {"size": [120, 80], "region": [0, 0, 120, 80]}
UNDER = re.compile(r"^/api/(photos/\{photo_id\}|shoots/\{shoot_id\})")
# Questions about what one sees; anything else that is not a GET changes something.
ASKED = re.compile(
    r"/(picture|measure|figures|scope.*|zones|key|key-levels|colour|seen|light|parts-at|amount-at|mask|field|"
    r"touches|proof|standing|look|look-effect|colour-table|delivery-name|shaping|skin.*|people/at|links|"
    r"people/same-skin|differences?|samples?|over|grain)$"
)


class SharingCase(ServerCase):
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


class Sharing(SharingCase):
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

    def test_a_name_is_told_only_as_long_as_it_is_shared(self) -> None:
        share = self.share("see").json()
        self.as_otto()
        reference = {"name": "Curtain", "group": "material", "lab": [40.0, 30.0, 20.0]}
        kept = self.send("post", "/references", {"reference": reference, "shoot": self.shoot.id})
        self.assertEqual(kept.json()["shoot_name"], "Rehearsal")
        self.client.force_login(self.person)
        self.client.delete(f"/api/shoots/{self.shoot.id}/shares/{share['id']}")
        self.send("put", f"/shoots/{self.shoot.id}", {"name": "A secret"})
        self.as_otto()
        told = self.client.get("/api/references").json()
        (own,) = [r for r in told if r["id"] == kept.json()["id"]]
        self.assertEqual((own["name"], own["shoot_name"]), ("Curtain", ""))

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


class Moved(SharingCase):
    """A photo that went to a shoot which is not shared is not there, through whatever it is reached."""

    def setUp(self) -> None:
        super().setUp()
        self.stays = self.photo(seed=8)
        self.share("work")
        self.private = Shoot.objects.create(owner=self.person, name="Private")
        self.as_otto()

    def move(self) -> None:
        self.client.force_login(self.person)
        body = {"photos": [self.wall.id], "to": self.private.id}
        moved = self.send("post", f"/shoots/{self.shoot.id}/move", body)
        self.assertEqual(moved.status_code, 204, moved.content)
        self.as_otto()

    def both(self) -> list[int]:
        return [self.wall.id, self.stays.id]

    def test_by_its_own_addresses(self) -> None:
        self.move()
        known, tried = bodies(self.wall.id, self.shoot.id, recipe_document(0.5)), 0
        for path, way, _ in operations():
            if path.startswith("/api/photos/{photo_id}"):
                address = path.format(photo_id=self.wall.id, **NAMED)
                if path.endswith("/mask-picture"):
                    given = {"file": SimpleUploadedFile("a.png", b"x"), "id": "m"}
                    answer = self.client.post(address, given)
                elif way == "get":
                    answer = self.client.get(address)
                else:
                    answer = self.send(way, address.removeprefix("/api"), body_of(path, known))
                self.assertIn(answer.status_code, (404, 422), f"{way} {path}")
                self.assertNotIn("Wall", answer.content.decode())
                tried += answer.status_code == 404
        self.assertGreater(tried, 25)

    def test_through_a_batch(self) -> None:
        body = {"kind": "carry", "photos": self.both(), "source": self.wall.id}
        begun = self.send("post", f"/shoots/{self.shoot.id}/batches", body).json()
        address = f"/batches/{begun['batch']}"
        # Back to what the photo that is moved is proposed.
        body = {"kind": "carry", "photos": [self.wall.id], "source": self.stays.id}
        self.send("put", f"/photos/{self.stays.id}/recipe",
                  {"revision": 0, "recipe": recipe_document()})  # fmt: skip
        back = self.send("post", f"/shoots/{self.shoot.id}/batches", body).json()
        there = f"/batches/{back['batch']}"
        picture = f"/api{there}/photos/{self.wall.id}/picture"
        self.assertEqual(self.client.get(picture).status_code, 200)
        self.move()
        self.refused(self.client.get(picture), 404, "not yours")
        self.assertEqual(self.client.get(f"/api{there}").json()["proposals"], [])
        taken = self.send("post", f"{there}/take", {}).json()
        self.assertEqual((taken["photos"], taken["left"]), (0, []))
        self.wall.refresh_from_db()
        self.assertEqual(self.wall.revision, 1)
        stroke = {"size": 0.2, "feather": 0.5, "points": [[[0.2, 0.1], 1.0]]}
        for rest in ("correct", "let-go"):
            answer = self.send("post", f"{there}/photos/{self.wall.id}/{rest}",
                               {"cast": "a", "strokes": [stroke]})  # fmt: skip
            self.refused(answer, 404, "not yours")
        # Nor are its casts carried to what is still shared.
        again = self.send("post", f"{address}/again", {}).json()
        self.assertIn("not yours", " ".join([again["error"], *again["troubles"]]))

    def test_through_work_that_is_done(self) -> None:
        order = {"photos": self.both(), "order": {"file_format": "png"}}
        job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", order).json()
        chosen = {"lab": [55.0, 0.0, 0.0]}
        agreed = self.send("post", f"/shoots/{self.shoot.id}/agree",
                           {"photos": self.both(), "chosen": chosen}).json()  # fmt: skip
        self.move()
        got = self.client.get(f"/api/jobs/{job['id']}/files.zip")
        names = ZipFile(BytesIO(b"".join(got.streaming_content))).namelist()  # type: ignore[attr-defined]
        self.assertEqual(len(names), 1)
        rows = self.client.get(f"/api/jobs/{agreed['id']}/agreement").json()["rows"]
        self.assertEqual([r["photo"] for r in rows], [self.stays.id])
        for delivery in Delivery.objects.filter(photo=self.wall):
            self.refused(self.client.get(f"/api/deliveries/{delivery.id}"), 404, "not yours")

    def test_through_work_that_waits_or_is_taken_up(self) -> None:
        with override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads"):
            order = {"photos": self.both(), "order": {"file_format": "png"}}
            job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", order).json()
        self.move()
        work_on(UUID(job["id"]))
        told = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertIn(rights.NOT_ANY_MORE, " ".join(told["troubles"]))
        self.assertEqual(set(Delivery.objects.values_list("photo", flat=True)), {self.stays.id})
        whole = {"revision": 1, "order": {"file_format": "png"}}
        self.client.force_login(self.person)
        self.assertEqual(self.send("post", self.path("/deliveries"), whole).json()["state"], "done")
        self.assertEqual(told["state"], "done")


class Withdrawn(SharingCase):
    """Work of whoever may not any more, when their share or their account ends while it waits or goes on."""

    def begun(self) -> UUID:
        self.share("work")
        self.as_otto()
        with override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads"):
            order = {"revision": 1, "order": {"file_format": "png", "folder": True}}
            job = self.send("post", self.path("/deliveries"), order).json()
        return UUID(job["id"])

    def not_made(self, job_id: UUID) -> None:
        job = Job.objects.get(id=job_id)
        self.assertEqual((job.state, job.error), (Job.State.FAILED, rights.NOT_ANY_MORE))
        self.assertEqual((Delivery.objects.count(), job.result), (0, None))
        arrived = [p for p in (self.folder / "folder_out").rglob("*") if p.is_file()]
        self.assertEqual(arrived, [])

    def lower(self) -> None:
        Share.objects.update(may="see")

    def end_account(self) -> None:
        type(self.other).objects.filter(id=self.other.id).update(is_active=False)

    def test_before_it_began(self) -> None:
        for ends in (self.lower, self.end_account):
            job = self.begun()
            ends()
            work_on(job)
            self.not_made(job)
            self.client.force_login(self.person)
            type(self.other).objects.update(is_active=True)

    def test_while_it_is_done(self) -> None:
        for ends in (self.lower, self.end_account):
            job = self.begun()
            with mock.patch.object(Progress, "tell", self.telling(ends)):
                work_on(job)
            self.not_made(job)
            self.client.force_login(self.person)
            type(self.other).objects.update(is_active=True)

    def telling(self, then: Callable[[], None]) -> Callable[..., None]:
        def tell(_: Progress, share: float) -> None:
            if share > 0.5:
                then()

        return tell

    def test_taking_up_asks_again(self) -> None:
        """A share that was lowered to looking."""
        job = self.begun()
        Job.objects.filter(id=job).update(state=Job.State.INTERRUPTED)
        self.lower()
        self.refused(self.send("post", f"/jobs/{job}/take-up", {}), 403, "no longer shared")
        self.assertEqual(Job.objects.count(), 1)

    def test_the_owner_sees_and_stops_it(self) -> None:
        job = self.begun()
        work = f"/api/shoots/{self.shoot.id}/work"
        self.refused(self.client.get(work), 403, "belongs to")
        self.client.force_login(self.person)
        (told,) = self.client.get(work).json()
        self.assertEqual((told["id"], told["person"]), (str(job), "otto"))
        stopped = self.client.delete(f"/api/jobs/{job}").json()
        self.assertEqual(stopped["state"], "cancelled")
        self.assertEqual(self.client.get(work).json(), [])
