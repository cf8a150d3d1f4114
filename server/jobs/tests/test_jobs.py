"""Long work: told, stopped, taken up, and never done twice."""

import json
from typing import Any
from unittest import mock
from uuid import UUID, uuid4

from django.test import override_settings

from config.tests.cases import ServerCase, recipe_document
from jobs import kinds
from jobs.models import Job
from jobs.progress import Cancelled, Progress
from jobs.runner import work_on
from jobs.services import start as jobs
from nubilis.errors import PhotoError
from shoots.models import Photo
from shoots.store import original_path
from studio.models import KeptPaper, KeptSurvey


class JobCase(ServerCase):
    def told(self, job_id: str) -> dict[str, Any]:
        return dict(self.client.get(f"/api/jobs/{job_id}").json())

    def waiting(self, path: str, body: object = None) -> dict[str, Any]:
        """A job that nobody has begun."""
        with override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads"):
            answer = self.send("post", path, body or {})
        self.assertEqual(answer.json()["state"], "waiting", answer.content)
        return dict(answer.json())

    def made_up(self, work: kinds.Work) -> Any:
        return mock.patch.dict(kinds.KINDS, {"made-up": work})

    def start(self, photos: list[int] | None = None) -> Job:
        arguments = {} if photos is None else {"photos": photos}
        return jobs.start(self.person, "made-up", self.shoot, **arguments)


class Telling(JobCase):
    def test_progress_is_told_photo_by_photo(self) -> None:
        seen: list[tuple[int, float]] = []

        def work(job: Job, progress: Progress) -> dict[str, Any]:
            for _ in job.arguments["photos"]:
                progress.tell(0.5)
                progress.one_done()
                row = Job.objects.get(id=job.id)
                seen.append((row.done, row.share))
            return {"delivery": None}

        with self.made_up(work):
            job = self.start([1, 2, 3, 4])
        self.assertEqual(seen, [(1, 0.25), (2, 0.5), (3, 0.75), (4, 1.0)])
        self.assertEqual((job.state, job.total, job.over), (Job.State.DONE, 4, True))

    def test_what_fails_says_why_and_what_nobody_foresaw_says_little(self) -> None:
        full = OSError(28, "No space left on device")
        for error, told, logged in (
            (PhotoError("the photo is\nlost"), "the photo is lost", False),
            (full, "disk is full", False),
            (ZeroDivisionError("a secret"), "Something went wrong", True),
        ):
            work = mock.Mock(side_effect=error)
            context = self.assertLogs("jobs") if logged else self.assertNoLogs("jobs")
            with self.made_up(work), context:
                job = self.start()
            self.assertEqual(job.state, Job.State.FAILED)
            self.assertIn(told, job.error)
            self.assertNotIn("secret", job.error)

    def test_other_people_s_jobs_are_not_there(self) -> None:
        self.photo()
        job = self.send("post", f"/shoots/{self.shoot.id}/look", {}).json()
        self.client.force_login(self.other)
        for method, path in (
            ("get", f"/jobs/{job['id']}"),
            ("delete", f"/jobs/{job['id']}"),
            ("post", f"/jobs/{job['id']}/take-up"),
            ("get", f"/shoots/{self.shoot.id}/jobs"),
            ("post", f"/shoots/{self.shoot.id}/look"),
            ("get", f"/jobs/{uuid4()}"),
        ):
            call = getattr(self.client, method)
            self.refused(call(f"/api{path}"), 404, "not yours")


class Stopping(JobCase):
    def test_a_waiting_job_is_stopped_at_once_and_never_done(self) -> None:
        self.photo()
        job = self.waiting(f"/shoots/{self.shoot.id}/look")
        stopped = self.client.delete(f"/api/jobs/{job['id']}").json()
        self.assertEqual((stopped["state"], stopped["over"]), ("cancelled", True))
        work_on(UUID(job["id"]))
        self.assertEqual(self.told(job["id"])["state"], "cancelled")
        self.assertFalse(KeptSurvey.objects.exists())

    def test_a_running_job_stops_at_its_next_step(self) -> None:
        def work(job: Job, progress: Progress) -> dict[str, Any]:
            progress.one_done()
            self.client.delete(f"/api/jobs/{job.id}")
            with self.assertRaises(Cancelled):
                progress.one_done()
            raise Cancelled

        with self.made_up(work):
            job = self.start([5, 6, 7])
        self.assertEqual((job.state, job.done), (Job.State.CANCELLED, 2))

    def test_a_job_whose_photo_is_removed_stops(self) -> None:
        photo = self.photo()
        self.send("put", f"/photos/{photo.id}/recipe", {"revision": 0, "recipe": recipe_document()})

        def work(job: Job, progress: Progress) -> dict[str, Any]:
            Photo.objects.all().delete()
            progress.tell(0.5)
            return {}

        with mock.patch.dict(kinds.KINDS, {"deliver": work}):
            body = {"revision": 1, "order": {"file_format": "png"}}
            answer = self.send("post", f"/photos/{photo.id}/deliveries", body)
        self.refused(answer, 404, "nothing here")
        self.assertFalse(Job.objects.exists())


class TakingUp(JobCase):
    def test_what_is_under_way_is_not_begun_again(self) -> None:
        self.photo()
        first = self.waiting(f"/shoots/{self.shoot.id}/look")
        again = self.waiting(f"/shoots/{self.shoot.id}/look")
        self.assertEqual(first["id"], again["id"])
        self.refused(self.send("post", f"/jobs/{first['id']}/take-up", {}), 409, "under way")

    def test_after_a_stop_it_is_said_to_be_interrupted_and_goes_on_where_it_was(self) -> None:
        photos = [self.photo(seed=s) for s in range(3)]
        job = self.waiting(f"/shoots/{self.shoot.id}/look")
        through = Job.objects.filter(photo__in=photos[:2])
        through.update(state=Job.State.DONE)
        jobs.after_a_stop()
        (told,) = self.client.get(f"/api/shoots/{self.shoot.id}/jobs").json()
        self.assertEqual((told["state"], told["id"]), ("interrupted", job["id"]))
        rest = self.send("post", f"/jobs/{job['id']}/take-up", {}).json()
        self.assertEqual((rest["state"], rest["photos"]), ("done", [photos[2].id]))
        self.assertEqual([k.photo_id for k in KeptSurvey.objects.all()], [photos[2].id])
        (told,) = self.client.get(f"/api/shoots/{self.shoot.id}/jobs").json()
        self.assertEqual(told["id"], rest["id"])
        self.refused(self.send("post", f"/jobs/{rest['id']}/take-up", {}), 409, "done")


class WholeShoot(JobCase):
    def test_a_photo_that_cannot_be_looked_at_keeps_none_of_the_others_from_it(self) -> None:
        photos = [self.photo(seed=s) for s in range(3)]
        Photo.objects.filter(id=photos[1].id).update(title="Lost one")
        original_path(photos[1].content_hash).unlink()
        job = self.send("post", f"/shoots/{self.shoot.id}/look", {}).json()
        self.assertEqual((job["state"], job["done"]), ("done", 2))
        self.assertEqual(len(job["troubles"]), 1)
        self.assertIn("Lost one: the original of", job["troubles"][0])
        looked = {k.photo_id for k in KeptSurvey.objects.all()}
        self.assertEqual(looked, {photos[0].id, photos[2].id})

    def test_only_what_is_missing_is_proved(self) -> None:
        photos = [self.photo(seed=s) for s in range(2)]
        body = {"revision": 0, "recipe": recipe_document()}
        for photo in photos:
            self.send("put", f"/photos/{photo.id}/recipe", body)
        path = f"/shoots/{self.shoot.id}/sheets"
        job = self.send("post", path, {}).json()
        self.assertEqual((job["photos"], job["done"]), ([p.id for p in photos], 2))
        self.assertEqual(KeptPaper.objects.count(), 2)
        again = self.send("post", path, {}).json()
        self.assertEqual((again["photos"], again["state"]), ([], "done"))

    def test_a_photo_deleted_meanwhile_is_named(self) -> None:
        photos = [self.photo(seed=s) for s in range(2)]
        job = self.waiting(f"/shoots/{self.shoot.id}/look")
        photos[0].delete()
        work_on(UUID(job["id"]))
        told = self.told(job["id"])
        self.assertEqual((told["state"], told["done"]), ("done", 1))
        self.assertEqual(told["troubles"], ["wall: it was deleted."])
        self.assertEqual(json.loads(KeptSurvey.objects.get().document)["said"]["places"], [])
