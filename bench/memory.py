"""Peak memory of the command line on large photos, each in a process of its own."""

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from bench.workload import large_photo, three_casts, with_every_kind
from nubilis.photo.write import write_photo
from nubilis.recipe.files import write_file

CASES = (
    ("24 MP JPEG, 8 bit", 6000, 4000, 8, "jpeg", "jpeg", 1200),
    ("100 MP TIFF, 16 bit", 12000, 8334, 16, "tiff16", "tiff16", 2000),
)


def peak_mb(path: Path, recipe: Path, out: Path, file_format: str) -> float:
    """Peak resident memory of `apply` in MB."""
    command = [
        sys.executable, "-m", "bench.memory", str(recipe), str(path), str(out), file_format,
    ]  # fmt: skip
    told = subprocess.run(command, check=True, capture_output=True, text=True, env=os.environ)
    return float(json.loads(told.stdout)["peak_mb"])


def report() -> list[str]:
    lines = ["| applied with three casts of three remedies | peak MB | budget |", "|---|---|---|"]
    for name, width, height, bits, ours, theirs, budget in CASES:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / ("in.jpg" if ours == "jpeg" else "in.tif")
            photo = large_photo(width, height, bits)
            write_photo(path, photo, ours)
            recipe = Path(folder) / "recipe.json"
            recipe.write_text(write_file(with_every_kind(three_casts(photo))))
            del photo
            peak = peak_mb(path, recipe, Path(folder) / "out", theirs)
        lines.append(f"| {name} | {peak:.0f} | {budget} |")
    return lines


def _child(recipe: str, path: str, out: str, file_format: str) -> None:
    from nubilis.cli.main import main

    code = main(["apply", recipe, path, "--out-dir", out, "--format", file_format])
    print(json.dumps({"peak_mb": _peak_kb() / 1024, "code": code}))
    sys.exit(code)


def _peak_kb() -> int:
    """Of this program alone: what getrusage tells of a child begins at what its parent held. (proc(5).)"""
    status = Path("/proc/self/status").read_text().splitlines()
    return next(int(line.split()[1]) for line in status if line.startswith("VmHWM:"))


if __name__ == "__main__":
    _child(*sys.argv[1:])
