"""Casts that photos of a shoot share: where they are, and carrying changes over."""

from collections.abc import Callable, Iterator
from typing import Any

from django.db.models import F

from accounts.models import User
from config.errors import Missing, Refused
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start
from nubilis.recipe.document import Cast, Recipe
from shoots.models import Photo
from studio.models import Revision
from studio.services.people import found_anew
from studio.services.save_recipe import Step, current, save_together


def linked_photos(photo: Photo, cast: Cast) -> list[Photo]:
    """The other photos of the shoot that hold a copy of a cast, or what it was copied from."""
    return [row.photo for row, _ in _sharing(photo, cast)]


def start_carrying_over(photo: Photo, cast_id: str, author: User) -> Job:
    """As carry_over. Raises Refused (422) for what could not come to anything."""
    _shared_cast(photo, cast_id)
    return start(author, "carry-over", photo.shoot, photo, cast=cast_id)


def carry_over_job(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "carry-over"."""
    if job.photo is None:
        raise Missing
    return {"changed": carry_over(job.photo, job.arguments["cast"], job.owner, progress.reach)}


def carry_over(
    photo: Photo, cast_id: str, author: User, tell: Callable[[float], None] = lambda _: None
) -> list[int]:
    """Bring a saved cast's mask and remedies to the photos that share it, except what was touched up there,
    a step of each one's history; all or none. Returns which changed. Raises Refused (422)."""
    source = _shared_cast(photo, cast_id)
    changed: list[int] = []

    def steps() -> Iterator[Step]:
        changed.clear()
        sharing = list(_sharing(photo, source))
        for i, (row, recipe) in enumerate(sharing):
            casts = tuple(_brought(source, c, row.photo) for c in recipe.casts)
            tell((i + 1) / (len(sharing) + 1))
            if casts != recipe.casts:
                changed.append(row.photo_id)
                yield Step(row.photo, row.number, recipe.model_copy(update={"casts": casts}))

    save_together(steps, author)
    return changed


def _shared_cast(photo: Photo, cast_id: str) -> Cast:
    cast = next((c for c in current(photo).recipe.casts if c.id == cast_id), None)
    if cast is None:
        raise Refused("There is no such cast; save it first", 422)
    return cast


def _brought(source: Cast, cast: Cast, photo: Photo) -> Cast:
    if cast.shared_id != source.shared_id:
        return cast
    return found_anew(source.carried_over(cast), photo)


def _sharing(photo: Photo, cast: Cast) -> Iterator[tuple[Revision, Recipe]]:
    """The present revisions of other photos in which the cast is shared."""
    rows = Revision.objects.filter(
        photo__shoot=photo.shoot,
        photo__removed=None,
        number=F("photo__revision"),
        document__contains=f'"{cast.shared_id}"',
    )
    for row in rows.exclude(photo=photo).select_related("photo"):
        recipe = row.recipe
        if any(c.shared_id == cast.shared_id for c in recipe.casts):
            yield row, recipe
