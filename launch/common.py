"""Paths, the one-line error, and running a step."""

import ctypes
import hashlib
import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VAR = ROOT / "var"  # what set-up makes
DATA = Path(os.environ.get("NUBILIS_VAR") or VAR).absolute()  # what people make, and what keeps it
MODELS = VAR / "models"
VENV_PYTHON = ROOT / ".venv" / "bin" / "python"


class LaunchError(Exception):
    """Something the person must know or do, in one line."""


def say(text: str) -> None:
    """Progress goes to standard error, so that a verb's JSON can own standard output."""
    print(text, file=sys.stderr, flush=True)


@contextmanager
def step(what: str, seconds: int) -> Iterator[None]:
    """Say what is being done and about how long it takes, then how long it took."""
    say(f"{what} (about {seconds} s)")
    started = time.monotonic()
    yield
    say(f"{what}: {time.monotonic() - started:.0f} s")


def run(
    command: list[str],
    what: str,
    *,
    cwd: Path = ROOT,
    env: Mapping[str, str] | None = None,
) -> None:
    """Run one step quietly; on failure keep its whole output in var/log and say one line."""
    log = VAR / "log" / (what.replace(" ", "-") + ".log")
    log.parent.mkdir(parents=True, exist_ok=True)
    with log.open("wb") as out:
        code = subprocess.run(
            command, cwd=cwd, env=env, stdout=out, stderr=subprocess.STDOUT, check=False
        ).returncode
    if code:
        tail = log.read_text(errors="replace").strip().splitlines()
        reason = tail[-1] if tail else f"exit code {code}"
        if any("No space left" in line for line in tail):
            reason = "the disk is full"
        raise LaunchError(f"{what} failed: {reason} (all of it: {log.relative_to(ROOT)})")


def end_with_parent() -> None:
    """For a child, before it becomes its program: be told to stop should the launcher be killed.

    Else a killed launcher would leave a server behind that holds its port. (Linux, prctl(2).)
    """
    pr_set_pdeathsig = 1
    ctypes.CDLL(None).prctl(pr_set_pdeathsig, signal.SIGTERM)


def fingerprint(files: Iterable[Path], extra: str = "") -> str:
    """SHA-256 over names and contents, to tell whether a step must run again."""
    digest = hashlib.sha256(extra.encode())
    for file in sorted(files):
        digest.update(str(file.relative_to(ROOT)).encode())
        digest.update(file.read_bytes())
    return digest.hexdigest()


def done_before(step: str, mark: str) -> bool:
    stamp = VAR / "stamps" / step
    return stamp.is_file() and stamp.read_text() == mark


def remember(step: str, mark: str) -> None:
    stamp = VAR / "stamps" / step
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.write_text(mark)


def product_environment() -> dict[str, str]:
    """The environment in which the product's own Python runs."""
    env = dict(os.environ)
    env["PYTHONPATH"] = os.pathsep.join([str(ROOT / "core"), str(ROOT / "server")])
    env["PYTHONPYCACHEPREFIX"] = str(VAR / "bytecode")  # beside nobody's sources
    env["NUMBA_CACHE_DIR"] = str(VAR / "kernels")
    # Idle threads of one library that wait busily take the processor from another's: measured, the
    # amount field takes 180 ms instead of 79.
    env["OPENBLAS_NUM_THREADS"] = "1"
    env["OMP_WAIT_POLICY"] = "passive"
    # Few heaps for all threads, and planes of pictures given back as soon as they are let go of.
    env.setdefault("MALLOC_ARENA_MAX", "2")
    env.setdefault("MALLOC_MMAP_THRESHOLD_", str(8 * 2**20))
    env["NUBILIS_VAR"] = str(DATA)
    env["NUBILIS_MODELS"] = str(MODELS)
    env["NUBILIS_SCENES"] = str(ROOT / "demo/photos")
    return env
