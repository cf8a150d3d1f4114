"""How far a piece of work is, as it tells itself; and whether it should stop."""

import time

from jobs.models import Job

EVERY = 0.2  # seconds between two entries in the database


class Cancelled(Exception):
    """Somebody asked the work to stop."""


class Progress:
    """Handed to the work; it may be told as often as one likes."""

    def __init__(self, job: Job) -> None:
        self._id, self._total = job.id, max(job.total, 1)
        self._done, self._share = job.done, 0.0
        self._troubles: list[str] = list(job.troubles)
        self._next = 0.0

    def tell(self, share: float) -> None:
        """The share done of what is worked on now, 0..1. Raises Cancelled."""
        self._share = min(max(share, 0.0), 1.0)
        if time.monotonic() >= self._next:
            self._enter()

    def one_done(self, trouble: str = "") -> None:
        """One of several is done with. trouble: what went wrong with it. Raises Cancelled."""
        self._done += 1
        self._share = 0.0
        if trouble:
            self._troubles.append(trouble)
        self._enter()

    def reach(self, share: float) -> None:
        """The share done of the whole, of work that does not go through its photos one by one. Raises
        Cancelled."""
        whole = min(max(share, 0.0), 1.0) * self._total
        self._done, self._share = int(whole), whole - int(whole)
        if time.monotonic() >= self._next:
            self._enter()

    def _enter(self) -> None:
        whole = min((self._done + self._share) / self._total, 1.0)
        row = Job.objects.filter(id=self._id)
        row.update(share=whole, done=self._done, troubles=self._troubles)
        self._next = time.monotonic() + EVERY
        # Gone with its photo or its shoot, it has nothing left to do.
        if row.values_list("cancelled", flat=True).first() in (True, None):
            raise Cancelled
