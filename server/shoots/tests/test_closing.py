"""Shoots and accounts deleted by whom they belong to, had back, and gone for good by the bin's rules."""

from datetime import timedelta
from typing import Any

from django.utils import timezone

from accounts.models import Noted, SignedIn, User
from config.tests.cases import ServerCase, recipe_document
from jobs.models import Job
from shoots.models import Photo, Share, Shoot
from shoots.services.bin import KEPT, SURE, empty_old
from shoots.store import original_path


class Closing(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.wall, self.bare = self.photo(seed=1), self.photo(seed=2)
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{self.wall.id}/recipe", body)
        self.send("post", f"/shoots/{self.shoot.id}/remove", {"photos": [self.bare.id]})
        Share.objects.create(shoot=self.shoot, person=self.other, may="work")
        self.address = f"/api/shoots/{self.shoot.id}"

    def removed(self) -> list[dict[str, Any]]:
        return list(self.client.get("/api/removed-shoots").json())

    def old(self, kind: type[Shoot] | type[User]) -> None:
        kind.objects.exclude(removed=None).update(removed=timezone.now() - KEPT - timedelta(1))

    def test_what_a_shoot_holds_is_said_first(self) -> None:
        told = self.client.get(f"{self.address}/holds").json()
        size = self.wall.size_bytes + self.bare.size_bytes
        wanted = {"shoots": 1, "photos": 2, "treated": 1, "binned": 1, "people": 1}
        self.assertEqual(told, wanted | {"size_bytes": size})

    def test_a_deleted_shoot_is_not_there_and_can_be_had_back_as_it_was(self) -> None:
        waiting = Job.objects.create(owner=self.other, kind="look", shoot=self.shoot)
        self.assertEqual(self.client.delete(self.address).status_code, 204)
        for person in (self.person, self.other):
            self.client.force_login(person)
            self.assertEqual(self.client.get("/api/shoots").json(), [])
            for path in (self.address, f"/api/photos/{self.wall.id}", f"/api/jobs/{waiting.id}"):
                self.refused(self.client.get(path), 404, "not yours")
        waiting.refresh_from_db()
        self.assertTrue(waiting.cancelled)
        self.assertEqual(self.removed(), [])
        self.refused(self.client.post(f"/api/removed-shoots/{self.shoot.id}/restore"), 404, "yours")
        self.client.force_login(self.person)
        (row,) = self.removed()
        self.assertEqual((row["name"], row["photos"]), ("Rehearsal", 2))
        back = self.client.post(f"/api/removed-shoots/{self.shoot.id}/restore")
        self.assertEqual(back.status_code, 204)
        self.assertEqual(self.removed(), [])
        told = self.client.get(f"/api/photos/{self.wall.id}").json()
        self.assertEqual(told["state"]["revision"], 1)
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(self.address).status_code, 200)

    def test_only_its_owner_deletes_it(self) -> None:
        self.client.force_login(self.other)
        self.refused(self.client.delete(self.address), 403, "belongs to")
        self.refused(self.client.get(f"{self.address}/holds"), 403, "belongs to")

    def test_it_goes_for_good_after_a_time_that_was_found_twice(self) -> None:
        file = original_path(self.wall.content_hash)
        self.client.delete(self.address)
        empty_old()
        self.assertTrue(Shoot.objects.filter(id=self.shoot.id).exists())
        self.old(Shoot)
        empty_old()  # found for the first time: a clock may be wrong
        self.assertTrue(Shoot.objects.filter(id=self.shoot.id).exists())
        Shoot.objects.update(going=timezone.now() - SURE - timedelta(hours=1))
        with self.captureOnCommitCallbacks(execute=True):
            empty_old()
        self.assertFalse(Shoot.objects.filter(id=self.shoot.id).exists())
        self.assertFalse(Photo.everywhere.exists())
        self.assertFalse(file.exists())

    def test_for_good_at_once_when_asked(self) -> None:
        self.client.delete(self.address)
        file = original_path(self.wall.content_hash)
        with self.captureOnCommitCallbacks(execute=True):
            gone = self.client.delete(f"/api/removed-shoots/{self.shoot.id}")
        self.assertEqual((gone.status_code, file.exists()), (204, False))
        self.assertFalse(Shoot.objects.filter(id=self.shoot.id).exists())
        self.assertTrue(Noted.objects.filter(what__contains="gone for good").exists())

    def test_an_owner_deletes_an_account_and_gives_it_back(self) -> None:
        User.objects.filter(id=self.other.id).update(is_superuser=True)
        self.refused(self.client.delete(f"/api/people/{self.other.id}"), 403, "Only an owner")
        self.refused(self.client.get(f"/api/people/{self.other.id}/holds"), 403, "Only an owner")
        own = self.client.get(f"/api/people/{self.person.id}/holds").json()
        self.assertEqual((own["photos"], own["shoots"]), (2, 1))
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"/api/people/{self.person.id}/holds").json(), own)
        self.assertEqual(self.client.delete(f"/api/people/{self.person.id}").status_code, 204)
        self.person.refresh_from_db()
        self.assertFalse(self.person.is_active)
        self.assertFalse(SignedIn.objects.filter(person=self.person).exists())
        rows = {p["name"]: p for p in self.client.get("/api/people").json()}
        self.assertTrue(rows["ida"]["removed"])
        change = {"owner": False, "active": True, "quota_mb": None}
        self.send("put", f"/people/{self.person.id}", change)
        self.old(User)
        empty_old()
        self.person.refresh_from_db()
        self.assertEqual((self.person.is_active, self.person.removed), (True, None))
        self.refused(self.client.delete(f"/api/people/{self.other.id}"), 409, "another owner")

    def test_an_account_goes_with_all_that_it_holds(self) -> None:
        file = original_path(self.wall.content_hash)
        theirs = Shoot.objects.create(owner=self.other, name="Theirs")
        wrong = self.send("post", "/account/delete", {"password": "wrong"})
        self.refused(wrong, 403, "wrong")
        left = self.send("post", "/account/delete", {"password": "hand and rod"})
        self.assertEqual((left.status_code, left.json()["user"]), (200, None))
        self.assertEqual(self.client.get("/api/shoots").status_code, 401)
        User.objects.exclude(removed=None).update(going=timezone.now() - SURE - timedelta(hours=1))
        self.old(User)
        with self.captureOnCommitCallbacks(execute=True):
            empty_old()
        self.assertEqual(list(User.objects.values_list("username", flat=True)), ["otto"])
        self.assertEqual(list(Shoot.objects.all()), [theirs])
        self.assertFalse(file.exists())
