"""Formatting, lint and types of both languages."""

import subprocess
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from launch import build
from launch.common import ROOT, VENV_PYTHON, product_environment, say

# A command, where it runs, and its environment.
_Check = tuple[tuple[str, ...], Path, dict[str, str]]


def check_code() -> int:
    """Formatting, lint and types of both languages, beside each other: each takes one core."""
    python = str(VENV_PYTHON), "-m"
    trees = "nubilis", "launch", "core", "server", "bench"
    own = product_environment()
    lanes: list[list[_Check]] = [
        [
            ((*python, "ruff", "check", "-q", *trees), ROOT, own),
            ((*python, "ruff", "format", "--check", "-q", *trees), ROOT, own),
            ((*python, "mypy", "--strict"), ROOT, own),
        ],
        [(("npm", "run", "--silent", "check"), ROOT / "web", build.node_environment())],
    ]
    with ThreadPoolExecutor(len(lanes)) as pool:
        return max(pool.map(_checked, lanes))


def _checked(lane: list[_Check]) -> int:
    """The first exit code that is not 0."""
    for (program, *words), folder, env in lane:
        say(" ".join(["Checking:", Path(program).name, *words]))
        command = [program, *words]
        if code := subprocess.run(command, cwd=folder, env=env, check=False).returncode:
            return abs(code)
    return 0
