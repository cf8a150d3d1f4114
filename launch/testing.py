"""The verb test: the checks, then the tests, in several processes that share them out among themselves."""

import argparse
import json
import os
import shutil
import subprocess
import time
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from launch import build, long_tier
from launch.checking import check_code
from launch.common import (
    ROOT,
    VAR,
    VENV_PYTHON,
    LaunchError,
    end_with_parent,
    product_environment,
    say,
)
from launch.database import Database, free_port
from launch.services import MANAGE

TEST_SCHEMAS = r"test\_nubilis%"
TREES = "core", "server", "bench", "launch"
WITHOUT_DATABASE = "core", "bench"
SLOWEST_TOLD = 30  # tests
SECONDS = VAR / "test-seconds.json"  # of classes and of tests, when each was last run


def test_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("labels", nargs="*", help="only these: core, studio, core.tests.test_masks")
    parser.add_argument("--all", action="store_true", help="the long tier too")
    parser.add_argument("--only-tests", action="store_true", help="leave the code checks out")
    parser.add_argument(
        "--parts", type=int, default=(os.cpu_count() or 1) + 1, help="so many at once"
    )
    parser.add_argument("--failfast", action="store_true", help="end at the first failure")
    parser.add_argument(
        "--long-when-changed",
        action="store_true",
        help="the long tier too, when what it guards changed since it last passed",
    )
    parser.set_defaults(verb=_test)


def _test(options: argparse.Namespace) -> int:
    started = time.monotonic()
    build.everything_ready(for_test=True)
    ready = time.monotonic()
    long = options.all or (options.long_when_changed and long_tier.changed())
    say(f"Set-up: {ready - started:.0f} s. Tier: {'long' if long else 'default'}")
    if not options.only_tests and not options.labels and check_code():
        return 1
    code = _run(options, long)
    if not code and long and not options.labels:
        long_tier.remember_passed()
    say(f"{time.monotonic() - ready:.0f} s after set-up")
    return code


def _run(options: argparse.Namespace, long: bool) -> int:
    labels, parts = options.labels, options.parts
    env = _environment(long, parts)
    arguments = [MANAGE, "test", "--noinput", *([] if long else ["--exclude-tag=long"])]
    arguments += ["--failfast"] if options.failfast else []
    arguments += [_label(name) for name in labels or TREES]
    if labels and all(name.split(".")[0] in WITHOUT_DATABASE for name in labels):
        return _shared(arguments, env | {"NUBILIS_NO_DATABASE": "1"}, parts)
    database = Database("test-mariadb", free_port(), TEST_SCHEMAS, durable=False)
    try:
        database.start()
        return _shared(arguments, database.environment() | env, parts)
    finally:
        database.stop()


def _environment(long: bool, parts: int) -> dict[str, str]:
    env = product_environment()
    env["PYTHONPATH"] += os.pathsep + str(ROOT)
    env["NUBILIS_TIER"] = "long" if long else "default"
    env["NUBILIS_CORES"] = str(max((os.cpu_count() or 1) // parts, 1))
    return env


def _label(name: str) -> str:
    """A tree, an app of the server's, or a dotted name as it is."""
    for folder in (ROOT / name, ROOT / "server" / name):
        if folder.is_dir():
            return str(folder)
    if "." not in name:
        raise LaunchError(f"there are no tests called {name}")
    return name


def _shared(arguments: list[str], env: Mapping[str, str], parts: int) -> int:
    """Each part has a database of its own and takes class after class. What the first says is heard as it
    comes, the others' when they have ended. Returns 0 when all passed."""
    share = VAR / "test-run"
    shutil.rmtree(share, ignore_errors=True)
    share.mkdir(parents=True)
    logs = [share / f"part-{i}.log" for i in range(1, parts)]
    processes = [_part(arguments, env, share, i, logs) for i in range(parts)]
    codes = [process.wait() for process in processes]
    for log in logs:
        say(log.read_text(errors="replace"))
    told = [json.loads(file.read_text()) for file in share.glob("*.json")]
    _tell_and_keep(told)
    run, failed = sum(part["run"] for part in told), sum(part["failed"] for part in told)
    say(f"{run - failed} passed, {failed} failed")
    return 1 if any(codes) or failed or not run else 0


def _part(
    arguments: list[str], env: Mapping[str, str], share: Path, number: int, logs: list[Path]
) -> subprocess.Popen[bytes]:
    own = dict(env) | {
        "NUBILIS_TEST_SHARE": str(share),
        "NUBILIS_TEST_SECONDS": str(SECONDS),
        "NUBILIS_TEST_DATABASE": f"test_nubilis_{number}",
    }
    out = None if number == 0 else logs[number - 1].open("wb")
    return subprocess.Popen(
        [str(VENV_PYTHON), *arguments],
        cwd=ROOT,
        env=own,
        stdout=out,
        stderr=subprocess.STDOUT if out else None,
        preexec_fn=end_with_parent,  # noqa: PLW1509 (no threads here)
    )


def _tell_and_keep(told: list[dict[str, Any]]) -> None:
    """Say which tests took longest; keep the seconds of what was run, for the next time's order."""
    kept: dict[str, dict[str, float]] = {"classes": {}, "tests": {}}
    if SECONDS.is_file():
        kept = json.loads(SECONDS.read_text())
    now: dict[str, dict[str, float]] = {"classes": {}, "tests": {}}
    for part in told:
        now["classes"].update(part["classes"])
        now["tests"].update(part["tests"])
    slowest = sorted(now["tests"].items(), key=lambda item: -item[1])[:SLOWEST_TOLD]
    say("Slowest tests:")
    for name, seconds in slowest:
        say(f"  {seconds:5.1f} s  {name}")
    say(f"All classes together: {sum(now['classes'].values()):.0f} s")
    SECONDS.write_text(json.dumps({of: kept[of] | now[of] for of in now}, indent=0, sort_keys=True))
