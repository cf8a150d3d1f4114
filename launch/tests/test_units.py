"""What the browser's own code does without a browser: Vitest's tests, each told as one of ours."""

import json
import subprocess
import tempfile
import unittest
from pathlib import Path

from launch.build import WEB, node_environment


class Units(unittest.TestCase):
    def test_every_unit(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "told.json"
            ran = subprocess.run(
                ["npx", "vitest", "run", "--reporter=json", f"--outputFile={out}"],
                cwd=WEB, env=node_environment(), capture_output=True, text=True, check=False,
            )  # fmt: skip
            self.assertTrue(out.is_file(), ran.stdout + ran.stderr)
            told = json.loads(out.read_text())
        for file in told["testResults"]:
            name = Path(file["name"]).name
            with self.subTest(name):
                self.assertEqual(file["status"], "passed", file.get("message"))
            for test in file["assertionResults"]:
                with self.subTest(f"{name}: {test['fullName']}"):
                    self.assertEqual(test["status"], "passed", "\n".join(test["failureMessages"]))
        self.assertEqual(ran.returncode, 0, ran.stderr)
        self.assertGreater(told["numPassedTests"], 50)
