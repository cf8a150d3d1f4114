"""Take a file into a shoot."""

import threading
from collections.abc import Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.db import IntegrityError, transaction

from config.database import again_when_deadlocked
from config.memory import make_room
from nubilis.colour.standard import standard_profile
from nubilis.engine.engine import Engine
from nubilis.photo.metadata import Metadata, when_taken
from nubilis.photo.raw import preview_of
from nubilis.photo.raw_kinds import is_raw
from nubilis.photo.read import START, read_header, read_photo
from nubilis.readable import made_readable
from shoots.models import Photo, Shoot, Use
from shoots.services.bin import put_back
from shoots.services.quota import check_quota
from shoots.store import content_hash, storing
from shoots.thumbnails import keep_preview, write_thumbnail

REC2020 = standard_profile("rec2020").name
TIMES = 4  # that it is tried while others add and remove the same file
PER_BYTE = 8  # of a file, while it is decoded and made small; about
# Decoding is the hungry part: two at a time, however many files are dropped.
_DECODING = threading.Semaphore(2)


def add_photo(
    shoot: Shoot, file: Path, file_name: str, title: str = "", caption: str = ""
) -> tuple[Photo, bool]:
    """The photo, and whether it is new to the shoot; what is in the bin is put back. Raises PhotoError when
    it cannot be read."""
    for left in range(TIMES - 1, -1, -1):
        try:
            return _added(shoot, file, file_name, title, caption)
        except IntegrityError:  # the same file came or went at the same moment
            if not left:
                raise
    raise AssertionError("unreachable")


@again_when_deadlocked
def _added(
    shoot: Shoot, file: Path, file_name: str, title: str, caption: str
) -> tuple[Photo, bool]:
    content = content_hash(file)
    there = Photo.everywhere.filter(shoot=shoot, content_hash=content).first()
    if there is not None and not there.removed:
        return there, False
    # Nothing comes back when the bin was emptied meanwhile.
    if there is not None and (back := put_back(shoot, [there.id])):
        return back[0], True
    check_quota(shoot.owner, file.stat().st_size)
    with _DECODING:
        seen = _seen(file, content)
    row = Photo(
        shoot=shoot,
        title=(title or _title(file_name))[:200],
        caption=caption,
        file_name=_plain(file_name),
        content_hash=content,
        size_bytes=file.stat().st_size,
        **seen,
    )
    with transaction.atomic():
        check_quota(shoot.owner, file.stat().st_size)
        _keep(row, file)
    return row, True


def _keep(row: Photo, file: Path) -> None:
    with storing(file, row.content_hash) as stored:
        row.save()
        Use.objects.create(stored=stored, photo=row)


def _seen(file: Path, content: str) -> dict[str, Any]:
    """What the photo's row says of its file, whose small picture is stored. Developing a raw file takes its
    time; what its camera made of it is there at once."""
    with file.open("rb") as opened:
        raw = is_raw(opened.read(START), opened)
        opened.seek(0)
        header = read_header(opened) if raw else None
    if header is not None:
        preview = preview_of(file.read_bytes())
        if preview.codes is not None:
            keep_preview(preview.codes, content)
            return _row(preview.size, "RAW", 16, REC2020, preview.notes, header.metadata) | {
                "preview": True
            }
    make_room(PER_BYTE * file.stat().st_size)
    decoded = read_photo(file)
    write_thumbnail(Engine(decoded), content)
    size, profile = (decoded.width, decoded.height), decoded.profile.name
    return _row(size, decoded.format, decoded.bits, profile, decoded.notes, decoded.metadata)


def _row(
    size: tuple[int, int],
    file_format: str,
    bits: int,
    profile: str,
    notes: Sequence[str],
    metadata: Metadata,
) -> dict[str, Any]:
    return {
        "width": size[0],
        "height": size[1],
        "file_format": file_format,
        "bits": bits,
        "profile": profile[:200],
        "notes": list(notes),
        "shot": _shot(metadata),
    }


def _shot(metadata: Metadata) -> datetime | None:
    """Cameras do not say in which time zone; among themselves they agree."""
    taken = when_taken(metadata)
    return taken and taken.replace(tzinfo=UTC)


def _plain(file_name: str) -> str:
    """Without folders or control characters."""
    name = made_readable(file_name.replace("\\", "/").rsplit("/", 1)[-1])
    return name[-255:] or "photo"


def _title(file_name: str) -> str:
    return Path(_plain(file_name)).stem.replace("_", " ") or "Photo"
