"""Where work is done: by workers whom a broker wakes (config/queue.py), or by threads of this process."""

import logging
import threading
from uuid import UUID

from django.conf import settings
from django.db import close_old_connections, connections, transaction

from jobs.keeper import Keeper
from jobs.models import Job
from jobs.services.claim import claim
from jobs.services.run import run

log = logging.getLogger(__name__)
THREADS = 2  # and one that takes nothing but single photos
LOOK_EVERY = 2.0  # seconds, for work that waits for its time


class Threads:
    """Of this process; they end with it, and what they were doing counts as interrupted at its next start."""

    def __init__(self) -> None:
        self._work = threading.Condition()
        self._keeper: Keeper | None = None
        self._running: list[threading.Thread] = []
        self._stopping = False

    def wake(self) -> None:
        with self._work:
            if self._keeper is None:
                self._keeper = Keeper()
                self._keeper.start()
                self._running = [self._thread(self._keeper, i) for i in range(THREADS + 1)]
            self._work.notify_all()

    def stop(self) -> None:
        """When what they are doing is done."""
        with self._work:
            self._stopping = True
            self._work.notify_all()
        for thread in self._running:
            thread.join()
        if self._keeper is not None:
            self._keeper.stop()
        self._keeper, self._running, self._stopping = None, [], False

    def _thread(self, keeper: Keeper, number: int) -> threading.Thread:
        small = number == THREADS
        thread = threading.Thread(
            target=self._serve, args=(keeper, small), name=f"work-{number}", daemon=True
        )
        thread.start()
        return thread

    def _serve(self, keeper: Keeper, small: bool) -> None:
        while not self._stopping:
            close_old_connections()
            try:
                while not self._stopping and keeper.work_once(small=small):
                    pass
            except Exception:  # such as a database that is away: it may be back soon
                log.exception("work")
            finally:
                connections.close_all()
            with self._work:
                if not self._stopping:
                    self._work.wait(LOOK_EVERY)


threads = Threads()


def enqueue(job_id: UUID, pieces: int) -> None:
    """Have a job done, with its parts, once the transaction is through that made it."""
    if settings.JOBS_AT_ONCE:
        work_on(job_id)
    elif settings.BROKER:
        from jobs.tasks import wake  # the broker's libraries, only where there is one

        transaction.on_commit(lambda: wake(pieces))
    else:
        transaction.on_commit(threads.wake)


def work_on(job_id: UUID) -> None:
    """One job with its parts, here and now, as soon as they are the next."""
    own = Job.objects.filter(id=job_id) | Job.objects.filter(parent=job_id)
    while own.filter(state=Job.State.WAITING).exists() and (job := claim()):
        run(job)
