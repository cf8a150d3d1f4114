"""Shooting scenes: each as a raw file, one after the other, as a camera on a cable would send them."""

import time
from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from nubilis.arrays import Codes
from nubilis.camera.dng import Shot, preview_of, write_dng
from nubilis.camera.sensor import exposed
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import decode

SPEEDS = (100, 400, 1600)  # ISO, in turn
UPRIGHT, TURNED = 1, 6  # EXIF orientations: a portrait is shot with the camera on its side
FIRST = datetime(2026, 5, 1, 20, 15)


def shoot(scenes: Sequence[Path], folder: Path, frames: int, every: float = 0.0) -> Iterator[Path]:
    """Yields each file once it is there, whole. every: seconds between two. Raises PhotoError."""
    if not scenes:
        raise PhotoError("there are no scenes to shoot")
    for number in range(frames):
        if number and every:
            time.sleep(every)
        path = folder / f"QW_{number + 1:04d}.dng"
        photo = read_photo(scenes[number % len(scenes)])
        write_shot(path, photo, number)
        yield path


def _turned(codes: Codes) -> Codes:
    """A quarter, as the camera was."""
    return np.require(codes.swapaxes(0, 1)[::-1], requirements=["C", "W", "O"])


def write_shot(path: Path, photo: Photo, number: int = 0) -> None:
    """One scene as a raw file. number: of the shot, from 0; it says its noise, speed and time."""
    upright = photo.width >= photo.height
    if not upright:
        photo = replace(photo, codes=_turned(photo.codes), alpha=None)
    iso = SPEEDS[number % len(SPEEDS)]
    raw = exposed(decode(photo.codes, photo.profile), iso, seed=number)
    taken = FIRST + timedelta(seconds=7 * number)
    shot = Shot(iso, f"{taken:%Y:%m:%d %H:%M:%S}", UPRIGHT if upright else TURNED)
    write_dng(path, raw, preview_of(photo), shot)
