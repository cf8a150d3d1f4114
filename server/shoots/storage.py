"""Originals on disk, once by content, never modified."""

import hashlib
import shutil
from pathlib import Path
from uuid import uuid4

from django.conf import settings

_CHUNK = 2**20


def content_hash(file: Path) -> str:
    """SHA-256 in hexadecimal."""
    digest = hashlib.sha256()
    with file.open("rb") as source:
        while chunk := source.read(_CHUNK):
            digest.update(chunk)
    return digest.hexdigest()


def original_path(content: str) -> Path:
    return Path(settings.ORIGINALS) / content[:2] / content


def store_original(file: Path, content: str) -> None:
    """Copy a file in, unless it is there; a half copy is never seen under its final name."""
    target = original_path(content)
    if target.is_file() and target.stat().st_size == file.stat().st_size:
        return
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(f"{target.name}.{uuid4().hex}.part")
    try:
        shutil.copyfile(file, part)
        part.chmod(0o444)
        part.replace(target)
    finally:
        part.unlink(missing_ok=True)


def forget_original(content: str) -> None:
    """Remove a file that no photo refers to any more, with its thumbnails."""
    original_path(content).unlink(missing_ok=True)
    for thumbnail in Path(settings.THUMBNAILS).glob(f"{content}-*.jpg"):
        thumbnail.unlink(missing_ok=True)
