"""From one installation to another, empty one, by the verbs alone: nothing is lost, to the bit."""

import json
import os
import signal
import subprocess
import tempfile
import time
import unittest
from pathlib import Path
from typing import Any

from config.tests.cases import glowing_wall, png_bytes, recipe_document
from core.tests.effort import long_tier
from launch.common import ROOT, end_with_parent
from launch.database import free_port, port_is_free

from .client import PATIENCE, Client

PERSON, PASSWORD = "ida", "hand and rod"


class Installation:
    """One's own folder for all that people make."""

    def __init__(self, folder: Path) -> None:
        self.ports = ["--database-port", str(free_port())]
        self.port = free_port()
        own = {"NUBILIS_VAR": str(folder), "NUBILIS_USER": PERSON, "NUBILIS_PASSWORD": PASSWORD}
        # What reaches this test's own database is not for this one.
        passed = {k: v for k, v in os.environ.items() if not k.startswith("NUBILIS_")}
        self.env = passed | own
        self.serving: subprocess.Popen[bytes] | None = None

    def verb(self, *words: str) -> None:
        command = [str(ROOT / "nubilis"), *words, *self.ports]
        subprocess.run(command, env=self.env, check=True, stdout=subprocess.DEVNULL)

    def serve(self) -> Client:
        self.serving = subprocess.Popen(
            [str(ROOT / "nubilis"), "serve", "--port", str(self.port), *self.ports],
            env=self.env,
            stdout=subprocess.DEVNULL,
            preexec_fn=end_with_parent,  # noqa: PLW1509
        )
        given_up = time.monotonic() + PATIENCE
        while port_is_free(self.port):
            assert self.serving.poll() is None and time.monotonic() < given_up
            time.sleep(0.1)
        client = Client(self.port)
        client.sign_in()
        return client

    def stop(self) -> None:
        if self.serving is not None:
            self.serving.send_signal(signal.SIGINT)
            self.serving.wait()
            self.serving = None


@long_tier
class Restored(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory(prefix="nubilis-test-")))

    def installation(self, name: str) -> Installation:
        made = Installation(self.folder / name)
        self.addCleanup(made.stop)
        return made

    def work(self, client: Client) -> int:
        shoot = client.send("/shoots", {"name": "Rehearsal"})["id"]
        photo = client.upload(shoot, png_bytes(glowing_wall(200, 300)), "wall.png")
        for revision, amount in enumerate((0.4, 0.9)):
            body = {"revision": revision, "recipe": recipe_document(amount)}
            client.send(f"/photos/{photo}/recipe", body, "PUT")
        return photo

    def kept(self, client: Client, photo: int) -> dict[str, Any]:
        """All that one sees of a photo."""
        view = {"recipe": recipe_document(0.9), "size": [300, 200], "region": [0, 0, 300, 200]}
        paths = ("/session", "/shoots", f"/photos/{photo}", f"/photos/{photo}/history")
        asked = {path: client.ask("GET", path) for path in paths}
        picture = client.fetch("POST", f"/photos/{photo}/picture", json.dumps(view).encode())
        return asked | {"picture": picture}

    def originals(self, name: str) -> dict[str, bytes]:
        folder = self.folder / name / "originals"
        return {p.name: p.read_bytes() for p in folder.rglob("*") if p.is_file()}

    def test_everything_is_there_again(self) -> None:
        first, second = self.installation("first"), self.installation("second")
        client = first.serve()
        photo = self.work(client)
        before, file = self.kept(client, photo), str(self.folder / "all.nubilis")
        first.verb("backup", file)  # while it serves
        first.stop()
        second.verb("restore", file)
        self.assertEqual(self.kept(second.serve(), photo), before)
        self.assertEqual(self.originals("second"), self.originals("first"))
        self.assertEqual(len(self.originals("first")), 1)
