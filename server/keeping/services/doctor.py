"""What is wrong with this machine or its data, in sentences; and what of it can be put right."""

import hashlib
import os
import shutil
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from config.sweeping import OLD
from delivery.services.deliver import sweep_deliveries
from shoots import files
from shoots.models import Photo, Stored, Use
from shoots.store import forget_stray, stored_name, sweep

LITTLE = 2 * 10**9  # bytes of disk
STRAY_FOR = 3600.0  # seconds that a file lies in the store before nobody can be storing it any more
CHUNK = 2**20


@dataclass(frozen=True)
class Finding:
    """text: a sentence; mend: puts it right, None where only a person can."""

    text: str
    mend: Callable[[], object] | None = None


def examine(*, deep: bool = False) -> Iterator[Finding]:
    """deep: read every file, and not only whether it is there and how large."""
    yield from _machine()
    behind = MigrationExecutor(connection)
    if plan := behind.migration_plan(behind.loader.graph.leaf_nodes()):
        yield Finding(f"The database is {len(plan)} steps behind this version: start it once.")
        return
    yield from _stored(deep)
    yield from _left_over()


def _machine() -> Iterator[Finding]:
    free = shutil.disk_usage(settings.VAR).free
    if free < LITTLE:
        yield Finding(f"The disk has {free / 1e9:.1f} GB left; deliveries and uploads may fail.")
    for name in ("secrets.json", "mariadb", "redis"):
        path = Path(settings.VAR) / name
        if path.exists() and path.stat().st_mode & 0o077:
            mode = 0o700 if path.is_dir() else 0o600
            yield Finding(f"Others may read {name}.", partial(path.chmod, mode))
    for folder in (settings.FILE_UPLOAD_TEMP_DIR, settings.VAR, settings.COPIES):
        if not os.access(folder, os.W_OK):
            yield Finding(f"The folder {Path(folder).name} may not be written to.")


def _stored(deep: bool) -> Iterator[Finding]:
    for row in Stored.objects.filter(there=True, uses__isnull=False).distinct():
        name = stored_name(row.kind, row.sha256)
        size = files.size(name)
        if size is None:
            yield Finding(f"The file of {_whose(row)} is gone; a backup may have it.")
        elif size != row.size_bytes:
            yield Finding(
                f"The file of {_whose(row)} has {size} bytes and should have {row.size_bytes}."
            )
        elif deep and _hash(name) != row.sha256:
            yield Finding(f"The file of {_whose(row)} is damaged; a backup may have it.")
    lost = Photo.everywhere.exclude(uses__stored__kind=Stored.Kind.ORIGINAL)
    for photo in lost:
        stored = Stored.objects.filter(kind=Stored.Kind.ORIGINAL, sha256=photo.content_hash).first()
        if stored is not None and stored.there:
            yield Finding(
                f"{photo.title} is not noted as needing its file.",
                partial(Use.objects.get_or_create, photo=photo, stored=stored),
            )
        else:
            yield Finding(f"{photo.title} has no file; a backup may have it.")


def _whose(row: Stored) -> str:
    use = row.uses.select_related("photo").first()
    photo = use.photo if use else None
    return photo.title if photo else f"somebody's {row.kind}"


def _hash(name: str) -> str:
    digest = hashlib.sha256()
    with files.reading(name) as path, path.open("rb") as source:
        while chunk := source.read(CHUNK):
            digest.update(chunk)
    return digest.hexdigest()


def _left_over() -> Iterator[Finding]:
    unused = Stored.objects.filter(there=True, uses__isnull=True).count()
    if unused:
        yield Finding(f"{unused} stored files are of no use to anybody.", sweep)
    if strays := _strays(time.time() - STRAY_FOR):
        yield Finding(
            f"{len(strays)} files lie in the store that nobody knows.", lambda: _drop(strays)
        )
    old = time.time() - OLD
    halves = files.halves(old)
    if halves:
        yield Finding(
            f"{len(halves)} files are half written and old.", lambda: files.forget_halves(old)
        )
    deliveries = [n for n in files.listed("deliveries") if files.is_older(n, old - 86400.0)]
    if deliveries:
        yield Finding(
            f"{len(deliveries)} deliveries are kept longer than they should be.",
            lambda: sweep_deliveries(old),
        )


def _strays(before: float) -> list[tuple[Stored.Kind, str]]:
    """Kind and SHA-256 of files that have lain there since before a moment and that no row knows. Files are
    listed before the rows are read: what is taken in meanwhile has its row by then."""
    lying = [
        (kind, name.rpartition("/")[2])
        for kind, folder in ((Stored.Kind.ORIGINAL, "originals"), (Stored.Kind.ASSET, "assets"))
        for inner in files.folders(folder)
        for name in files.listed(inner)
        if files.is_older(name, before)
    ]
    known = set(Stored.objects.filter(there=True).values_list("kind", "sha256"))
    return [one for one in lying if one not in known]


def _drop(strays: list[tuple[Stored.Kind, str]]) -> None:
    for kind, sha256 in strays:
        forget_stray(kind, sha256)
