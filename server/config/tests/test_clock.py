"""A clock that jumps: nothing goes that should stay, nobody waits for the time that was jumped."""

from datetime import datetime, timedelta
from typing import Any
from unittest import mock

from django.utils import timezone

from accounts.services import throttle
from config.errors import Refused
from config.tests.cases import ServerCase
from jobs.models import Job
from jobs.services import claim as claiming
from jobs.services.clock import now
from shoots.models import Photo
from shoots.services import bin as photo_bin

State = Job.State


class Jumps(ServerCase):
    def at(self, moment: datetime) -> Any:
        return mock.patch("django.utils.timezone.now", return_value=moment)

    def test_a_year_ahead_for_an_hour_empties_no_bin(self) -> None:
        photo = self.photo()
        photo_bin.remove([photo])
        ahead = timezone.now() + timedelta(days=365)
        for hour in range(3):
            with self.at(ahead + timedelta(hours=hour)):
                photo_bin.empty_old()
        photo_bin.empty_old()  # put right
        later = timezone.now() + timedelta(days=31)
        with self.at(later):
            photo_bin.empty_old()
        self.assertTrue(Photo.everywhere.filter(id=photo.id).exists())
        with self.at(later + timedelta(days=1, minutes=1)):
            photo_bin.empty_old()
        self.assertFalse(Photo.everywhere.filter(id=photo.id).exists())

    def job(self, **more: Any) -> Job:
        return Job.objects.create(owner=self.person, shoot=self.shoot, kind="look", **more)

    def test_work_does_not_wait_for_a_time_that_was_jumped_back(self) -> None:
        self.job(not_before=now() + timedelta(hours=6))
        self.assertIsNotNone(claiming.claim())

    def test_a_short_pause_is_kept(self) -> None:
        self.job(not_before=now() + timedelta(seconds=120))
        self.assertIsNone(claiming.claim())

    def test_work_of_one_who_is_gone_is_taken_back_though_it_was_seen_in_the_future(self) -> None:
        self.job()
        job = claiming.claim()
        assert job is not None
        Job.objects.filter(id=job.id).update(seen=now() + timedelta(hours=6))
        claiming.take_back_lost([])
        job.refresh_from_db()
        self.assertEqual((job.state, job.token), (State.WAITING, None))

    def test_work_that_goes_on_is_nobody_else_s_when_the_clock_jumps_ahead(self) -> None:
        self.job()
        job = claiming.claim()
        assert job is not None and job.token is not None
        with mock.patch.object(claiming, "now", return_value=now() + timedelta(hours=6)):
            claiming.take_back_lost([job.token])
        job.refresh_from_db()
        self.assertEqual(job.state, State.RUNNING)

    def test_nobody_is_kept_out_by_what_a_clock_ahead_has_written(self) -> None:
        with self.at(timezone.now() + timedelta(days=2)):
            for _ in range(throttle.PAIR):
                throttle.failed("ida", "192.0.2.1")
            self.assertRaises(Refused, throttle.check, "ida", "192.0.2.1")
        throttle.check("ida", "192.0.2.1")
