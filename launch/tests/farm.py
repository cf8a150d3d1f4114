"""A broker and workers of their own on a test's database, with files in a folder of the test's."""

import os
import shutil
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.db import connection
from django.test import TransactionTestCase, override_settings

from accounts.models import User
from config.tests.cases import FOLDERS, stored_in
from launch.database import free_port
from launch.services import Broker, Worker
from shoots.models import Shoot

PATIENCE = 900  # seconds, on the slowest machine
LOST_AFTER = (
    6.0  # seconds: soon enough for a test, and long for a thread that only says "still at it"
)


class Farm(TransactionTestCase):
    """Work is begun by this process, as the web process would, and done by workers."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="nubilis-test-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.broker = Broker(free_port(), self.folder / "redis")
        self.broker.start()
        self.addCleanup(self.broker.stop)
        folders = {name: self.folder / name.lower() for name in FOLDERS}
        folders["FILE_UPLOAD_TEMP_DIR"] = self.folder / "uploads"
        for folder in folders.values():
            folder.mkdir(exist_ok=True)
        own = override_settings(BROKER=self.broker.url, **folders, **stored_in(self.folder))
        own.enable()
        self.addCleanup(own.disable)
        from config.queue import app

        app.conf.broker_url = self.broker.url
        app.pool.force_close_all()
        self.person = User.objects.create_user("ida", password="hand and rod")
        self.shoot = Shoot.objects.create(owner=self.person, name="Rehearsal")
        self.workers: list[Worker] = []

    @property
    def env(self) -> dict[str, str]:
        return dict(os.environ) | {
            "NUBILIS_DATABASE_NAME": str(connection.settings_dict["NAME"]),
            "NUBILIS_VAR": str(self.folder),
            "NUBILIS_BROKER": self.broker.url,
            "NUBILIS_JOBS_LOST_AFTER": str(LOST_AFTER),
            "NUBILIS_JOBS_ATTEMPTS": "99",
        }

    def worker(self, **env: str) -> Worker:
        worker = Worker(len(self.workers) + 1, self.env | env)
        worker.start()
        self.addCleanup(self.kill, worker)
        self.workers.append(worker)
        return worker

    def kill(self, worker: Worker) -> None:
        if worker.process is not None:
            worker.process.kill()
            worker.process.wait()

    def until(self, check: Callable[[], Any]) -> None:
        given_up = time.monotonic() + PATIENCE
        while not check():
            self.assertLess(time.monotonic(), given_up)
            time.sleep(0.05)
