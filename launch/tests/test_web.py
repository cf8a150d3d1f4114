"""The serving process itself: it says where it is, answers, and stops when told."""

import os
import signal
import subprocess
import urllib.error
import urllib.request

from django.db import connection
from django.test import TransactionTestCase

from launch.common import ROOT, VENV_PYTHON
from launch.database import free_port


class WebProcess(TransactionTestCase):
    def setUp(self) -> None:
        self.port = free_port()
        name = str(connection.settings_dict["NAME"])
        self.process = subprocess.Popen(
            [str(VENV_PYTHON), str(ROOT / "server/manage.py"), "web", "--port", str(self.port)],
            env=os.environ | {"NUBILIS_DEMO": "1", "NUBILIS_DATABASE_NAME": name},
            stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        self.addCleanup(self.process.wait)
        self.addCleanup(self.process.kill)

    def get(self, path: str) -> tuple[int, bytes]:
        try:
            with urllib.request.urlopen(
                f"http://127.0.0.1:{self.port}{path}", timeout=10
            ) as answer:
                return answer.status, answer.read()
        except urllib.error.HTTPError as error:
            with error:
                return error.code, error.read()

    def test_it_says_where_it_is_and_stops_when_told(self) -> None:
        assert self.process.stdout is not None
        said = [self.process.stdout.readline() for _ in range(3)]
        self.assertIn(f"http://127.0.0.1:{self.port}/", said[0])
        self.assertIn("demo", said[1])
        self.assertIn("Ctrl-C", said[2])
        self.assertEqual(self.get("/photos/1")[0], 200)
        status, body = self.get("/api/photos/1")
        self.assertEqual((status, body), (401, b'{"detail": "Please sign in"}'))
        self.assertEqual(self.get("/assets/nothing.js")[0], 404)
        self.process.send_signal(signal.SIGTERM)
        self.assertEqual(self.process.wait(), 0)
        self.process.stdout.close()
