"""Start, find, stop and take up pieces of work."""

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from accounts.models import User
from config.errors import Missing, Refused
from jobs.models import Job
from jobs.runner import enqueue
from shoots.models import Photo, Shoot

KEPT = timedelta(days=7)  # after it ended
State = Job.State


def start(
    owner: User, kind: str, shoot: Shoot, photo: Photo | None = None, **arguments: Any
) -> Job:
    """arguments["photos"], if it goes through several: their ids. What is under way already on the same is
    given back instead of being done twice. Raises Missing."""
    with transaction.atomic():
        # One at a time decides whether there is anything to start.
        Shoot.objects.select_for_update().get(id=shoot.id)
        same = Job.objects.filter(shoot=shoot, photo=photo, kind=kind, arguments=arguments)
        under_way = same.filter(state__in=(State.WAITING, State.RUNNING), cancelled=False).first()
        if under_way is not None:
            return under_way
        total = len(arguments.get("photos", [None]))
        job = Job.objects.create(
            owner=owner, kind=kind, shoot=shoot, photo=photo, arguments=arguments, total=total
        )
    enqueue(kind, job.id)
    return own_job(owner, job.id)  # as it is now; its photo may be gone already


def own_job(owner: User, job_id: UUID) -> Job:
    """Raises Missing."""
    job = Job.objects.filter(owner=owner, id=job_id).first()
    if job is None:
        raise Missing
    return job


def latest(owner: User, shoot: Shoot, photo: Photo | None = None) -> list[Job]:
    """The newest job of each kind, of a shoot as a whole or of one of its photos."""
    rows = Job.objects.filter(owner=owner, shoot=shoot, photo=photo)
    newest: dict[str, Job] = {}
    for job in rows.order_by("made"):
        newest[job.kind] = job
    return list(newest.values())


def cancel(job: Job) -> None:
    """Ask it to stop; what has not begun is stopped at once."""
    Job.objects.filter(id=job.id, state__in=(State.WAITING, State.RUNNING)).update(cancelled=True)
    waiting = Job.objects.filter(id=job.id, state=State.WAITING)
    waiting.update(state=State.CANCELLED, ended=timezone.now())


def take_up(job: Job) -> Job:
    """Do what is left of a job that was interrupted, stopped, or failed. Raises Refused (409)."""
    if not job.over or job.state == State.DONE:
        raise Refused("This is under way, or done", 409)
    arguments = dict(job.arguments)
    if "photos" in arguments:
        arguments["photos"] = arguments["photos"][job.done :]
    return start(job.owner, job.kind, job.shoot, job.photo, **arguments)


def after_a_stop() -> None:
    """At the start of the process that does the work: what was under way is not any more."""
    left = Job.objects.filter(state__in=(State.WAITING, State.RUNNING))
    left.update(state=State.INTERRUPTED, ended=timezone.now())
    Job.objects.filter(ended__lt=timezone.now() - KEPT).delete()
