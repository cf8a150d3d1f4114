"""Running the tests in several processes that share them out among themselves."""

import json
import shutil
import subprocess
from collections.abc import Mapping
from pathlib import Path

from launch.common import ROOT, VAR, VENV_PYTHON, end_with_parent, say

SLOWEST_TOLD = 12  # classes


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
    run, failed = _told(share)
    say(f"{run - failed} passed, {failed} failed")
    return 1 if any(codes) or failed or not run else 0


def _part(
    arguments: list[str], env: Mapping[str, str], share: Path, number: int, logs: list[Path]
) -> subprocess.Popen[bytes]:
    own = dict(env) | {
        "NUBILIS_TEST_SHARE": str(share),
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


def _told(share: Path) -> tuple[int, int]:
    """Tests run and failed; says which classes took longest."""
    told = [json.loads(file.read_text()) for file in share.glob("*.json")]
    seconds = {name: s for part in told for name, s in part["seconds"].items()}
    slowest = sorted(seconds.items(), key=lambda item: -item[1])[:SLOWEST_TOLD]
    say("Slowest: " + ", ".join(f"{name.rsplit('.', 1)[1]} {s:.0f} s" for name, s in slowest))
    say(f"All classes together: {sum(seconds.values()):.0f} s")
    return sum(part["run"] for part in told), sum(part["failed"] for part in told)
