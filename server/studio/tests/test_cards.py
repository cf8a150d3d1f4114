"""What the contact sheet says of each photo."""

import json
from typing import Any
from unittest import mock

from django.db import connection
from django.test import override_settings
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from batches.models import Batch, Proposal
from config.tests.cases import ServerCase, recipe_document
from jobs.models import Job
from shoots.models import Photo
from studio.models import KeptCard, Revision, ToCheck


class Cards(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def cards(self) -> dict[int, dict[str, Any]]:
        listed = self.client.get(f"/api/shoots/{self.shoot.id}/cards").json()
        return {c["photo"]: c for c in listed}

    def card(self) -> dict[str, Any]:
        return self.cards()[self.row.id]

    def save(self, revision: int = 0) -> None:
        body = {"revision": revision, "recipe": recipe_document(name="Glow")}
        answer = self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.assertEqual(answer.status_code, 200, answer.content)

    def test_an_untouched_photo(self) -> None:
        self.assertEqual(
            self.card(),
            {
                "photo": self.row.id,
                "state": "untouched",
                "letters": [],
                "dials": [],
                "severity": 0.0,
                "kinds": [],
                "names": [],
                "check": "",
            },
        )

    def test_a_treated_photo_asks_for_its_dials_once(self) -> None:
        self.save()
        self.assertIsNone(self.card()["dials"])
        told = self.client.get(f"/api/photos/{self.row.id}/card").json()
        self.assertEqual(
            (told["state"], told["letters"], told["names"]), ("treated", ["A"], ["Glow"])
        )
        (dial,) = told["dials"]
        self.assertLess(dial["after"], dial["before"])
        self.assertEqual(told["severity"], dial["after"])
        self.assertEqual(self.card(), told)

    def test_known_cards_take_few_questions(self) -> None:
        for seed in range(20, 26):
            self.photo(seed=seed)
        self.cards()
        # Session, person, shoot, photos, looks, checks, kept cards, and what was seen of those without.
        with self.assertNumQueries(8):
            self.assertEqual(len(self.cards()), 7)

    def test_a_delivered_photo_until_it_is_changed(self) -> None:
        self.save()
        answer = self.send(
            "post",
            f"/photos/{self.row.id}/deliveries",
            {"revision": 1, "order": {"file_format": "png"}},
        )
        self.assertEqual(answer.json()["state"], "done", answer.content)
        self.assertEqual(self.card()["state"], "delivered")
        self.save(1)
        self.assertEqual(self.card()["state"], "treated")

    def test_what_should_be_looked_at_until_somebody_has(self) -> None:
        self.save()
        ToCheck.objects.create(photo=self.row, revision=1, why="Shapes keep their place")
        told = self.card()
        self.assertEqual((told["state"], told["check"]), ("check", "Shapes keep their place"))
        self.assertEqual(self.client.delete(f"/api/photos/{self.row.id}/check").status_code, 204)
        self.assertEqual(self.card()["state"], "treated")
        ToCheck.objects.create(photo=self.row, revision=1, why="Shapes keep their place")
        self.save(1)
        self.assertEqual(self.card()["state"], "treated")

    def test_a_look_finds_its_kinds(self) -> None:
        answer = self.send("post", f"/shoots/{self.shoot.id}/look?photos={self.row.id}", {})
        self.assertEqual(answer.json()["photos"], [self.row.id])
        told = self.card()
        self.assertEqual(bool(told["kinds"]), told["state"] in ("found", "asks"))

    def test_other_people_s(self) -> None:
        self.client.force_login(self.other)
        for address in (f"/api/shoots/{self.shoot.id}/cards", f"/api/photos/{self.row.id}/card"):
            self.assertEqual(self.client.get(address).status_code, 404)

    def test_photos_in_the_bin_have_none(self) -> None:
        Photo.objects.filter(id=self.row.id).update(removed="2026-01-01T00:00:00Z")
        self.assertEqual(self.cards(), {})


class Many(ServerCase):
    """Lists of five hundred photos ask as often as lists of five."""

    def fill(self, count: int) -> None:
        Photo.everywhere.filter(shoot=self.shoot).delete()
        rows = [
            Photo(
                shoot=self.shoot, title=f"{i}", file_name=f"{i}.png", content_hash=f"{i:064}",
                size_bytes=1, width=3, height=2, file_format="PNG", bits=8, profile="sRGB",
                revision=2, removed=timezone.now() if i % 10 == 9 else None,
            )
            for i in range(count)
        ]  # fmt: skip
        Photo.objects.bulk_create(rows)
        photos = list(Photo.everywhere.filter(shoot=self.shoot))
        document = json.dumps(recipe_document())
        Revision.objects.bulk_create(
            Revision(photo=p, number=n, document=document, figures=[] if n == 2 else None)
            for p in photos
            for n in (1, 2)
        )
        Job.objects.all().delete()
        for kind in ("look", "prove"):
            job = Job.objects.create(owner=self.person, kind=kind, shoot=self.shoot,
                                     arguments={"photos": [p.id for p in photos]})  # fmt: skip
            Job.objects.bulk_create(
                Job(owner=self.person, kind=kind, shoot=self.shoot, photo=p, parent=job)
                for p in photos
            )
        Batch.objects.all().delete()
        batch = Batch.objects.create(owner=self.person, shoot=self.shoot, kind="adopt")
        Proposal.objects.bulk_create(
            Proposal(batch=batch, photo=p, place=i, revision=2, document=document)
            for i, p in enumerate(photos)
        )

    def asked(self) -> dict[str, int]:
        own = f"shoots/{self.shoot.id}"
        batch = f"batches/{Batch.objects.get().id}"
        counts = {}
        for path in ("shoots", own, f"{own}/cards", f"{own}/sheets", f"{own}/jobs", f"{own}/work",
                     f"{own}/bin", f"{own}/refusals", f"{own}/watch", batch):  # fmt: skip
            KeptCard.objects.all().delete()
            with CaptureQueriesContext(connection) as told:
                answer = self.client.get(f"/api/{path}")
            self.assertEqual(answer.status_code, 200, path)
            counts[path.removeprefix(own).removeprefix(batch)] = len(told)
        return counts

    def test_five_hundred_photos(self) -> None:
        self.fill(10)
        few = self.asked()
        self.fill(500)
        self.assertEqual(self.asked(), few)
        self.assertLess(max(few.values()), 15, few)
        ids = list(self.shoot.photos.values_list("id", flat=True))
        body = {"casts": None, "to": ids[1:]}
        waiting = override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads")
        with waiting[0], waiting[1], CaptureQueriesContext(connection) as told:
            answer = self.send("post", f"/photos/{ids[0]}/copy", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertLess(len(told), 20)
