"""A disk that is full: what cannot be kept is said, reading goes on, and all comes back by itself."""

import os
import shutil
import subprocess
import tempfile
import threading
import time
import unittest
import urllib.error
from collections.abc import Callable
from pathlib import Path
from typing import Any

from config.tests.cases import glowing_wall, png_bytes, recipe_document
from core.tests.effort import long_tier
from launch.common import ROOT, VENV_PYTHON
from launch.database import Database, free_port, port_is_free
from launch.services import WebServer
from launch.supervise import Stop, Watched, supervise

from .client import PATIENCE, Client

SIZE = "420m"


@long_tier
@unittest.skipUnless(os.geteuid() == 0, "a disk of its own takes the right to mount one")
class FullDisk(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="nubilis-test-"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        mount = ["mount", "-t", "tmpfs", "-o", f"size={SIZE}", "tmpfs", str(self.folder)]
        if subprocess.run(mount, capture_output=True, check=False).returncode:
            self.skipTest("no disk can be mounted here")
        self.addCleanup(subprocess.run, ["umount", "-l", str(self.folder)], check=False)
        self.database = Database("mariadb", free_port(), home=self.folder)
        self.database.start()
        self.env = self.database.environment() | {"NUBILIS_USER": "ida", "NUBILIS_DEMO": "0"}
        self.env["NUBILIS_PASSWORD"] = "hand and rod"
        for words in (["migrate", "--verbosity", "0"], ["first_account"]):
            manage = [str(VENV_PYTHON), str(ROOT / "server/manage.py"), *words]
            subprocess.run(manage, env=self.env, check=True, capture_output=True)
        self.web = WebServer(free_port(), self.env)
        self.web.start()
        self.stop = Stop()
        watched = [Watched(self.database, 0.2), Watched(self.web, 0.2)]
        self.thread = threading.Thread(target=supervise, args=(watched, self.stop))
        self.thread.start()
        self.addCleanup(self.thread.join)
        self.addCleanup(self.stop.set)
        self.until(lambda: not port_is_free(self.web.port))
        self.client = Client(self.web.port)
        self.client.sign_in()

    def until(self, check: Callable[[], bool]) -> None:
        given_up = time.monotonic() + PATIENCE
        while not check():
            self.assertLess(time.monotonic(), given_up)
            time.sleep(0.1)

    def asked(self, work: Callable[[], Any]) -> tuple[int, Any]:
        """Its status, 0 when nobody is there; and the answer."""
        try:
            return 200, work()
        except urllib.error.HTTPError as error:
            return error.code, error.read().decode()
        except OSError:
            return 0, None

    def fill(self) -> Path:
        """To the last byte."""
        filler = self.folder / "filler"
        with filler.open("wb", buffering=0) as out:
            for piece in (2**20, 2**12, 1):
                try:
                    while True:
                        out.write(bytes(piece))
                except OSError:
                    continue
        return filler

    def save(self, photo: int, revision: int) -> tuple[int, Any]:
        recipe = recipe_document(name="x" * 100)
        recipe["casts"] = [recipe["casts"][0] | {"id": f"c{i}"} for i in range(8)]
        body = {"revision": revision, "recipe": recipe}
        return self.asked(lambda: self.client.send(f"/photos/{photo}/recipe", body, "PUT"))

    def test_what_was_confirmed_is_there_and_all_comes_back(self) -> None:
        shoot = self.client.send("/shoots", {"name": "Rehearsal"})["id"]
        photo = self.client.upload(shoot, png_bytes(glowing_wall()), "wall.png")
        filler = self.fill()
        kept, refused = 0, 0
        for _ in range(3000):
            status, told = self.save(photo, kept)
            if status == 200:
                kept = told["revision"]
                continue
            self.assertIn(status, (0, 503, 507), told)
            refused += 1
            if refused == 30:
                break
        self.assertGreaterEqual(refused, 30)
        other = png_bytes(glowing_wall(seed=9))
        status, told = self.asked(lambda: self.client.upload(shoot, other, "more.png"))
        self.assertIn(status, (0, 503, 507), told)
        status, told = self.asked(lambda: self.client.ask("GET", f"/photos/{photo}"))
        self.assertIn(status, (200, 0, 503), told)
        filler.unlink()
        self.until(lambda: self.save(photo, kept)[0] == 200)
        now = self.client.ask("GET", f"/photos/{photo}")["state"]["revision"]
        self.assertEqual(now, kept + 1)
        self.client.upload(shoot, other, "more.png")
        self.assertTrue(self.thread.is_alive())
