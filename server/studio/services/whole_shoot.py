"""Work that is done for each photo of a shoot. One that fails keeps none of the others from it."""

from collections.abc import Collection
from typing import Any

from accounts.models import User
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start_each
from shoots.models import Shoot
from studio.services.findings import look
from studio.services.looking import Said
from studio.services.paper import paper_of, treated, unprinted
from studio.services.save_recipe import current


def start_looking(owner: User, shoot: Shoot, some: Collection[int] | None = None) -> Job:
    """At some photos by their ids, or at every one."""
    photos = list(shoot.photos.values_list("id", flat=True))
    chosen = [p for p in photos if some is None or p in some]
    return start_each(owner, "look", shoot, chosen)


def start_proving(owner: User, shoot: Shoot, some: Collection[int] | None = None) -> Job:
    """Of the treated photos, those whose sheet is still to be made."""
    missing = (photo.id for photo in unprinted(shoot, treated(shoot)))
    chosen = [p for p in missing if some is None or p in some]
    return start_each(owner, "prove", shoot, chosen)


def look_at_one(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "look", of one of its photos."""
    if job.photo and not job.photo.removed:
        for step in look(job.photo, current(job.photo).recipe, Said()):
            if isinstance(step, float):
                progress.tell(step)
    return {}


def prove_one(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "prove", of one of its photos."""
    if job.photo and not job.photo.removed:
        paper_of(job.photo)
    return {}
