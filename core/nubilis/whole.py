"""Files that are seen whole or not at all, also after the power failed."""

import os
from contextlib import suppress
from pathlib import Path


def take_place(part: Path, target: Path) -> None:
    """A file that was written beside its place takes it, and both are on the disk then. Raises OSError, with
    nothing in its place."""
    _on_disk(part, os.O_RDWR)
    os.replace(part, target)
    with suppress(OSError):  # it is there; what more could be done about a folder?
        _on_disk(target.parent, os.O_RDONLY)


def _on_disk(path: Path, how: int) -> None:
    opened = os.open(path, how)
    try:
        os.fsync(opened)
    finally:
        os.close(opened)
