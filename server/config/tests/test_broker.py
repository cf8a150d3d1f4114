"""A broker that hangs keeps nobody waiting: work is in the database, and a worker finds it later."""

import socket
import time
import unittest
from unittest import mock

from django.test import override_settings

from config.queue import app
from config.tests.cases import ServerCase
from jobs import tasks


class Hanging(unittest.TestCase):
    """It takes connections and says nothing."""

    def setUp(self) -> None:
        self.listener = self.enterContext(socket.create_server(("127.0.0.1", 0)))
        port = self.listener.getsockname()[1]
        before = app.conf.broker_url
        self.addCleanup(setattr, app.conf, "broker_url", before)
        app.conf.broker_url = f"redis://:x@127.0.0.1:{port}/0"
        app.pool.force_close_all()
        self.addCleanup(app.pool.force_close_all)

    def test_one_that_hangs_is_given_up_soon_and_once_for_all(self) -> None:
        """Not once for each message, nor as long as its library would wait."""
        with (
            self.assertLogs("jobs.tasks", "WARNING") as told,
            mock.patch.object(tasks, "PATIENCE", 0.2),
        ):
            started = time.monotonic()
            tasks.wake(60)
        self.assertEqual(len(told.output), 1)
        # 60 of them one after the other would take twelve seconds at least.
        self.assertLess(time.monotonic() - started, 10.0)

    def test_its_limits_are_below_a_second(self) -> None:
        limits = tasks._limits()
        waits = limits["transport_options"]
        self.assertLessEqual(limits["connect_timeout"] + waits["socket_timeout"], 1.0)
        self.assertEqual(waits["max_retries"], 0)


class WokenOnce(ServerCase):
    def test_a_job_of_many_photos_is_one_wake_up_after_the_commit(self) -> None:
        for seed in range(5):
            self.photo(seed=seed)
        far = override_settings(JOBS_AT_ONCE=False, BROKER="redis://127.0.0.1:1/0")
        committed = self.captureOnCommitCallbacks(execute=True)
        with far, mock.patch.object(tasks, "wake") as wake, committed:
            answer = self.send("post", f"/shoots/{self.shoot.id}/look", {})
            self.assertEqual(answer.status_code, 200)
            wake.assert_not_called()
        wake.assert_called_once_with(5)
