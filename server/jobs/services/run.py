"""Do a piece of work, and say how it ended."""

import logging
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import DatabaseError, InterfaceError, connection, transaction

from config.database import again_when_deadlocked
from config.errors import UNFORESEEN, Refused, one_line, told_of_disk
from jobs.models import OPEN, Job
from jobs.progress import Cancelled, Lost, Progress, TooLong
from jobs.services.claim import wait_again
from jobs.services.clock import now
from jobs.services.rights import need_rights
from nubilis.errors import NubilisError

log = logging.getLogger(__name__)
State = Job.State
# A database or a store that is away, memory that others have for a moment: worth another try.
PASSING = (DatabaseError, InterfaceError, ConnectionError, TimeoutError, MemoryError)


def run(job: Job) -> None:
    """Work that was claimed. Whatever happens, its row says so, or is taken back as lost."""
    from jobs.kinds import KINDS  # they may start further work themselves

    try:
        need_rights(job)
        result = KINDS[job.kind](job, Progress(job))
        need_rights(job)
    except Cancelled:
        end(job, State.CANCELLED)
    except Lost:
        log.warning("job %s is somebody else's by now", job)
    except (NubilisError, Refused, TooLong) as error:
        end(job, State.FAILED, error=told_of_disk(error) or one_line(error))
    except Exception as error:
        _end_badly(job, error)
    else:
        end(job, State.DONE, result=result, share=1.0)


def _end_badly(job: Job, error: Exception) -> None:
    if isinstance(error, PASSING) and job.attempts < settings.JOBS_ATTEMPTS:
        log.warning("job %s is tried again: %s", job, one_line(error))
        if isinstance(error, DatabaseError | InterfaceError):
            connection.close()
        wait_again(job)
        return
    told = told_of_disk(error)
    if told is None:
        log.exception("job %s", job)
    end(job, State.FAILED, error=told or UNFORESEEN)


def end(job: Job, state: str, **more: Any) -> None:
    """Only whoever has it says how it ended; its parent may be over with it."""
    if _ended(job, state, **more) and job.parent_id:
        end_parent(job.parent_id)


@again_when_deadlocked
def _ended(job: Job, state: str, **more: Any) -> bool:
    with transaction.atomic():
        if job.parent_id:
            Job.objects.select_for_update().filter(id=job.parent_id).first()
        mine = Job.objects.filter(id=job.id, token=job.token, state__in=OPEN)
        if not mine.update(state=state, ended=now(), token=None, **more):
            return False
        if job.parent_id and state != State.CANCELLED:
            _tell_parent(job, state, str(more.get("error", "")))
    return True


def _tell_parent(job: Job, state: str, error: str) -> None:
    parent = Job.objects.get(parts=job)
    parent.done = parent.parts.exclude(state__in=(*OPEN, State.CANCELLED)).count()
    if state == State.FAILED:
        parent.troubles = [*parent.troubles, f"{job.photo.title if job.photo else ''}: {error}"]
    parent.save(update_fields=["done", "troubles"])


@again_when_deadlocked
def end_parent(parent_id: UUID) -> None:
    """When none of its parts is left to do. Of their results, lists are put together in their order."""
    with transaction.atomic():
        parent = Job.objects.select_for_update().filter(id=parent_id, state=State.RUNNING).first()
        if parent is None or parent.parts.filter(state__in=OPEN).exists():
            return
        result: dict[str, list[Any]] = {}
        for part in parent.parts.filter(state=State.DONE).order_by("place"):
            for name, value in (part.result or {}).items():
                result.setdefault(name, []).extend(value)
        parent.result, parent.ended = result, now()
        if parent.cancelled:
            parent.state = State.CANCELLED
        else:
            parent.state, parent.share = State.DONE, 1.0
            parent.troubles = [*parent.troubles, *_gone(parent)]
            parent.done = parent.parts.filter(state=State.DONE).count()
        parent.save(update_fields=["result", "ended", "state", "done", "share", "troubles"])


def _gone(parent: Job) -> list[str]:
    """Of photos that went for good, and their parts with them."""
    left = {str(i) for i in parent.parts.values_list("photo_id", flat=True)}
    titles = [title for photo, title in parent.titles.items() if photo not in left]
    return [f"{title}: it was deleted." for title in titles]
