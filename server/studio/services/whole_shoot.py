"""Work that goes through the photos of a shoot, one after the other. One that fails keeps none of the others
from it."""

from collections.abc import Callable, Collection
from typing import Any

from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start

from accounts.models import User
from config.errors import Refused, one_line
from nubilis.errors import NubilisError
from shoots.models import Photo, Shoot
from studio.services.findings import look
from studio.services.looking import Said
from studio.services.paper import paper_of, treated, unprinted
from studio.services.save_recipe import current


def start_looking(owner: User, shoot: Shoot, some: Collection[int] | None = None) -> Job:
    """At some photos by their ids, or at every one."""
    photos = list(shoot.photos.values_list("id", flat=True))
    return start(owner, "look", shoot, photos=[p for p in photos if some is None or p in some])


def start_proving(owner: User, shoot: Shoot, some: Collection[int] | None = None) -> Job:
    """Of the treated photos, those whose sheet is still to be made."""
    missing = (photo.id for photo in unprinted(shoot, treated(shoot)))
    return start(owner, "prove", shoot, photos=[p for p in missing if some is None or p in some])


def look_at_shoot(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "look"."""

    def work(photo: Photo) -> None:
        for step in look(photo, current(photo).recipe, Said()):
            if isinstance(step, float):
                progress.tell(step)

    return through(job, progress, work)


def prove_shoot(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "prove"."""

    def work(photo: Photo) -> None:
        paper_of(photo)

    return through(job, progress, work)


def through(job: Job, progress: Progress, work: Callable[[Photo], None]) -> dict[str, Any]:
    """Do something with each photo of a job; what goes wrong with one is told with it."""
    for photo_id in job.arguments["photos"]:
        trouble = ""
        photo = Photo.objects.select_related("shoot").filter(id=photo_id, shoot=job.shoot).first()
        try:
            if photo is not None:  # else it was removed meanwhile
                work(photo)
        except (NubilisError, Refused) as error:
            trouble = f"{photo.title if photo else ''}: {one_line(error)}"
        progress.one_done(trouble)
    return {}
