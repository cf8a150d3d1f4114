"""Carrying casts over to other photos of a shoot."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import Any
from uuid import uuid4

from accounts.models import User
from config.errors import Missing, Refused
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start
from nubilis.mask.combine import Lent
from nubilis.recipe.document import MOST_CASTS, Cast, Recipe
from shoots.models import Photo
from shoots.services.find import worked_several
from studio.services.people import found_anew
from studio.services.save_recipe import Step, current, currents, save_together


def start_copying(
    photo: Photo, wanted: Sequence[str] | None, to: Sequence[Photo], author: User, **how: bool
) -> Job:
    """As copy_casts, which says what how is. Raises Refused (422) for what could not come to anything."""
    check_same_owner(photo, to)
    copies(photo, wanted, mask_only=how["mask_only"])
    ids = [p.id for p in to]
    return start(author, "copy", photo.shoot, photo, photos=ids, casts=wanted, **how)


def copy(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "copy"."""
    if job.photo is None:
        raise Missing
    told = job.arguments
    to = worked_several(job.owner, told["photos"])
    how = {name: told[name] for name in ("mask_only", "strokes")}
    casts = copy_casts(job.photo, told["casts"], to, job.owner, tell=progress.reach, **how)
    return {"changed": told["photos"], "casts": casts}


def copy_casts(
    photo: Photo,
    wanted: Sequence[str] | None,
    to: Sequence[Photo],
    author: User,
    *,
    mask_only: bool,
    strokes: bool = False,
    tell: Callable[[float], None] = lambda _: None,
) -> int:
    """Add casts of a photo's saved recipe to others, a step of each one's history; all or none.

    wanted: ids, None for all of them. Colour keys are calculated anew from each photo, shapes keep their
    place; the copies stay linked. strokes: also those of remedies. Returns how many casts each photo was
    given. Raises Refused (422).
    """
    check_same_owner(photo, to)
    carried = copies(photo, wanted, mask_only=mask_only, strokes=strokes)
    there = {}
    for i, other in enumerate(to):
        there[other.id] = [found_anew(c, other) for c in carried]
        tell((i + 1) / (len(to) + 1))

    def steps() -> Iterator[Step]:
        states = currents(to)
        for other in to:
            now = states[other.id]
            yield Step(other, now.revision, laid(there[other.id], other, now.recipe))

    save_together(steps, author)
    return len(carried)


def check_same_owner(photo: Photo, others: Iterable[Photo]) -> None:
    """The pictures that masks refer to are their owner's. Raises Refused (422)."""
    if any(other.shoot.owner_id != photo.shoot.owner_id for other in others):
        raise Refused("Casts are carried between the shoots of one person", 422)


def copies(
    photo: Photo, wanted: Sequence[str] | None, *, mask_only: bool, strokes: bool = False
) -> list[Cast]:
    """Casts of a photo's saved recipe as they go to others, linked. Raises Refused (422)."""
    recipe = current(photo).recipe
    casts = [c for c in recipe.casts if wanted is None or c.id in wanted]
    if not casts or (wanted is not None and len(casts) < len(set(wanted))):
        raise Refused("There is no such cast; save it first", 422)
    _check_lenders(casts)
    return [
        (_bare(c) if mask_only else c.abroad(recipe.base, photo.title, strokes)).model_copy(
            update={"link": c.linked(), "finding": None}
        )
        for c in casts
    ]


def laid(casts: Sequence[Cast], other: Photo, recipe: Recipe) -> Recipe:
    """Another photo's recipe with casts added that come to it. Raises Refused (422)."""
    new = renamed(casts)
    if len(recipe.casts) + len(new) > MOST_CASTS:
        raise Refused(f"{other.title} would have more than {MOST_CASTS} casts", 422)
    return recipe.model_copy(update={"casts": (*recipe.casts, *new)})


def _check_lenders(casts: Sequence[Cast]) -> None:
    there = {c.id for c in casts}
    for cast in casts:
        lenders = {p.cast for p in cast.mask.parts if isinstance(p, Lent)}
        if not lenders <= there:
            raise Refused("Its mask uses that of another cast: copy all casts, to bring both", 422)


def renamed(casts: Sequence[Cast]) -> tuple[Cast, ...]:
    """Under new ids, which their masks use too."""
    names = {c.id: uuid4().hex[:10] for c in casts}

    def under_new_id(cast: Cast) -> Cast:
        parts = tuple(
            p.model_copy(update={"cast": names[p.cast]}) if isinstance(p, Lent) else p
            for p in cast.mask.parts
        )
        mask = cast.mask.model_copy(update={"parts": parts})
        return cast.model_copy(update={"id": names[cast.id], "mask": mask})

    return tuple(under_new_id(c) for c in casts)


def _bare(cast: Cast) -> Cast:
    return cast.model_copy(update={"pairs": (), "guards": ()})
