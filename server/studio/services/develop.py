"""Raw files are shown as their cameras made them, until they are developed."""

from typing import Any

from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start
from shoots.models import Photo
from shoots.thumbnails import write_thumbnail
from studio.engines import engines


def start_developing(photo: Photo) -> None:
    """Once it is taken in."""
    if photo.preview and photo.shoot.owner.is_active:
        start(photo.shoot.owner, "develop", photo.shoot, photo)


def develop(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "develop": the small picture as we develop it."""
    photo = job.photo
    if photo is not None:
        write_thumbnail(engines.get(photo), photo.content_hash)
        Photo.everywhere.filter(id=photo.id).update(preview=False)
    return {}
