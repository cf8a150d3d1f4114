"""Take a file into a shoot."""

import re
import threading
from datetime import UTC, datetime
from pathlib import Path

from django.db import IntegrityError

from nubilis.engine.engine import Engine
from nubilis.photo.metadata import Metadata, when_taken
from nubilis.photo.read import read_photo
from shoots.models import Photo, Shoot, Use
from shoots.services.bin import put_back
from shoots.store import content_hash, storing
from shoots.thumbnails import write_thumbnail

# Decoding is the hungry part: two at a time, however many files are dropped.
_DECODING = threading.Semaphore(2)


def add_photo(
    shoot: Shoot, file: Path, file_name: str, title: str = "", caption: str = ""
) -> tuple[Photo, bool]:
    """The photo, and whether it is new to the shoot; what is in the bin is put back. Raises PhotoError when
    it cannot be read."""
    content = content_hash(file)
    there = Photo.everywhere.filter(shoot=shoot, content_hash=content).first()
    if there is not None and not there.removed:
        return there, False
    # Nothing comes back when the bin was emptied meanwhile.
    if there is not None and (back := put_back(shoot, [there.id])):
        return back[0], True
    with _DECODING:
        decoded = read_photo(file)
        write_thumbnail(Engine(decoded), content)
    row = Photo(
        shoot=shoot,
        title=(title or _title(file_name))[:200],
        caption=caption,
        file_name=_plain(file_name),
        content_hash=content,
        size_bytes=file.stat().st_size,
        width=decoded.width,
        height=decoded.height,
        file_format=decoded.format,
        bits=decoded.bits,
        profile=decoded.profile.name[:200],
        notes=list(decoded.notes),
        shot=_shot(decoded.metadata),
    )
    try:
        with storing(file, content) as stored:
            row.save()
            Use.objects.create(stored=stored, photo=row)
    except IntegrityError:  # the same file, dropped twice at the same moment
        return Photo.objects.get(shoot=shoot, content_hash=content), False
    return row, True


def _shot(metadata: Metadata) -> datetime | None:
    """Cameras do not say in which time zone; among themselves they agree."""
    taken = when_taken(metadata)
    return taken and taken.replace(tzinfo=UTC)


def _plain(file_name: str) -> str:
    """Without folders or control characters."""
    name = re.sub(r"[\x00-\x1f\x7f]", "", file_name.replace("\\", "/").rsplit("/", 1)[-1])
    return name[-255:] or "photo"


def _title(file_name: str) -> str:
    return Path(_plain(file_name)).stem.replace("_", " ") or "Photo"
