"""Reading and writing for the command line. Raises PhotoError in one line when a file is at fault."""

import json
import sys
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from nubilis.arrays import Floats
from nubilis.errors import PhotoError
from nubilis.photo.grey import grey_file
from nubilis.photo.picture import Photo


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
        path.write_bytes(data)
    except OSError as error:
        raise PhotoError(f"cannot write {path}: {error.strerror}") from error


def write_grey(path: Path, plane: Floats, photo: Photo) -> None:
    """A plane 0..1 of any size as an 8-bit grey PNG of the photo's size."""
    grey = np.clip(plane * 255.0 + 0.5, 0.0, 255.0).astype(np.uint8)
    size = (photo.width, photo.height)
    full = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_LINEAR))
    write_bytes(path, grey_file(full, "png"))
