"""Long work on workers that are killed, woken twice, or cut off from broker, database and store."""

import random
import time
from collections import Counter
from unittest import mock

from django.test import override_settings

from accounts.models import User
from batches.models import Proposal
from batches.services.propose import start_batch
from config.tests.cases import glowing_wall, png_bytes, recipe_document
from core.tests.effort import long_tier
from delivery.models import Delivery
from delivery.services.deliver import files_of, start_delivering, start_delivery
from delivery.services.order import Order
from jobs.models import OPEN, Job
from jobs.services.claim import claim, take_back_lost
from jobs.services.clock import now
from jobs.services.run import run
from jobs.services.start import cancel, own_job
from launch.services import Worker
from nubilis.photo.read import read_photo
from nubilis.recipe.document import Recipe
from shoots import files
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo
from studio.models import KeptPaper, KeptSurvey
from studio.services.save_recipe import save_recipe
from studio.services.whole_shoot import start_looking, start_proving

from .farm import Farm

State = Job.State
KILLED = ("look", "prove", "treat", "deliver", "deliver-set")
KILLS_OF_EACH = 2


class WorkerCase(Farm):
    def photo(self, seed: int, treated: bool = True, shoot: Shoot | None = None) -> Photo:
        path = self.folder / "wall.png"
        path.write_bytes(png_bytes(glowing_wall(160, 240, seed=seed)))
        photo, _ = add_photo(shoot or self.shoot, path, f"wall-{seed}.png")
        if treated:
            recipe = Recipe.model_validate(recipe_document())
            save_recipe(photo, 0, recipe, photo.shoot.owner)
            photo.refresh_from_db()
        return photo

    def no_half_files(self) -> None:
        halves = [p for p in self.folder.rglob("*.part") if "redis" not in p.parts]
        for half in halves:  # of whoever was killed; a sweep takes them, and nobody sees them
            self.assertNotIn(half.suffix, (".png", ".jpg"))
        files.forget_halves(time.time() + 1.0)
        self.assertEqual(list(self.folder.rglob("*.part")), [])

    def whole(self, job: Job, count: int) -> None:
        """Every file of a delivery is there once, whole, and the same as the others of its photo."""
        job.refresh_from_db()
        self.assertEqual((job.state, job.troubles), (State.DONE, []), job.error)
        ids = (job.result or {})["deliveries"]
        self.assertEqual((len(ids), len(set(ids))), (count, count))
        found = files_of(job, job.owner)
        self.assertEqual(len(found), count)
        for _, name in found:
            with files.reading(name) as path:
                self.assertEqual(read_photo(path).width, 240)


@long_tier
class OnWorkers(WorkerCase):
    def test_killed_at_any_moment_in_any_kind_of_work_nothing_is_lost_or_doubled(self) -> None:
        """A few of each kind; many more, of all that serves, are killed by bench/kills.py."""
        self.photos = [self.photo(seed) for seed in range(4)]
        self.begun: list[Job] = []
        self.workers = [self.worker() for _ in range(2)]
        for number in range(KILLS_OF_EACH * len(KILLED)):
            victim = self._found_at(KILLED[number % len(KILLED)], random.Random(number))
            self.kill(victim)
            victim.start()
        self.until(lambda: not Job.objects.filter(state__in=OPEN).exists())
        self.assertEqual(set(Job.objects.values_list("state", flat=True)), {State.DONE})
        for job in self.begun:
            if job.kind.startswith("deliver"):
                self.whole(job, 2 * len(self.photos) if job.kind == "deliver-set" else 1)
        self.assertEqual(KeptSurvey.objects.count(), len(self.photos))
        self.assertEqual(KeptPaper.objects.count(), len(self.photos))
        for proposals in Counter(Proposal.objects.values_list("batch", "photo")).values():
            self.assertEqual(proposals, 1)
        for worker in self.workers:
            self.kill(worker)
        self.no_half_files()

    def _found_at(self, kind: str, rng: random.Random) -> Worker:
        """Whoever is at some work of a kind, at a moment of its own; begun as often as it takes."""
        by_pid = {w.process.pid: w for w in self.workers if w.process}
        open_ones = Job.objects.filter(kind=kind, state__in=OPEN, cancelled=False)
        at_it = open_ones.filter(token__isnull=False)
        while True:
            if not open_ones.exists():
                self.begun.append(self._begin(kind))
            self.until(lambda: at_it.exists() or not open_ones.exists())
            time.sleep(rng.uniform(0.0, 0.2))
            for by in at_it.values_list("by", flat=True):
                if worker := by_pid.get(int(by.rpartition(":")[2])):
                    return worker

    def _begin(self, kind: str) -> Job:
        photos = self.photos
        if kind == "look":
            return start_looking(self.person, self.shoot)
        if kind == "prove":
            KeptPaper.objects.all().delete()  # what is proved is not asked for again
            return start_proving(self.person, self.shoot)
        if kind == "treat":
            return start_batch(
                self.person, self.shoot, "carry", photos[1:], photos[0], casts=None, replace=False
            )[1]
        if kind == "deliver":
            return start_delivery(self.person, photos[0], 1, Order(file_format="tiff16"))
        order = Order(file_format="png16", masks="png")
        return start_delivering(self.person, self.shoot, photos, order)

    def test_a_broker_that_is_away_or_forgets_everything_holds_nothing_up_for_good(self) -> None:
        photos = [self.photo(seed) for seed in range(3)]
        self.worker()
        self.broker.stop()
        job = start_delivering(self.person, self.shoot, photos, Order(file_format="png"))
        self.assertEqual(Job.objects.filter(parent=job, state=State.WAITING).count(), 3)
        for left in (self.folder / "redis").rglob("*.aof*"):
            left.unlink()
        self.broker.start()
        self.until(lambda: own_job(self.person, job.id).over)
        self.whole(job, 3)

    def test_a_database_that_is_away_for_a_moment(self) -> None:
        """Every connection is cut in the middle of the work, more than once."""
        photos = [self.photo(seed) for seed in range(6)]
        self.worker()
        job = start_delivering(self.person, self.shoot, photos, Order(file_format="png16"))
        cuts = 0
        while not own_job(self.person, job.id).over:
            cuts += self._cut()
            time.sleep(0.7)
        self.assertGreater(cuts, 0)
        self.whole(job, 6)

    def _cut(self) -> int:
        from django.db import connection

        with connection.cursor() as cursor:
            cursor.execute("SELECT id FROM information_schema.processlist WHERE id <> CONNECTION_ID()"
                           " AND db = DATABASE()")  # fmt: skip
            ids = [row[0] for row in cursor.fetchall()]
            for one in ids:
                try:
                    cursor.execute("KILL %s", [one])
                except Exception:  # gone by itself
                    continue
        return len(ids)

    def test_a_full_disk_is_told_and_the_rest_goes_on(self) -> None:
        full = OSError(28, "No space left on device", str(self.folder / "secret"))
        self.fails("shoots.files.os.fsync", full, "disk is full")
        self.assertEqual(list((self.folder / "deliveries").iterdir()), [])

    def test_a_folder_that_may_only_be_read(self) -> None:
        closed = PermissionError(13, "Permission denied", str(self.folder / "deliveries/x"))
        self.fails("nubilis.whole.os.replace", closed, "may not be written")

    def fails(self, where: str, error: OSError, told: str) -> None:
        """A delivery during which the disk refuses: said without a path, and nothing is recorded."""
        photo = self.photo(1)
        job = start_delivery(self.person, photo, 1, Order(file_format="png"))
        with mock.patch(where, side_effect=error):
            taken = claim()
            assert taken is not None
            run(taken)
        job.refresh_from_db()
        self.assertEqual(job.state, State.FAILED)
        self.assertIn(told, job.error)
        self.assertNotIn(str(self.folder), job.error)
        self.assertEqual(Delivery.objects.count(), 0)


@long_tier
class Claims(WorkerCase):
    """Without workers: who is given what."""

    def test_one_piece_is_done_by_one_however_often_it_is_asked_for(self) -> None:
        photo = self.photo(1)
        start_delivery(self.person, photo, 1, Order(file_format="png"))
        first, second = claim(), claim()
        self.assertIsNotNone(first)
        self.assertIsNone(second)

    def test_whoever_was_taken_for_dead_says_nothing_any_more(self) -> None:
        photo = self.photo(1)
        job = start_delivery(self.person, photo, 1, Order(file_format="png"))
        slow = claim()
        assert slow is not None
        with override_settings(JOBS_LOST_AFTER=0.0):
            time.sleep(0.01)
            take_back_lost([])
        Job.objects.filter(id=job.id).update(not_before=None)
        other = claim()
        assert other is not None
        self.assertNotEqual(other.token, slow.token)
        run(slow)
        job.refresh_from_db()
        self.assertEqual((job.state, job.token), (State.RUNNING, other.token))
        run(other)
        self.whole(job, 1)

    def test_work_whose_worker_ends_each_time_is_given_up_and_says_so(self) -> None:
        photo = self.photo(1)
        job = start_delivery(self.person, photo, 1, Order(file_format="png"))
        with override_settings(JOBS_LOST_AFTER=0.0, JOBS_ATTEMPTS=3):
            for _ in range(3):
                Job.objects.filter(id=job.id).update(not_before=None)
                self.assertIsNotNone(claim())
                time.sleep(0.01)
                take_back_lost([])
        job.refresh_from_db()
        self.assertEqual(job.state, State.FAILED)
        self.assertIn("each time it was tried", job.error)

    def test_many_photos_of_one_keep_nobody_else_s_one_waiting(self) -> None:
        other = User.objects.create_user("otto", password="string and wood")
        elsewhere = Shoot.objects.create(owner=other, name="Elsewhere")
        many = [self.photo(seed) for seed in range(6)]
        start_delivering(self.person, self.shoot, many, Order(file_format="png"))
        taken = [claim()]
        one = self.photo(9, shoot=elsewhere)
        start_delivery(other, one, 1, Order(file_format="png"))
        taken += [claim(), claim()]
        owners = [job.owner_id for job in taken if job]
        self.assertEqual(owners, [self.person.id, other.id, self.person.id])
        # And of one person's own, what is of one photo comes before the rest of many.
        start_delivery(self.person, many[5], 1, Order(file_format="tiff"))
        job = claim()
        assert job is not None
        self.assertEqual((job.kind, job.photo_id), ("deliver", many[5].id))

    def test_what_fails_for_a_moment_is_tried_again_later(self) -> None:
        photo = self.photo(1)
        job = start_delivery(self.person, photo, 1, Order(file_format="png"))
        away = ConnectionError("the store is away")
        with mock.patch("delivery.services.deliver.files.put", side_effect=away):
            taken = claim()
            assert taken is not None
            with self.assertLogs("jobs"):
                run(taken)
        job.refresh_from_db()
        self.assertEqual(job.state, State.WAITING)
        assert job.not_before is not None
        self.assertGreater(job.not_before, now())
        self.assertIsNone(claim())
        Job.objects.update(not_before=now())
        again = claim()
        assert again is not None
        run(again)
        self.whole(job, 1)

    def test_what_there_is_no_memory_for_waits_while_anything_else_goes_on(self) -> None:
        photo = self.photo(1)
        start_delivery(self.person, photo, 1, Order(file_format="png"))
        start_delivery(self.person, photo, 1, Order(file_format="tiff"))
        with mock.patch("jobs.services.memory.available", return_value=1000):
            self.assertIsNotNone(claim())
            self.assertIsNone(claim())
        self.assertIsNotNone(claim())

    def test_stopped_parts_end_the_whole(self) -> None:
        photos = [self.photo(seed) for seed in range(3)]
        job = start_delivering(self.person, self.shoot, photos, Order(file_format="png"))
        first = claim()
        assert first is not None
        run(first)
        second = claim()
        assert second is not None
        cancel(own_job(self.person, job.id))
        self.assertFalse(own_job(self.person, job.id).over)
        run(second)
        told = own_job(self.person, job.id)
        self.assertEqual((told.state, told.done), (State.CANCELLED, 1))
        self.assertIsNone(claim())
