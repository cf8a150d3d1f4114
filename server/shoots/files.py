"""The store of files: a folder of this machine, or any store that speaks S3, through Django's storages.

A name is a folder and what lies in it, such as originals/ab/abcdef. What lies under a name never changes, so
a copy that was fetched once stays good. Half a file is never seen under its name.
"""

import os
import shutil
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager, suppress
from datetime import UTC
from pathlib import Path
from typing import Any
from uuid import uuid4

from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage, storages

from nubilis.whole import take_place

CHUNK = 2**18
FETCHES = 5  # times that a copy may go before it is held
PART = ".part"  # the ending of what is not whole yet
FOLDERS = ("originals", "assets", "thumbnails", "deliveries")
Fill = Callable[[Path], object]


def store() -> Storage:
    return storages["files"]


def _own_path(name: str) -> Path | None:
    """Where a file of this machine's lies; None where files lie elsewhere."""
    try:
        return Path(store().path(name))
    except NotImplementedError:
        return None


def put(name: str, fill: Fill) -> None:
    """fill: writes to the path that it is given."""
    path = _own_path(name)
    if path is not None:
        written_whole(path, fill)
        return
    copy = _copy_path(name)
    written_whole(copy, fill)
    with copy.open("rb") as data:
        store().save(name, File(data))
    _trim_copies()


def local(name: str) -> Path:
    """A file to read from, which the caller leaves as it is. Raises FileNotFoundError when it is fetched
    from elsewhere and is not there."""
    path = _own_path(name)
    if path is not None:
        return path
    copy = _copy_path(name)
    if not copy.is_file():
        try:
            with store().open(name, "rb") as source:
                written_whole(copy, lambda to: _poured(source, to))
        except OSError as error:
            raise FileNotFoundError(name) from error
        _trim_copies()
    with suppress(OSError):
        os.utime(copy)  # what is used stays longest
    return copy


@contextmanager
def reading(name: str) -> Iterator[Path]:
    """A file to read from, which stays as long as the block, whatever becomes of its copy. Raises
    FileNotFoundError."""
    path = local(name)
    if _own_path(name) is not None:
        yield path
        return
    held = Path(settings.COPIES) / f"{uuid4().hex}.held{PART}"
    for left in range(FETCHES - 1, -1, -1):
        try:
            os.link(path, held)
            break
        except FileNotFoundError:  # it made room for another just now
            if not left:
                raise
            path = local(name)
    try:
        yield held
    finally:
        held.unlink(missing_ok=True)


def pieces(name: str, start: int = 0, stop: int | None = None) -> Iterator[bytes]:
    """The bytes from one place up to another, as they come. Opened when the first is asked for, from wherever
    it lies: what lies elsewhere is not fetched whole first. Raises FileNotFoundError."""
    with _opened(name, start, stop) as source:
        left = None if stop is None else stop - start
        while left is None or left > 0:
            piece = source.read(CHUNK if left is None else min(CHUNK, left))
            if not piece:
                return
            left = None if left is None else left - len(piece)
            yield piece


@contextmanager
def _opened(name: str, start: int, stop: int | None) -> Iterator[Any]:
    path = _own_path(name) or _copy_path(name)
    if path.is_file() or _own_path(name) is not None:
        with path.open("rb") as file:
            file.seek(start)
            yield file
        return
    # The storages' own file would be fetched whole first.
    there = store()
    span = f"bytes={start}-{'' if stop is None else stop - 1}"
    try:
        told = there.bucket.Object(there._normalize_name(name)).get(Range=span)  # type: ignore[attr-defined]
    except Exception as error:
        if _is_missing(error):
            raise FileNotFoundError(name) from error
        raise
    with closing(told["Body"]) as body:
        yield body


def size(name: str) -> int | None:
    """Bytes; None where there is none of that name."""
    path = _own_path(name)
    try:
        return path.stat().st_size if path is not None else int(store().size(name))
    except (FileNotFoundError, NotADirectoryError):
        return None
    except Exception as error:  # each store says in its own way that there is none
        if _is_missing(error):
            return None
        raise


def forget(name: str) -> None:
    path = _own_path(name)
    if path is not None:
        path.unlink(missing_ok=True)
        return
    store().delete(name)
    _copy_path(name).unlink(missing_ok=True)


def listed(folder: str) -> list[str]:
    """Names of the files that lie in a folder itself."""
    try:
        return [
            f"{folder}/{name}" for name in store().listdir(folder)[1] if not name.endswith(PART)
        ]
    except (FileNotFoundError, NotADirectoryError):
        return []


def is_older(name: str, stamp: float) -> bool:
    """Whether it was written before a moment, a time stamp; not when it is gone."""
    try:
        made = store().get_modified_time(name)
    except OSError:
        return False
    if made.tzinfo is None:
        made = made.replace(tzinfo=UTC)
    return made.timestamp() < stamp


def folders(folder: str) -> list[str]:
    """Names of the folders that lie in a folder itself."""
    try:
        return [f"{folder}/{name}" for name in store().listdir(folder)[0]]
    except (FileNotFoundError, NotADirectoryError):
        return []


def forget_halves(older_than: float) -> None:
    """What processes that were killed left half written. older_than: a time stamp."""
    for left in halves(older_than):
        left.unlink(missing_ok=True)


def halves(older_than: float) -> list[Path]:
    """Half written before a moment, a time stamp."""
    roots = [Path(settings.COPIES), Path(settings.FILE_UPLOAD_TEMP_DIR)]
    if (own := _own_path("x")) is not None:
        roots += [own.parent / name for name in FOLDERS]
    found = set()
    for root in roots:
        for pattern in (f"*{PART}", "*.upload*", ".nubilis-*"):
            for left in root.rglob(pattern):
                with suppress(FileNotFoundError):
                    if left.stat().st_mtime < older_than:
                        found.add(left)
    return sorted(found)


def written_whole(target: Path, fill: Fill) -> None:
    """Half a file is never seen under its final name, also not after the power failed."""
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(f"{target.name}.{uuid4().hex}{PART}")
    try:
        fill(part)
        take_place(part, target)
    finally:
        part.unlink(missing_ok=True)


def _poured(source: Any, to: Path) -> None:
    with to.open("wb") as out:
        shutil.copyfileobj(source, out, 2**20)


def _is_missing(error: Exception) -> bool:
    told = getattr(error, "response", {})
    return isinstance(told, dict) and told.get("Error", {}).get("Code") in ("404", "NoSuchKey")


def _copy_path(name: str) -> Path:
    return Path(settings.COPIES) / name


def _trim_copies() -> None:
    """The least recently used go first; readers that have one open keep it."""
    copies = []
    for path in Path(settings.COPIES).rglob("*"):
        with suppress(FileNotFoundError):
            if path.is_file() and path.suffix != PART:
                told = path.stat()
                copies.append((told.st_mtime, told.st_size, path))
    over = sum(size for _, size, _ in copies) - settings.COPIES_BYTES
    for _, size, path in sorted(copies):
        if over <= 0:
            break
        path.unlink(missing_ok=True)
        over -= size
