"""A disk that is full, or may not be written, at every single step of everything that writes: it is said in a
sentence, nothing half is left, nothing that was there is lost, and the next attempt works."""

import errno
import gc
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db.models import Model

from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from core.tests.effort import FUZZ, LONG, long_tier
from delivery.models import Delivery
from jobs.models import Job
from looks.models import KeptLook
from nubilis.library.looks import OWN, own_table
from nubilis.photo.grey import grey_png
from shoots.models import Photo, Stored
from shoots.store import original_path, sweep
from studio.models import Revision
from tether.models import Watch

from .faults import FULL, Disk

SAID = ("disk is full", "may not be written", "cannot write")
STEPS = 6  # of each kind of work
Attempt = Callable[[], Any]


class Faults(ServerCase):
    def rows(self) -> list[int]:
        kinds: tuple[type[Model], ...] = (Photo, Revision, Delivery, KeptLook, Watch)
        return [k._default_manager.count() for k in kinds] + [
            Stored.objects.filter(there=True).count()
        ]

    def files(self) -> set[str]:
        return {str(p.relative_to(self.folder)) for p in self.folder.rglob("*") if p.is_file()}

    def each_step(self, attempt: Attempt, again: Attempt, told: Callable[[Any], str]) -> int:
        """attempt: what is tried; again: makes what it made undone; told: what it says when it failed, and
        nothing when it did not. Returns how many steps it has."""
        with Disk(self.folder).watched() as whole:
            self.assertEqual(self.said(attempt, told), "")
        again()
        rows, files = self.rows(), self.files()
        for step in self.steps(len(whole.done)):
            number = FULL if step % 3 else errno.EROFS
            with self.subTest(whole.done[step]), Disk(self.folder, step, number).watched() as disk:
                said = self.said(attempt, told)
                # What is not needed for the answer may be left undone without a word.
                if said:
                    self.assertTrue(any(s in said for s in SAID), (disk.done[-1], said))
                    self.assertNotIn(str(self.folder), said)
                    self.assertEqual(self.rows(), rows, disk.done[-1])
                else:
                    again()
            left = self.files() - files
            self.assertEqual({f for f in left if not f.startswith("thumbnails/")}, set())
        self.assertEqual(self.said(attempt, told), "")
        return len(whole.done)

    def steps(self, there: int) -> list[int]:
        """Some of them, evenly, or all in the long tier."""
        some = there if LONG or FUZZ else min(there, STEPS)
        return sorted({i * (there - 1) // max(some - 1, 1) for i in range(some)})

    def said(self, attempt: Attempt, told: Callable[[Any], str]) -> str:
        """With what a server does after each answer: transactions are over, and nothing is held any more."""
        with self.captureOnCommitCallbacks(execute=True):
            said = told(attempt())
        gc.collect()
        return said

    def of_answer(self, answer: Any) -> str:
        if answer.status_code in (200, 204):
            return ""
        self.assertEqual(answer.status_code, 507, answer.content[:300])
        return str(answer.json()["detail"])

    def test_a_photo_is_taken_in(self) -> None:
        data = png_bytes(glowing_wall(seed=3))

        def again() -> None:
            for photo in Photo.objects.all():
                self.throw_away(photo)
            for left in (self.folder / "thumbnails").rglob("*.jpg"):
                left.unlink()

        self.assertGreater(self.each_step(lambda: self.upload(data), again, self.of_answer), 8)

    def test_a_mask_picture(self) -> None:
        photo = self.photo()
        data = grey_png(np.full((80, 120), 99, np.uint8))

        def attempt() -> Any:
            given = {"file": SimpleUploadedFile("mask.png", data), "id": "m"}
            return self.client.post(f"/api/photos/{photo.id}/mask-picture", given)

        def again() -> None:
            for stored in Stored.objects.filter(kind="asset"):
                stored.uses.all().delete()
            sweep()

        self.assertGreater(self.each_step(attempt, again, self.of_answer), 5)

    def test_a_look_is_kept(self) -> None:
        data = own_table(OWN[0].name)

        def attempt() -> Any:
            return self.client.post(
                "/api/looks", {"file": SimpleUploadedFile("a.cube", data), "name": "A"}
            )

        def again() -> None:
            for row in KeptLook.objects.all():
                self.client.delete(f"/api/looks/{row.id}")

        self.assertGreater(self.each_step(attempt, again, self.of_answer), 5)

    def test_a_small_picture_is_seen_though_it_cannot_be_kept(self) -> None:
        photo = self.photo()

        def attempt() -> Any:
            return self.client.get(f"/api/photos/{photo.id}/thumbnail")

        def again() -> None:
            for left in (self.folder / "thumbnails").rglob("*.jpg"):
                left.unlink()

        again()
        self.assertGreater(self.each_step(attempt, again, self.of_answer), 3)

    def deliver(self, **order: Any) -> None:
        photo = self.photo()
        recipe = {"revision": 0, "recipe": recipe_document()}
        self.assertEqual(self.send("put", f"/photos/{photo.id}/recipe", recipe).status_code, 200)
        wanted = {"revision": 1, "order": {"masks": "png", "recipe": True, **order}}

        def attempt() -> Any:
            return self.send("post", f"/photos/{photo.id}/deliveries", wanted)

        def told(answer: Any) -> str:
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            job = Job.objects.get(id=answer.json()["id"])
            self.assertIn(job.state, (Job.State.DONE, Job.State.FAILED))
            return job.error or " ".join(job.troubles)

        def again() -> None:
            Delivery.objects.all().delete()
            Job.objects.all().delete()
            for place in ("deliveries", "folder_out"):
                for left in (self.folder / place).rglob("*"):
                    if left.is_file():
                        left.unlink()

        self.assertGreater(self.each_step(attempt, again, told), 8)
        self.assertEqual(original_path(photo.content_hash).stat().st_size, photo.size_bytes)

    def test_a_png_with_masks(self) -> None:
        self.deliver(file_format="png16")

    def test_a_jpeg_within_a_limit(self) -> None:
        self.deliver(file_format="jpeg", limit_kb=100)

    @long_tier
    def test_a_tiff(self) -> None:
        self.deliver(file_format="tiff16")

    @long_tier
    def test_an_openraster_picture_with_a_table_and_a_proof(self) -> None:
        self.deliver(file_format="ora", table=True, proof=["page", "json"])

    def test_into_a_folder(self) -> None:
        self.deliver(file_format="png", folder=True)

    @long_tier
    def test_the_camera_and_its_folder(self) -> None:
        def attempt() -> Any:
            return self.client.post(f"/api/shoots/{self.shoot.id}/camera")

        def again() -> None:
            for left in Path(settings.FOLDER_IN).rglob("*.dng"):
                left.unlink()

        Watch.objects.create(shoot=self.shoot)
        self.assertGreater(self.each_step(attempt, again, self.of_answer), 3)
