"""Many at once, over real connections: one save wins, and one file is one photo."""

import json
import random
import shutil
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client, TransactionTestCase

from accounts.models import User
from batches.models import Batch, Proposal
from config.database import only_one
from config.tests.cases import glowing_wall, own_storage, png_bytes, recipe_document
from core.tests.effort import TIMES
from shoots.models import Photo, Shoot, Stored
from shoots.services.add_photo import add_photo
from shoots.services.bin import forget
from shoots.store import content_hash, original_path, sweep
from studio.models import Revision

CROWD = 6
STEPS = 10 * TIMES  # of each


class AtOnce(TransactionTestCase):
    def setUp(self) -> None:
        storage = own_storage()
        storage.enable()
        self.folder = Path(settings.ORIGINALS).parent
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.addCleanup(storage.disable)
        self.person = User.objects.create_user("ida", password="hand and rod")
        self.shoot = Shoot.objects.create(owner=self.person, name="Rehearsal")
        self.data = png_bytes(glowing_wall())

    def crowd(self, work: Callable[[Client, int], Any]) -> list[Any]:
        """The answers of several people with one account, all at the same moment."""
        answers: list[Any] = []
        ready = threading.Barrier(CROWD)

        def one(number: int) -> None:
            client = Client()
            client.force_login(self.person)
            ready.wait()
            try:
                answers.append(work(client, number))
            finally:
                connection.close()

        threads = [threading.Thread(target=one, args=(i,)) for i in range(CROWD)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return answers

    def test_of_those_who_want_a_lock_one_has_it(self) -> None:
        meeting = threading.Barrier(CROWD)

        def ask(client: Client, number: int) -> bool:
            with only_one("test") as ours:
                meeting.wait()
            return ours

        self.assertEqual(sorted(self.crowd(ask)), [False] * (CROWD - 1) + [True])
        with only_one("test") as ours:
            self.assertTrue(ours)

    def test_of_those_who_take_a_batch_back_all_of_it_is(self) -> None:
        batch = Batch.objects.create(owner=self.person, shoot=self.shoot, kind="carry")
        document = json.dumps(recipe_document())
        for i in range(8):
            path = self.folder / f"{i}.png"
            path.write_bytes(png_bytes(glowing_wall(seed=i)))
            photo, _ = add_photo(self.shoot, path, path.name)
            Proposal.objects.create(
                batch=batch, photo=photo, place=i, revision=0, document=document
            )
        address = f"/api/batches/{batch.id}"
        client = Client()
        client.force_login(self.person)
        taken = client.post(f"{address}/take", "{}", content_type="application/json").json()
        self.assertEqual(taken["photos"], 8)

        def back(client: Client, number: int) -> Any:
            answer = client.post(f"{address}/take-back", "{}", content_type="application/json")
            return answer.status_code, answer.json()

        told = self.crowd(back)
        self.assertEqual({status for status, _ in told}, {200})
        self.assertEqual(sum(body["photos"] for _, body in told), 8)
        self.assertEqual(set(Photo.objects.values_list("revision", flat=True)), {2})
        self.assertEqual(Proposal.objects.filter(undone=True).count(), 8)

    def test_of_uploads_into_the_last_room_one_is_kept(self) -> None:
        rng = np.random.default_rng(1)
        noise = [rng.integers(0, 255, (300, 400, 3), dtype=np.uint8) for _ in range(CROWD)]
        files = [png_bytes(codes) for codes in noise]  # each a little more than a third of the room
        User.objects.filter(id=self.person.id).update(quota_mb=1)

        def upload(client: Client, number: int) -> int:
            file = SimpleUploadedFile("wall.png", files[number])
            address = f"/api/shoots/{self.shoot.id}/photos"
            return client.post(address, {"file": file}).status_code

        told = sorted(self.crowd(upload))
        room = 10**6 // len(files[0])
        self.assertEqual(told, [200] * room + [413] * (CROWD - room))
        self.assertEqual(Photo.objects.count(), room)
        kept = [p for p in (self.folder / "originals").rglob("*") if p.is_file()]
        self.assertEqual(len(kept), room)

    def test_of_saves_on_the_same_revision_one_wins(self) -> None:
        path = self.folder / "wall.png"
        path.write_bytes(self.data)
        photo, _ = add_photo(self.shoot, path, "wall.png")

        def save(client: Client, number: int) -> int:
            body = {"revision": 0, "recipe": recipe_document(name=f"hand {number}")}
            address = f"/api/photos/{photo.id}/recipe"
            return client.put(
                address, json.dumps(body), content_type="application/json"
            ).status_code

        self.assertEqual(sorted(self.crowd(save)), [200] + [409] * (CROWD - 1))
        photo.refresh_from_db()
        self.assertEqual((photo.revision, Revision.objects.count()), (1, 1))

    def test_the_same_file_dropped_by_everybody_is_one_photo(self) -> None:
        def drop(client: Client, number: int) -> tuple[int, bool, int]:
            file = SimpleUploadedFile(f"{number}.png", self.data)
            answer = client.post(f"/api/shoots/{self.shoot.id}/photos", {"file": file})
            told = answer.json()
            return answer.status_code, told["already"], told["photo"]["id"]

        answers = self.crowd(drop)
        self.assertEqual({status for status, _, _ in answers}, {200})
        self.assertEqual(len({id_ for _, _, id_ in answers}), 1)
        self.assertEqual(sum(not already for _, already, _ in answers), 1)
        row = Photo.objects.get()
        self.assertEqual(original_path(row.content_hash).read_bytes(), self.data)
        leftovers = list(self.folder.rglob("*.part"))
        self.assertEqual(leftovers, [])

    def test_removing_and_adding_the_same_file_at_once_never_loses_it(self) -> None:
        path = self.folder / "wall.png"
        path.write_bytes(self.data)
        shoots = [Shoot.objects.create(owner=self.person, name=f"Shoot {i}") for i in range(CROWD)]
        for _ in range(5):
            there = [add_photo(s, path, "wall.png")[0] for s in shoots[: CROWD // 2]]

            def swap(client: Client, number: int, there: list[Photo] = there) -> int:
                shoot = shoots[number]
                if number < CROWD // 2:
                    address, body = f"/api/shoots/{shoot.id}", {"photos": [there[number].id]}
                    client.post(f"{address}/remove", body, content_type="application/json")
                    return client.delete(f"{address}/bin").status_code
                file = SimpleUploadedFile("again.png", self.data)
                return client.post(f"/api/shoots/{shoot.id}/photos", {"file": file}).status_code

            self.assertEqual(set(self.crowd(swap)), {200, 204})
            rows = list(Photo.objects.all())
            self.assertEqual(len(rows), CROWD - CROWD // 2)
            self.assertEqual(original_path(rows[0].content_hash).read_bytes(), self.data)
            for row in rows:
                forget(row)
            self.assertFalse(original_path(rows[0].content_hash).exists())

    def test_pictures_for_everybody(self) -> None:
        path = self.folder / "wall.png"
        path.write_bytes(self.data)
        photo, _ = add_photo(self.shoot, path, "wall.png")

        def picture(client: Client, number: int) -> bytes:
            body = {"recipe": recipe_document(), "size": [120, 80], "region": [0, 0, 120, 80]}
            address = f"/api/photos/{photo.id}/picture"
            return client.post(address, json.dumps(body), content_type="application/json").content

        self.assertEqual(len(set(self.crowd(picture))), 1)

    def test_whatever_several_do_at_once_ends_whole(self) -> None:
        """Anything that changes something, in any order, of the same few photos and by the same account."""
        files = [png_bytes(glowing_wall(seed=s)) for s in range(3)]
        other = Shoot.objects.create(owner=self.person, name="Evening")
        guest = User.objects.create_user("otto", password="string and wood")

        def work(client: Client, number: int) -> list[int]:
            client.raise_request_exception = False
            rng, statuses = random.Random(100 * number + TIMES), []
            for _ in range(STEPS):
                photos = list(Photo.everywhere.filter(shoot__owner=self.person))
                shoot = rng.choice((self.shoot, other))
                photo = rng.choice(photos) if photos else None
                method, path, body = self.something(rng, photo, shoot, guest)
                if method == "upload":
                    file = SimpleUploadedFile("wall.png", rng.choice(files))
                    answer = client.post(f"/api/shoots/{shoot.id}/photos", {"file": file})
                elif method == "delete":
                    answer = client.delete(f"/api{path}")
                else:
                    call = getattr(client, method)
                    answer = call(f"/api{path}", json.dumps(body), content_type="application/json")
                statuses.append(answer.status_code)
            return statuses

        statuses = [s for told in self.crowd(work) for s in told]
        self.assertLess(max(statuses), 500, sorted(set(statuses)))
        self.assertGreater(statuses.count(200) + statuses.count(204), len(statuses) // 4)
        self.whole()

    def something(
        self, rng: random.Random, photo: Photo | None, shoot: Shoot, guest: User
    ) -> tuple[str, str, object]:
        if photo is None or rng.random() < 0.2:
            return "upload", "", None
        some, now = {"photos": [photo.id]}, {"revision": photo.revision}
        at, of = f"/photos/{photo.id}", f"/shoots/{photo.shoot_id}"
        share = {"person": guest.username, "may": rng.choice(("see", "work"))}
        save = now | {"recipe": recipe_document(round(rng.uniform(0.1, 1.0), 3))}
        return rng.choice(
            (
                ("put", f"{at}/recipe", save),
                ("put", f"{at}/recipe", save),
                ("post", f"{at}/undo", now),
                ("post", f"{at}/redo", now),
                ("post", f"{at}/versions", {"name": f"v{rng.random()}"}),
                ("post", f"{of}/remove", some),
                ("post", f"{of}/put-back", some),
                ("post", f"{of}/move", some | {"to": shoot.id}),
                ("delete", f"{of}/bin", None),
                ("put", f"{of}/shares", share),
            )
        )

    def whole(self) -> None:
        """Histories without gaps, files for whoever needs them, and no others."""
        for photo in Photo.everywhere.all():
            numbers = list(photo.revisions.values_list("number", flat=True))
            self.assertEqual(numbers, list(range(1, photo.revision + 1)))
            path = original_path(photo.content_hash)
            self.assertEqual(content_hash(path), photo.content_hash)
            self.assertTrue(photo.uses.filter(stored__kind="original", stored__there=True).exists())
        sweep()
        there = {p.name for p in (self.folder / "originals").rglob("*") if p.is_file()}
        self.assertEqual(there, set(Photo.everywhere.values_list("content_hash", flat=True)))
        for stored in Stored.objects.all():
            self.assertEqual(stored.there, stored.uses.exists())
