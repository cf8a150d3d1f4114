"""Files kept once by their content and never changed: originals, and what recipes refer to.

Which photo or person needs which file stands in the database. Whoever stores or sweeps a file holds its row
meanwhile, so that a file that one person adds is not swept away because another removes the last photo
that needed it.
"""

import hashlib
import shutil
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from django.db import transaction
from django.db.models import Q, QuerySet

from accounts.models import User
from config.database import again_when_deadlocked
from nubilis.errors import RecipeError
from nubilis.recipe.asset import Asset, TableFile, asset_of, nowhere, table_file_of
from shoots import files
from shoots.models import Photo, Stored, Use
from shoots.services.quota import check_quota
from shoots.small import forget_thumbnails

_CHUNK = 2**20
ORIGINAL, ASSET = Stored.Kind.ORIGINAL, Stored.Kind.ASSET


def content_hash(file: Path) -> str:
    """SHA-256 in hexadecimal."""
    digest = hashlib.sha256()
    with file.open("rb") as source:
        while chunk := source.read(_CHUNK):
            digest.update(chunk)
    return digest.hexdigest()


@contextmanager
def reading_original(content: str) -> Iterator[Path]:
    """Stays as long as the block. Raises FileNotFoundError."""
    with files.reading(stored_name(ORIGINAL, content)) as path:
        yield path


def original_path(content: str) -> Path:
    return _path(ORIGINAL, content)


def asset_path(content: str) -> Path:
    return _path(ASSET, content)


def _path(kind: str, content: str) -> Path:
    return files.local(stored_name(kind, content))


def stored_name(kind: str, content: str) -> str:
    folder = {ORIGINAL: "originals", ASSET: "assets"}[Stored.Kind(kind)]
    return f"{folder}/{content[:2]}/{content}"


@contextmanager
def storing(file: Path, content: str) -> Iterator[Stored]:
    """Copy an original in, unless it is there. Its use is recorded within the block, which is a
    transaction."""
    with _held(ORIGINAL, content, file.stat().st_size, lambda to: shutil.copyfile(file, to)) as row:
        yield row


def keep_asset(data: bytes, photo: Photo) -> Asset:
    """Keep a grey picture for a photo's recipe. Raises RecipeError, PhotoError, Refused (413)."""
    asset = asset_of(data)
    _keep(asset.sha256, data, photo)
    return asset


def keep_table(data: bytes, name: str, photo: Photo) -> TableFile:
    """Keep a .cube table for a photo's recipe. Raises TableError."""
    table = table_file_of(data, name)
    _keep(table.sha256, data, photo)
    return table


@contextmanager
def keeping_table(data: bytes, name: str, owner_id: int) -> Iterator[tuple[TableFile, Use]]:
    """Keep a .cube table for a person. What keeps it is recorded within the block, which is a transaction.
    Raises TableError."""
    table = table_file_of(data, name)
    if not _owns(owner_id, table.sha256):
        check_quota(User.objects.get(id=owner_id), len(data))
    with _held(ASSET, table.sha256, len(data), lambda to: to.write_bytes(data)) as row:
        yield table, Use.objects.create(stored=row, owner_id=owner_id)


@again_when_deadlocked
def _keep(sha256: str, data: bytes, photo: Photo) -> None:
    with transaction.atomic():
        if not _owns(photo.shoot.owner_id, sha256):
            check_quota(photo.shoot.owner, len(data))
        _keep_for(sha256, data, photo)


def _keep_for(sha256: str, data: bytes, photo: Photo) -> None:
    with _held(ASSET, sha256, len(data), lambda to: to.write_bytes(data)) as row:
        Use.objects.get_or_create(stored=row, photo=photo)


def use_assets(photo: Photo, assets: Iterable[str]) -> None:
    """Record that a photo's recipe needs files that the same owner has. Within a transaction. Raises
    RecipeError when one is not there."""
    used = Use.objects.filter(photo=photo, stored__kind=ASSET)
    for sha256 in sorted(set(assets) - set(used.values_list("stored__sha256", flat=True))):
        if not _owns(photo.shoot.owner_id, sha256):
            nowhere(sha256)
        stored = Stored.objects.select_for_update().get(kind=ASSET, sha256=sha256)
        if not stored.there:
            nowhere(sha256)
        Use.objects.get_or_create(stored=stored, photo=photo)


def _owns(owner_id: int, sha256: str) -> bool:
    """Whether a person, or a photo of theirs, has a use for an asset."""
    own = Q(photo__shoot__owner=owner_id) | Q(owner=owner_id)
    return Use.objects.filter(own, stored__kind=ASSET, stored__sha256=sha256).exists()


class OwnAssets:
    """Resolves what one person's recipes refer to; other people's files are not there."""

    def __init__(self, owner_id: int) -> None:
        self.owner_id = owner_id

    def __call__(self, sha256: str) -> bytes:
        if not _owns(self.owner_id, sha256):
            return nowhere(sha256)
        try:
            with files.reading(stored_name(ASSET, sha256)) as path:
                return path.read_bytes()
        except FileNotFoundError as error:
            raise RecipeError("a mask picture is missing on the server's disk") from error


@contextmanager
def _held(kind: str, sha256: str, size: int, fill: Callable[[Path], object]) -> Iterator[Stored]:
    """The row of a file, locked for the length of the block, with the file there."""
    one = _row_of(kind, sha256, size)
    with transaction.atomic():
        row = one.select_for_update().get()
        name = stored_name(kind, sha256)
        if files.size(name) != size:
            files.put(name, fill)
        if not row.there:
            row.there, row.size_bytes = True, size
            row.save(update_fields=["there", "size_bytes"])
        yield row


def _row_of(kind: str, sha256: str, size: int) -> QuerySet[Stored]:
    """The row of a file, made when there is none, so that it can be locked."""
    one = Stored.objects.filter(kind=kind, sha256=sha256)
    if not one.exists():
        new = Stored(kind=kind, sha256=sha256, size_bytes=size, there=False)
        Stored.objects.bulk_create([new], ignore_conflicts=True)
    return one


@again_when_deadlocked
def forget_stray(kind: Stored.Kind, sha256: str) -> None:
    """Remove a file that lies in the store without a row that says so, unless it is being stored."""
    one = _row_of(kind, sha256, 0)
    with transaction.atomic():
        if not one.select_for_update().get().there:
            files.forget(stored_name(kind, sha256))


def sweep(ids: Iterable[int] | None = None) -> None:
    """Remove files that nobody has a use for any more: of some rows, or all there are."""
    rows = Stored.objects.filter(there=True, uses__isnull=True)
    rows = rows if ids is None else rows.filter(id__in=list(ids))
    for row_id in rows.values_list("id", flat=True):
        _sweep(row_id)


@again_when_deadlocked
def _sweep(row_id: int) -> None:
    with transaction.atomic():
        row = Stored.objects.select_for_update().get(id=row_id)
        if row.uses.exists():
            return
        row.there = False
        row.save(update_fields=["there"])
        files.forget(stored_name(row.kind, row.sha256))
        if row.kind == ORIGINAL:
            forget_thumbnails(row.sha256)
