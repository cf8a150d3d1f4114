"""The web process killed in the middle of its work: what was under way is said to be interrupted, goes on
when it is asked to, and nothing half made is left."""

import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from django.db import connection
from django.test import TransactionTestCase

from accounts.models import User
from config.tests.cases import glowing_wall, png_bytes, recipe_document
from core.tests.effort import long_tier
from delivery.models import Delivery
from jobs.models import Job
from launch.common import ROOT, VENV_PYTHON
from launch.database import free_port
from shoots.models import Shoot

from .client import PATIENCE, Client


class Web(Client):
    """A serving process of its own, on this test's database and a folder of its own."""

    def __init__(self, folder: Path) -> None:
        super().__init__(free_port())
        env = os.environ | {
            "NUBILIS_DATABASE_NAME": str(connection.settings_dict["NAME"]),
            "NUBILIS_VAR": str(folder),
        }
        self.process = subprocess.Popen(
            [str(VENV_PYTHON), str(ROOT / "server/manage.py"), "web", "--port", str(self.port)],
            env=env, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        assert self.process.stdout is not None
        self.process.stdout.readline()  # it says where it is when it listens

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()
        if self.process.stdout:
            self.process.stdout.close()


def large_wall() -> np.ndarray:
    return np.tile(glowing_wall(400, 600), (6, 6, 1))


@long_tier
class Killed(TransactionTestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="nubilis-test-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        person = User.objects.create_user("ida", password="hand and rod")
        self.shoot = Shoot.objects.create(owner=person, name="Rehearsal")

    def web(self) -> Web:
        web = Web(self.folder)
        self.addCleanup(web.kill)
        web.sign_in()
        return web

    def until(self, check: Callable[[], bool]) -> None:
        given_up = time.monotonic() + PATIENCE
        while not check():
            self.assertLess(time.monotonic(), given_up)
            time.sleep(0.02)

    def made(self) -> set[str]:
        return {p.name for p in (self.folder / "deliveries").iterdir()}

    def test_nothing_is_lost_and_nothing_half_made_is_left(self) -> None:
        web = self.web()
        for seed in range(6):
            web.upload(self.shoot.id, png_bytes(glowing_wall(seed=seed)), f"{seed}.png")
        large = web.upload(self.shoot.id, png_bytes(large_wall()), "large.png")
        web.send(f"/photos/{large}/recipe", {"revision": 0, "recipe": recipe_document()}, "PUT")
        look = web.send(f"/shoots/{self.shoot.id}/look", {})
        body = {"revision": 1, "order": {"file_format": "png16"}}
        delivery = web.send(f"/photos/{large}/deliveries", body)
        jobs = Job.objects.filter(id__in=(look["id"], delivery["id"]))
        self.until(lambda: Job.objects.get(id=delivery["id"]).share > 0)
        web.kill()
        over = {j.kind for j in jobs.all() if j.over}
        self.assertNotIn("deliver", over)
        # As if it had died a moment later, with its file there and not yet recorded.
        (self.folder / "deliveries" / "0b7c4f0e-stray.png").write_bytes(b"whole, but nobody's")
        (self.folder / "deliveries" / "half.png.part").write_bytes(b"half")

        web = self.web()
        for job in jobs.all():
            state = Job.State.DONE if job.kind in over else Job.State.INTERRUPTED
            self.assertEqual(job.state, state, job.kind)
            self.assertEqual(web.ask("GET", f"/jobs/{job.id}")["state"], state)
        self.assertEqual(self.made(), set())
        self.assertEqual(Delivery.objects.count(), 0)

        again = [
            web.send(f"/jobs/{job.id}/take-up", {})["id"]
            for job in jobs.all()
            if job.state == Job.State.INTERRUPTED
        ]
        rest = Job.objects.filter(id__in=again)
        self.until(lambda: all(j.over for j in rest.all()))
        self.assertEqual({j.state for j in rest.all()}, {Job.State.DONE}, [j.error for j in rest])
        (row,) = Delivery.objects.all()
        self.assertEqual(self.made(), {f"{row.id}.png"})
