"""Deliveries as a folder of the server's machine: one for each person and shoot."""

import os
import shutil
from collections.abc import Sequence
from pathlib import Path
from uuid import uuid4

from django.conf import settings

from nubilis.deliver.names import free, safe
from shoots.models import Shoot
from shoots.services.folders import own_folder


def put_into_folder(shoot: Shoot, stem: str, made: Sequence[tuple[str, Path]]) -> str:
    """The files of one photo, by what follows their name, under a name that is not taken; what is there is
    never overwritten. Which folder, below the one for all."""
    into = Path(own_folder(shoot.owner)) / safe(shoot.name)
    folder = Path(settings.FOLDER_OUT) / into
    folder.mkdir(parents=True, exist_ok=True)
    tails = [tail for tail, _ in made]
    while True:
        name = free(stem, tails, lambda file: (folder / file).exists())
        if _put(folder, name, made):
            return str(into)


def _put(folder: Path, name: str, made: Sequence[tuple[str, Path]]) -> bool:
    """All, or none when somebody else was faster with one of the names. Raises OSError, with none there."""
    done: list[Path] = []
    try:
        for tail, source in made:
            _linked(source, folder / (name + tail))
            done.append(folder / (name + tail))
    except OSError as error:
        for path in done:
            path.unlink(missing_ok=True)
        if isinstance(error, FileExistsError):
            return False
        raise
    return True


def _linked(source: Path, target: Path) -> None:
    part = target.with_name(f".{uuid4().hex}.part")
    try:
        shutil.copyfile(source, part)
        os.link(part, target)  # unlike a rename it never takes another's place
    finally:
        part.unlink(missing_ok=True)
