"""How far a piece of work is, as it tells itself; and whether it should stop."""

import time

from jobs.models import Job
from jobs.services.rights import need_rights

EVERY = 0.2  # seconds between two entries in the database


class Cancelled(Exception):
    """Somebody asked the work to stop, or what it worked on is gone."""


class Lost(Exception):
    """Whoever does the work was taken for dead, and it is somebody else's now."""


class TooLong(Exception):
    """The work took longer than any such work does."""


class Progress:
    """Handed to the work; it may be told as often as one likes."""

    def __init__(self, job: Job) -> None:
        from jobs.kinds import LONGEST, USUAL_LONGEST

        self._job, self._total = job, max(job.total, 1)
        self._done, self._share = job.done, 0.0
        self._troubles: list[str] = list(job.troubles)
        self._next = 0.0
        minutes = LONGEST.get(job.kind, USUAL_LONGEST) * self._total
        self._until, self._minutes = time.monotonic() + 60.0 * minutes, minutes

    def tell(self, share: float) -> None:
        """The share done of what is worked on now, 0..1. Raises Cancelled, Lost, TooLong, Refused."""
        self._share = min(max(share, 0.0), 1.0)
        if time.monotonic() >= self._next:
            self._enter()

    def one_done(self, trouble: str = "") -> None:
        """One of several is done with. trouble: what went wrong with it. Raises as tell."""
        self._done += 1
        self._share = 0.0
        if trouble:
            self._troubles.append(trouble)
        self._enter()

    def reach(self, share: float) -> None:
        """The share done of the whole, of work that does not go through its photos one by one. Raises
        as tell."""
        whole = min(max(share, 0.0), 1.0) * self._total
        self._done, self._share = int(whole), whole - int(whole)
        if time.monotonic() >= self._next:
            self._enter()

    def ask(self) -> None:
        """Whether to go on, asked at once: before what is made leaves this place. Raises as tell."""
        self._enter()

    def _enter(self) -> None:
        if time.monotonic() > self._until:
            raise TooLong(f"This took longer than {self._minutes} minutes and was given up")
        whole = min((self._done + self._share) / self._total, 1.0)
        row = Job.objects.filter(id=self._job.id)
        row.filter(token=self._job.token).update(
            share=whole, done=self._done, troubles=self._troubles
        )
        self._next = time.monotonic() + EVERY
        # Gone with its photo or its shoot, it has nothing left to do.
        told = row.values_list("cancelled", "token").first()
        if told is None or told[0]:
            raise Cancelled
        if told[1] != self._job.token:
            raise Lost
        need_rights(self._job)
