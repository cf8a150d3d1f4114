"""Running the tests in several processes that share them out among themselves."""

import json
import shutil
import subprocess
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from launch.common import ROOT, VAR, VENV_PYTHON, end_with_parent, say

SLOWEST_TOLD = 30  # tests
SECONDS = VAR / "test-seconds.json"  # of classes and of tests, when each was last run


def run_shared(arguments: list[str], env: Mapping[str, str], parts: int) -> int:
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
