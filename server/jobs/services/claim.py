"""Who does what next: fair between people, and each piece by one process at a time.

The rows are the queue: whoever has time asks here. A message from a broker says only that it is worth asking,
so one that is lost or comes twice does no harm.
"""

import os
import socket
from datetime import datetime, timedelta
from uuid import UUID, uuid4

from django.conf import settings
from django.db.models import Count, F, Max, Q, QuerySet

from config.database import again_when_deadlocked
from jobs.models import OPEN, Job
from jobs.services.clock import now
from jobs.services.memory import fits

ME = f"{socket.gethostname()}:{os.getpid()}"[:80]
FIRST_PAUSE = 2.0  # seconds before something is tried again; twice as long each time
LONGEST_PAUSE = (
    600.0  # seconds; what is to wait for longer was written by a clock that has gone back since
)
GAVE_UP = "Whoever worked on this ended each time it was tried"
State = Job.State


def waiting(at: datetime) -> QuerySet[Job]:
    """What may be begun."""
    due = Q(not_before=None) | Q(not_before__lte=at)
    due |= Q(not_before__gt=at + timedelta(seconds=LONGEST_PAUSE))
    return Job.objects.filter(due, state=State.WAITING, cancelled=False)


@again_when_deadlocked
def claim(*, small: bool = False) -> Job | None:
    """The next piece of work, which is the caller's from now on; None when there is none, or none that there
    is memory for. small: of single photos alone."""
    while True:
        at = now()
        rows = waiting(at)
        if small:
            rows = rows.filter(photo__isnull=False, parent=None)
        job = _fairest(rows)
        if job is None or not fits(job):
            return None
        taken = Job.objects.filter(id=job.id, state=State.WAITING).update(
            state=State.RUNNING, token=uuid4(), by=ME, seen=at, begun=at, attempts=F("attempts") + 1
        )
        if taken:
            whole = Job.objects.select_related("photo__shoot", "shoot", "owner", "parent")
            return whole.filter(id=job.id).first()


def _fairest(rows: QuerySet[Job]) -> Job | None:
    """Of whoever has least under way and has waited longest; what is of one photo before parts of many."""
    owners = list(rows.order_by().values_list("owner", flat=True).distinct())
    if not owners:
        return None
    told = (
        Job.objects.filter(owner__in=owners)
        .order_by()
        .values("owner")
        .annotate(running=Count("id", Q(state=State.RUNNING, token__isnull=False)))
        .annotate(served=Max("begun"))
    )
    standing = {t["owner"]: (t["running"], t["served"]) for t in told}
    first = min(owners, key=lambda o: (standing[o][0], standing[o][1] is not None, standing[o][1]))
    own = rows.filter(owner=first)
    return own.order_by(F("parent").asc(nulls_first=True), "made", "place").first()


@again_when_deadlocked
def still_at_it(tokens: list[UUID]) -> None:
    """Say that whoever does these is alive."""
    if tokens:
        Job.objects.filter(token__in=tokens, state=State.RUNNING).update(seen=now())


def wait_again(job: Job) -> None:
    """Given back by whoever has it, to be tried later: the longer, the oftener it was tried."""
    seconds = min(FIRST_PAUSE * 2.0 ** min(job.attempts - 1, 30), LONGEST_PAUSE)
    pause = now() + timedelta(seconds=seconds)
    mine = Job.objects.filter(id=job.id, token=job.token, state=State.RUNNING)
    mine.update(state=State.WAITING, token=None, not_before=pause)


def take_back_lost(known: list[UUID]) -> int:
    """Work of processes that are gone waits again; how much there is to do. known: tokens of the caller's."""
    from jobs.services.run import end, end_parent  # they start work too

    at, lost_after = now(), timedelta(seconds=settings.JOBS_LOST_AFTER)
    unheard = Q(seen__lt=at - lost_after) | Q(seen__gt=at + lost_after)  # the clock has gone back
    lost = Job.objects.filter(unheard, state=State.RUNNING, token__isnull=False)
    for job in lost.exclude(token__in=known):
        if job.cancelled:
            end(job, State.CANCELLED)
        elif job.attempts >= settings.JOBS_ATTEMPTS:
            end(job, State.FAILED, error=GAVE_UP)
        else:
            wait_again(job)
    parents = Job.objects.filter(state=State.RUNNING, token=None, parent=None)
    for parent in parents.exclude(parts__state__in=OPEN).distinct():
        end_parent(parent.id)
    return waiting(at).count()
