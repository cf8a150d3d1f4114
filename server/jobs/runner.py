"""Where work is done: in threads of this process, one for each kind, in the order in which it came.

A queue with workers of its own would take this file's place, and no other: what it is given is an id.
"""

import logging
import queue
import threading
from uuid import UUID

from django.conf import settings
from django.db import close_old_connections, connections, transaction

from jobs.services.run import run

log = logging.getLogger(__name__)
_lanes: dict[str, "queue.SimpleQueue[UUID]"] = {}
_lock = threading.Lock()


def enqueue(kind: str, job_id: UUID) -> None:
    """Have a job done once the transaction is through that made it."""
    if settings.JOBS_AT_ONCE:
        run(job_id)
    else:
        transaction.on_commit(lambda: _lane(kind).put(job_id))


def _lane(kind: str) -> "queue.SimpleQueue[UUID]":
    with _lock:
        if kind not in _lanes:
            _lanes[kind] = queue.SimpleQueue()
            # Ends with the process; what it was doing counts as interrupted at the next start.
            lane = threading.Thread(target=_serve, args=(_lanes[kind],), name=kind, daemon=True)
            lane.start()
        return _lanes[kind]


def _serve(lane: "queue.SimpleQueue[UUID]") -> None:
    while True:
        job_id = lane.get()
        close_old_connections()
        try:
            run(job_id)
        except Exception:  # such as a database that is away: the next job may find it back
            log.exception("job %s", job_id)
        finally:
            connections.close_all()
