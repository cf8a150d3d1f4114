"""Writing files so that half a one is never seen."""

from collections.abc import Callable
from pathlib import Path
from uuid import uuid4


def written_whole(target: Path, fill: Callable[[Path], object]) -> None:
    """Half a file is never seen under its final name. fill: writes to the path that it is given."""
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(f"{target.name}.{uuid4().hex}.part")
    try:
        fill(part)
        part.replace(target)
    finally:
        part.unlink(missing_ok=True)
