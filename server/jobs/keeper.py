"""Says of the work that this process does that it goes on, and takes back what other processes lost."""

import logging
import threading
from collections.abc import Callable
from uuid import UUID

from django.conf import settings
from django.db import close_old_connections, connections

from jobs.services.claim import claim, still_at_it, take_back_lost
from jobs.services.run import run

log = logging.getLogger(__name__)
OFTEN = 12.0  # times within which a piece of work would be taken for lost


class Keeper:
    """One a process. left: told how much there is to do, now and then."""

    def __init__(self, left: Callable[[int], None] = lambda _: None) -> None:
        self._left = left
        self._tokens: set[UUID] = set()
        self._lock = threading.Lock()
        self._stop = threading.Event()

    def start(self) -> None:
        threading.Thread(target=self._keep, name="keeper", daemon=True).start()

    def stop(self) -> None:
        self._stop.set()

    def work_once(self, *, small: bool = False) -> bool:
        """Do the next piece of work; whether there was one."""
        job = claim(small=small)
        if job is None or job.token is None:
            return False
        with self._lock:
            self._tokens.add(job.token)
        try:
            run(job)
        finally:
            with self._lock:
                self._tokens.discard(job.token)
        return True

    def _keep(self) -> None:
        while not self._stop.wait(settings.JOBS_LOST_AFTER / OFTEN):
            close_old_connections()
            try:
                with self._lock:
                    own = list(self._tokens)
                still_at_it(own)
                self._left(take_back_lost(own))
            except Exception as error:  # a database that is away is back sooner or later
                log.warning("keeper: %s", " ".join(str(error).split()))
            finally:
                connections.close_all()
