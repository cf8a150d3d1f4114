"""Start, find, stop and take up pieces of work."""

from collections.abc import Sequence
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from jobs.models import OPEN, Job
from jobs.runner import enqueue
from jobs.services.rights import need_rights
from jobs.services.run import end_parent
from shoots.models import Photo, Shoot
from shoots.services.find import shared_with

KEPT = timedelta(days=7)  # after it ended
State = Job.State


def start(
    owner: User, kind: str, shoot: Shoot, photo: Photo | None = None, **arguments: Any
) -> Job:
    """arguments["photos"], if it goes through several: their ids. What is under way already on the same is
    given back instead of being done twice. Raises Missing, Refused (403)."""
    return _started(owner, kind, shoot, photo, arguments, None)


def start_each(
    owner: User, kind: str, shoot: Shoot, photos: Sequence[int], **arguments: Any
) -> Job:
    """The same for each of several photos by itself, in whatever order and by whomever."""
    return _started(owner, kind, shoot, None, arguments | {"photos": list(photos)}, photos)


@again_when_deadlocked
def _started(
    owner: User,
    kind: str,
    shoot: Shoot,
    photo: Photo | None,
    arguments: dict[str, Any],
    parts: Sequence[int] | None,
) -> Job:
    need_rights(Job(owner=owner, shoot=shoot, photo=photo))
    with transaction.atomic():
        # One at a time decides whether there is anything to start.
        Shoot.objects.select_for_update().get(id=shoot.id)
        same = Job.objects.filter(
            owner=owner, shoot=shoot, photo=photo, kind=kind, arguments=arguments, parent=None
        )
        under_way = same.filter(state__in=OPEN, cancelled=False).first()
        if under_way is not None:
            return under_way
        job = Job.objects.create(
            owner=owner,
            kind=kind,
            shoot=shoot,
            photo=photo,
            arguments=arguments,
            total=len(arguments.get("photos", [None])),
            state=State.WAITING if parts is None else State.RUNNING,
        )
        pieces = 1 if parts is None else len(_parts(job, parts))
    if pieces:
        enqueue(job.id, pieces)
    else:
        end_parent(job.id)
    return own_job(owner, job.id)  # as it is now; its photo may be gone already


def _parts(parent: Job, photos: Sequence[int]) -> list[Job]:
    there = Photo.objects.filter(shoot=parent.shoot, id__in=photos).in_bulk()
    parent.titles = {i: there[i].title for i in photos if i in there}
    parent.save(update_fields=["titles"])
    rest = {k: v for k, v in parent.arguments.items() if k != "photos"}
    rows = [
        Job(
            owner=parent.owner,
            kind=parent.kind,
            shoot=parent.shoot,
            photo=there[photo_id],
            parent=parent,
            place=place,
            arguments=rest,
        )
        for place, photo_id in enumerate(photos)
        if photo_id in there
    ]
    return Job.objects.bulk_create(rows)


def own_job(user: User, job_id: UUID) -> Job:
    """One's own, as long as its shoot is shared; anybody's on a shoot of one's own. Raises Missing."""
    own = Q(owner=user) & shared_with(user, shoot="shoot__") | Q(
        shoot__owner=user, shoot__removed=None
    )
    job = Job.objects.filter(own, parent=None, id=job_id).select_related("owner").first()
    if job is None:
        raise Missing
    return job


def latest(owner: User, shoot: Shoot, photo: Photo | None = None) -> list[Job]:
    """A person's newest job of each kind, of a shoot as a whole or of one of its photos."""
    own = Job.objects.filter(owner=owner, shoot=shoot, photo=photo, parent=None).order_by("-made")
    kinds = own.order_by().values_list("kind", flat=True).distinct()
    newest = (own.filter(kind=kind).select_related("owner").first() for kind in kinds)
    return [job for job in newest if job is not None]


def under_way(shoot: Shoot) -> list[Job]:
    """Whoever began it, the oldest first."""
    rows = Job.objects.filter(shoot=shoot, parent=None, state__in=OPEN)
    return list(rows.select_related("owner").order_by("made"))


@again_when_deadlocked
def cancel(job: Job) -> None:
    """Ask it to stop; what has not begun is stopped at once."""
    with transaction.atomic():
        Job.objects.select_for_update().get(id=job.id)
        whole = Job.objects.filter(id=job.id) | Job.objects.filter(parent=job)
        whole.filter(state__in=OPEN).update(cancelled=True)
        whole.filter(state=State.WAITING).update(state=State.CANCELLED, ended=timezone.now())
    if job.parts.exists():
        end_parent(job.id)


def take_up(job: Job) -> Job:
    """Do what is left of a job that was interrupted, stopped, or failed. Raises Refused (409)."""
    if not job.over or job.state == State.DONE:
        raise Refused("This is under way, or done", 409)
    arguments = dict(job.arguments)
    photos = arguments.pop("photos", None)
    if photos is None:
        return start(job.owner, job.kind, job.shoot, job.photo, **arguments)
    if job.parts.exists():
        over = (State.DONE, State.FAILED)
        through = set(job.parts.filter(state__in=over).values_list("photo_id", flat=True))
        left = [p for p in photos if p not in through]
        return start_each(job.owner, job.kind, job.shoot, left, **arguments)
    return start(job.owner, job.kind, job.shoot, job.photo, photos=photos[job.done :], **arguments)


def after_a_stop() -> None:
    """At the start of the one process that does the work: what was under way is not any more."""
    left = Job.objects.filter(state__in=OPEN)
    left.update(state=State.INTERRUPTED, ended=timezone.now(), token=None)


def forget_old() -> None:
    Job.objects.filter(ended__lt=timezone.now() - KEPT, parent=None).delete()
