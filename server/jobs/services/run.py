"""Do a piece of work by its id, and say how it ended."""

import logging
from typing import Any
from uuid import UUID

from django.utils import timezone

from config.errors import DISK_FULL, Refused, is_disk_full, one_line
from jobs.models import Job
from jobs.progress import Cancelled, Progress
from nubilis.errors import NubilisError

log = logging.getLogger(__name__)
State = Job.State


def run(job_id: UUID) -> None:
    """Whoever is first does it; whatever happens, the row says so."""
    from jobs.kinds import KINDS  # they may start further work themselves

    if not Job.objects.filter(id=job_id, state=State.WAITING).update(state=State.RUNNING):
        return
    job = Job.objects.select_related("photo", "shoot", "owner").get(id=job_id)
    try:
        result = KINDS[job.kind](job, Progress(job))
    except Cancelled:
        _end(job, State.CANCELLED)
    except (NubilisError, Refused) as error:
        _end(job, State.FAILED, error=one_line(error))
    except Exception as error:
        full = is_disk_full(error)
        if not full:
            log.exception("job %s", job)
        text = DISK_FULL if full else "Something went wrong; the server's log has the whole of it"
        _end(job, State.FAILED, error=text)
    else:
        _end(job, State.DONE, result=result, share=1.0)


def _end(job: Job, state: str, **more: Any) -> None:
    Job.objects.filter(id=job.id).update(state=state, ended=timezone.now(), **more)
