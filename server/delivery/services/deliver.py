"""Make files at full size, and keep those that are still wanted."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import asdict
from datetime import timedelta
from io import RawIOBase
from pathlib import Path
from typing import Any
from uuid import uuid4
from zipfile import ZIP_STORED, ZipFile

from django.conf import settings
from django.db import transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver
from django.utils import timezone
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start

from accounts.models import User
from config.errors import Missing, Refused
from delivery.models import Delivery
from nubilis.photo.export import Wanted, exported
from nubilis.photo.write import LOSSY, SUFFIX, write_photo
from nubilis.proof.compare import unchanged_share
from nubilis.recipe.document import Recipe
from shoots.models import Photo, Shoot
from studio.engines import engines
from studio.services.save_recipe import current
from studio.services.whole_shoot import through

KEPT = timedelta(days=1)
CHUNK = 2**20
RENDERED = 0.7  # share of the work that is done when every pixel is there


def start_delivery(owner: User, photo: Photo, revision: int, wanted: Wanted) -> Job:
    """revision: the one that was looked at. Raises Refused (409) when the photo has moved on."""
    _recipe(photo, revision)
    arguments = {"revision": revision, "wanted": asdict(wanted)}
    return start(owner, "deliver", photo.shoot, photo, **arguments)


def start_delivering(owner: User, shoot: Shoot, photos: Sequence[Photo], wanted: Wanted) -> Job:
    """Each as it stands when its turn comes."""
    ids = [p.id for p in photos]
    return start(owner, "deliver-set", shoot, photos=ids, wanted=asdict(wanted))


def deliver(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "deliver": render, write and record. Raises Refused, NubilisError."""
    photo = job.photo
    if photo is None:
        raise Missing
    _forget_old()
    recipe = _recipe(photo, job.arguments["revision"])
    row = _delivered(photo, recipe, Wanted(**job.arguments["wanted"]), progress.tell)
    return {"delivery": str(row.id)}


def deliver_set(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "deliver-set": the same for several photos."""
    _forget_old()
    made: list[str] = []

    def work(photo: Photo) -> None:
        recipe = current(photo).recipe
        row = _delivered(photo, recipe, Wanted(**job.arguments["wanted"]), progress.tell)
        made.append(str(row.id))

    through(job, progress, work)
    return {"deliveries": made}


def _delivered(
    photo: Photo, recipe: Recipe, wanted: Wanted, tell: Callable[[float], None]
) -> Delivery:
    file_format = wanted.file_format
    row = Delivery(
        id=uuid4(),
        photo=photo,
        revision=photo.revision,
        file_format=file_format,
        name=f"{Path(photo.file_name).stem[:200]}-nubilis{SUFFIX[file_format]}",
    )
    engine = engines.get(photo)
    done = engine.deliver(recipe, progress=lambda share: tell(RENDERED * share))
    try:
        write_photo(delivery_path(row), exported(done, wanted), file_format)
        tell(0.9)
        if wanted.leaves(engine.photo) and file_format not in LOSSY:
            row.unchanged = unchanged_share(engine.photo, done)
        row.size_bytes = delivery_path(row).stat().st_size
        row.save(force_insert=True)
    except BaseException:
        delivery_path(row).unlink(missing_ok=True)
        raise
    Photo.objects.filter(id=photo.id).update(delivered=row.revision)
    return row


def files_of(job: Job) -> list[tuple[str, Path]]:
    """What a set came to that is still kept: the files under names of their own, clashes counted up."""
    ids = (job.result or {}).get("deliveries", [])
    rows = {str(r.id): r for r in Delivery.objects.filter(id__in=ids)}
    files: list[tuple[str, Path]] = []
    taken: set[str] = set()
    for row in (rows[i] for i in ids if i in rows):
        name, path = row.name, delivery_path(row)
        stem, count = Path(name).stem, 2
        while name in taken:
            name, count = f"{stem}-{count}{path.suffix}", count + 1
        if path.is_file():
            taken.add(name)
            files.append((name, path))
    return files


def zipped(files: Sequence[tuple[str, Path]]) -> Iterator[bytes]:
    """A zip of them, piece by piece; pictures are compressed already."""
    pieces = _Pieces()
    with ZipFile(pieces, "w", ZIP_STORED) as out:
        for name, path in files:
            with path.open("rb") as source, out.open(name, "w", force_zip64=True) as entry:
                while data := source.read(CHUNK):
                    entry.write(data)
                    yield pieces.taken()
    yield pieces.taken()


class _Pieces(RawIOBase):
    """What was written since it was last taken."""

    def __init__(self) -> None:
        self._data = bytearray()

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._data += data
        return len(data)

    def taken(self) -> bytes:
        data = bytes(self._data)
        self._data.clear()
        return data


def delivery_path(row: Delivery) -> Path:
    return Path(settings.DELIVERIES) / f"{row.id}{SUFFIX[row.file_format]}"


def sweep_deliveries() -> None:
    """At the start, when none is being made: no file without its row, and no row without its file."""
    known = {delivery_path(row): row for row in Delivery.objects.all()}
    for path in Path(settings.DELIVERIES).iterdir():
        if known.pop(path, None) is None:
            path.unlink(missing_ok=True)
    for row in known.values():
        row.delete()


def _recipe(photo: Photo, revision: int) -> Recipe:
    state = current(photo)
    if state.revision != revision:
        raise Refused(
            "This photo was changed since; please look again", 409, revision=state.revision
        )
    return state.recipe


def _forget_old() -> None:
    Delivery.objects.filter(made__lt=timezone.now() - KEPT).delete()


@receiver(post_delete, sender=Delivery)
def _remove_file(instance: Delivery, **_: object) -> None:
    """The file goes with its row, also when the row goes with its photo."""
    path = delivery_path(instance)
    transaction.on_commit(lambda: path.unlink(missing_ok=True))
