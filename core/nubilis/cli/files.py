"""Reading and writing for the command line. Raises PhotoError in one line when a file is at fault."""

import json
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.errors import PhotoError
from nubilis.photo.grey import grey_file
from nubilis.photo.picture import Photo

# Files that the verb reads, as (device, inode): nothing is ever written onto one of them.
_inputs: set[tuple[int, int]] = set()


def protect(paths: Iterable[Path]) -> None:
    """Say which files the verb reads. Those that are not there are of no account."""
    _inputs.clear()
    _inputs.update(filter(None, map(_identity, paths)))


def is_input(path: Path) -> bool:
    """Whether it is one of the files that are read, under whatever name."""
    return _identity(path) in _inputs


def refuse_input(path: Path) -> Path:
    """The path. Raises PhotoError when it is one of the files that are read."""
    if is_input(path):
        raise PhotoError(f"{path} is what was read, and stays as it is; choose another name")
    return path


def _identity(path: Path) -> tuple[int, int] | None:
    try:
        found = path.stat()
    except (OSError, ValueError):
        return None
    return found.st_dev, found.st_ino


def read_bytes(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise PhotoError(f"cannot read {path}: {error.strerror}") from error


def write_json(target: str, document: dict[str, Any] | list[dict[str, Any]]) -> None:
    """target: a path, or - for standard output."""
    text = json.dumps(document, indent=1) + "\n"
    if target == "-":
        sys.stdout.write(text)
    else:
        write_text(Path(target), text)


def write_text(path: Path, text: str) -> None:
    write_bytes(path, text.encode())


def write_bytes(path: Path, data: bytes) -> None:
    try:
        refuse_input(path).write_bytes(data)
    except OSError as error:
        raise PhotoError(f"cannot write {path}: {error.strerror}") from error


def write_grey(path: Path, plane: Floats, photo: Photo) -> None:
    """A plane 0..1 of any size as an 8-bit grey PNG of the photo's size."""
    grey = np.clip(plane * 255.0 + 0.5, 0.0, 255.0).astype(np.uint8)
    size = (photo.width, photo.height)
    full = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_LINEAR))
    write_bytes(path, grey_file(full, "png"))
