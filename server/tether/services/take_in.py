"""A file that has arrived in a watched folder becomes a photo, with a treatment laid on."""

from pathlib import Path
from typing import Any

from config.errors import Refused
from jobs.models import Job
from jobs.progress import Progress
from nubilis.errors import NubilisError
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo
from shoots.services.refusals import noting_refusals
from studio.models import ToCheck
from studio.services.copy_casts import copy_casts
from studio.services.develop import start_developing
from studio.services.save_recipe import current
from tether.models import Watch
from tether.services.folder import REFUSED, TAKEN, folder_of, moved

NOT_MOVED = (
    "The photo was added, but its file cannot be moved away. Check the rights of the folder."
)


def take_in(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "take-in". A file that is gone was taken in by whoever did this before."""
    file = folder_of(job.shoot) / Path(job.arguments["file"]).name
    if not file.is_file():
        return {}
    try:
        with noting_refusals(job.shoot, file.name):
            photo, new = add_photo(job.shoot, file, file.name)
    except (NubilisError, Refused):
        moved(file, REFUSED)
        raise
    if new or not photo.revision:
        _lay_on(job.shoot, photo)
    start_developing(photo)
    try:
        moved(file, TAKEN)
    except OSError as error:
        raise Refused(NOT_MOVED, 409) from error
    return {"photo": [photo.id]}


def _lay_on(shoot: Shoot, photo: Photo) -> None:
    """The treatment of the shoot's source, which somebody should look at."""
    watch = Watch.objects.select_related("source__shoot").filter(shoot=shoot).first()
    source = watch.source if watch else None
    if source is None or source.removed or source == photo or not current(source).recipe.casts:
        return
    copy_casts(source, None, [photo], shoot.owner, mask_only=False)
    photo.refresh_from_db()
    ToCheck.say(photo, photo.revision, f"Laid on from {source.title}")
