"""Make files at full size, and keep those that are still wanted."""

from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

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
from nubilis.photo.write import SUFFIX, write_photo
from nubilis.proof.compare import unchanged_share
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines
from studio.services.save_recipe import current

KEPT = timedelta(days=1)
RENDERED = 0.7  # share of the work that is done when every pixel is there
_LOSSLESS_BITS = {"png": 8, "tiff": 8, "png16": 16, "tiff16": 16}


def start_delivery(owner: User, photo: Photo, revision: int, file_format: str) -> Job:
    """revision: the one that was looked at. Raises Refused (409) when the photo has moved on."""
    _recipe(photo, revision)
    arguments = {"revision": revision, "file_format": file_format}
    return start(owner, "deliver", photo.shoot, photo, **arguments)


def deliver(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "deliver": render, write and record. Raises Refused, NubilisError."""
    photo = job.photo
    if photo is None:
        raise Missing
    revision, file_format = job.arguments["revision"], job.arguments["file_format"]
    recipe = _recipe(photo, revision)
    _forget_old()
    row = Delivery(
        id=uuid4(),
        photo=photo,
        revision=revision,
        file_format=file_format,
        name=f"{Path(photo.file_name).stem[:200]}-nubilis{SUFFIX[file_format]}",
    )
    engine = engines.get(photo)
    done = engine.deliver(recipe, progress=lambda share: progress.tell(RENDERED * share))
    try:
        write_photo(delivery_path(row), done, file_format)
        progress.tell(0.9)
        if _LOSSLESS_BITS.get(file_format) == engine.photo.bits:
            row.unchanged = unchanged_share(engine.photo, done)
        row.size_bytes = delivery_path(row).stat().st_size
        row.save(force_insert=True)
    except BaseException:
        delivery_path(row).unlink(missing_ok=True)
        raise
    return {"delivery": str(row.id)}


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
