"""Turns at computing: few at once, fair between people, the newest view of each first.

Whoever asks for something that takes a core waits here for a turn. People have their turns one after the
other, however much one of them asks for; of one person's requests small ones come before large ones, and a
picture that was overtaken by a newer one of the same view is dropped before it begins. When more waits than
can be done soon, it is said at once instead of suffered.
"""

import os
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import partial
from itertools import count

from config.errors import Refused

AT_ONCE = max(2, os.cpu_count() or 1)
MOST_WAITING = 32  # requests, of everybody
MOST_OF_ONE = 10  # requests, of one person
LONGEST_WAIT = 1.5  # seconds that a new request may have before it, as far as can be told
WEIGHT = 0.2  # of the newest in the mean length of a turn
RETRY = 1  # seconds
BUSY = "Many people are at work just now; this is tried again by itself"
OVERTAKEN = "A newer picture of this view was asked for"


class Overtaken(Refused):
    """Nobody waits for this any more."""

    def __init__(self) -> None:
        super().__init__(OVERTAKEN, 409, overtaken=True)


@dataclass(eq=False)
class Turn:
    """view: what a newer request of the same person takes the place of, or nothing."""

    person: int
    large: bool
    view: str
    number: int
    ready: threading.Event = field(default_factory=threading.Event)
    overtaken: bool = False


class Turns:
    """One a process."""

    def __init__(self, at_once: int = AT_ONCE) -> None:
        self._free = at_once
        self._waiting: list[Turn] = []
        self._served: dict[int, int] = {}  # by person, when they had their last turn
        self._running: dict[int, int] = {}
        self._lock = threading.Lock()
        self._numbers = count(1)
        self._length = 0.0  # of a turn, seconds
        self._at_once = at_once
        self.refused = self.overtaken = self.done = 0

    @property
    def waiting(self) -> int:
        return len(self._waiting)

    @contextmanager
    def turn(self, person: int, *, large: bool = False, view: str = "") -> Iterator[None]:
        """Raises Refused (503) at once when there is too much to do, Overtaken (409) when a newer request of
        the same view has come."""
        mine = self._queue(person, large, view)
        if mine is not None:
            mine.ready.wait()
            if mine.overtaken:
                raise Overtaken
        started = time.monotonic()
        try:
            yield
        finally:
            self._give_back(person, time.monotonic() - started)

    def _queue(self, person: int, large: bool, view: str) -> Turn | None:
        with self._lock:
            if view:
                self._overtake(person, view)
            if self._free and not self._waiting:
                self._begin(person)
                return None
            own = sum(t.person == person for t in self._waiting)
            # Whoever has nothing waiting yet is let in before those who have.
            ahead = (len(self._waiting) + (own > 0)) * self._length / self._at_once
            too_long = ahead > LONGEST_WAIT and len(self._waiting) >= self._at_once
            if too_long or len(self._waiting) >= MOST_WAITING or own >= MOST_OF_ONE:
                self.refused += 1
                raise Refused(BUSY, 503, retry_after=RETRY)
            mine = Turn(person, large, view, next(self._numbers))
            self._waiting.append(mine)
            self._next()
            return mine

    def _overtake(self, person: int, view: str) -> None:
        for turn in [t for t in self._waiting if t.person == person and t.view == view]:
            self._waiting.remove(turn)
            turn.overtaken = True
            self.overtaken += 1
            turn.ready.set()

    def _begin(self, person: int) -> None:
        self._free -= 1
        self._served[person] = next(self._numbers)
        self._running[person] = self._running.get(person, 0) + 1

    def _give_back(self, person: int, seconds: float) -> None:
        with self._lock:
            self._length += WEIGHT * (seconds - self._length)
            self._free += 1
            self.done += 1
            self._running[person] -= 1
            if not self._running[person]:
                del self._running[person]
            self._next()
            if not self._waiting and not self._running:
                self._served.clear()

    def _next(self) -> None:
        """Of whoever has least under way, and waited longest since they came or had their last turn: nobody
        waits for ever."""
        while self._free and self._waiting:
            since: dict[int, int] = {}
            for turn in self._waiting:
                came = since.get(turn.person, turn.number)
                since[turn.person] = max(min(came, turn.number), self._served.get(turn.person, 0))
            turn = min(self._waiting, key=partial(self._order, since))
            self._waiting.remove(turn)
            self._begin(turn.person)
            turn.ready.set()

    def _order(self, since: dict[int, int], turn: Turn) -> tuple[int, int, bool, int]:
        return self._running.get(turn.person, 0), since[turn.person], turn.large, turn.number


turns = Turns()
