"""The verb fuzz: look long for what no test thought of."""

import argparse
import os
import subprocess

from launch import build
from launch.common import ROOT, VAR, VENV_PYTHON, LaunchError, end_with_parent, say

READERS = ("photo", "work", "mask-picture", "recipe", "recipe-file", "table", "references", "keys")
# Tests that look as long as they are told to.
TESTS = {
    "api": "config.tests.test_fuzzed",
    "questions": "config.tests.test_changed",
    "files": "core.tests.test_damaged",
    "shaping": "core.tests.test_shaping",
    "crowds": "studio.tests.test_at_once",
    "faults": "config.tests.test_faults",
}


def fuzz_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("what", nargs="*", help=f"{', '.join((*READERS, *TESTS))} (all)")
    parser.add_argument("--minutes", type=float, default=5.0, help="for each reader")
    parser.add_argument("--times", type=int, default=20, help="as long as the tests do")
    parser.set_defaults(verb=_fuzz)


def _fuzz(options: argparse.Namespace) -> int:
    unknown = set(options.what) - {*READERS, *TESTS}
    if unknown:
        raise LaunchError(f"fuzz knows {', '.join((*READERS, *TESTS))}, not {min(unknown)}")
    what = options.what or [*READERS, *TESTS]
    build.everything_ready(for_test=True)
    build.python_packages("fuzz")
    code = 0
    for name in what:
        say(f"Looking: {name}")
        code |= _reader(name, options.minutes) if name in READERS else _test(name, options.times)
    return code


def _reader(name: str, minutes: float) -> int:
    """What it fails on is left in var/fuzz."""
    folder = VAR / "fuzz"
    folder.mkdir(parents=True, exist_ok=True)
    words = [str(VENV_PYTHON), "-m", "fuzz", name, str(int(60 * minutes))]
    env = os.environ | {"PYTHONPATH": str(ROOT / "core")}
    return subprocess.run(
        words,
        cwd=folder,
        env=env,
        check=False,
        preexec_fn=end_with_parent,
    ).returncode


def _test(name: str, times: int) -> int:
    env = os.environ | {"NUBILIS_FUZZ": str(times)}
    words = [str(ROOT / "nubilis"), "test", "--only-tests", "--parts", "1", TESTS[name]]
    return subprocess.run(words, env=env, check=False, preexec_fn=end_with_parent).returncode
