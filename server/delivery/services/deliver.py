"""Make a file at full size."""

import threading
from datetime import timedelta
from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.db import transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver
from django.utils import timezone

from config.errors import Refused
from delivery.models import Delivery
from nubilis.photo.write import SUFFIX, write_photo
from nubilis.proof.compare import unchanged_share
from shoots.models import Photo
from studio.engines import engines
from studio.services.save_recipe import current

KEPT = timedelta(days=1)
_LOSSLESS_BITS = {"png": 8, "tiff": 8, "png16": 16, "tiff16": 16}
# A delivery holds a second copy of the photo; one after another keeps memory bounded.
_ONE_AT_A_TIME = threading.Lock()


def deliver(photo: Photo, revision: int, file_format: str) -> Delivery:
    """Render, write and record. Raises Refused (409) when the photo has moved on."""
    state = current(photo)
    if state.revision != revision:
        raise Refused("This photo was changed since; please look again", 409, revision=revision)
    _forget_old()
    row = Delivery(
        id=uuid4(),
        photo=photo,
        revision=revision,
        file_format=file_format,
        name=f"{Path(photo.file_name).stem[:200]}-nubilis{SUFFIX[file_format]}",
    )
    with _ONE_AT_A_TIME:
        engine = engines.get(photo)
        done = engine.deliver(state.recipe)
        write_photo(delivery_path(row), done, file_format)
        if _LOSSLESS_BITS.get(file_format) == engine.photo.bits:
            row.unchanged = unchanged_share(engine.photo, done)
    row.size_bytes = delivery_path(row).stat().st_size
    row.save(force_insert=True)
    return row


def delivery_path(row: Delivery) -> Path:
    return Path(settings.DELIVERIES) / f"{row.id}{SUFFIX[row.file_format]}"


def _forget_old() -> None:
    Delivery.objects.filter(made__lt=timezone.now() - KEPT).delete()


@receiver(post_delete, sender=Delivery)
def _remove_file(instance: Delivery, **_: object) -> None:
    """The file goes with its row, also when the row goes with its photo."""
    path = delivery_path(instance)
    transaction.on_commit(lambda: path.unlink(missing_ok=True))
