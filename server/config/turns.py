"""Turns at computing: few at once, fair between people, the newest view of each first.

Whoever asks for something that takes a core waits here for a turn. People have their turns one after the
other, however much one of them asks for; of one person's requests small ones come before large ones, and a
picture that was overtaken by a newer one of the same view is dropped before it begins. When more waits than
can be done soon, it is said at once instead of suffered.
"""

import os
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import partial
from itertools import count

from config.errors import Refused
from config.usage import Usage

AT_ONCE = max(2, os.cpu_count() or 1)
MOST_WAITING = 32  # requests, of everybody
MOST_OF_ONE = 10  # requests, of one person
LONGEST_WAIT = 1.0  # seconds that a new request may have before it, as far as can be told
LONGEST_STAY = 2.0  # seconds; what could not be told beforehand is not suffered either
WEIGHT = 0.2  # of the newest in the mean length of a kind of turn
SHORT, LONG = 0.1, 1.0  # seconds, before any was measured: of a photo that is open, and of others
LONGEST_RETRY = 5  # seconds
LOOK_EVERY = 0.25  # seconds between two looks whether somebody still waits
PAUSE = 0.07  # seconds before one who asks for far too much hears so
REST = 1.0  # times their last turn, for one who had far more than the others
BUSY = "Many people are at work just now; this is tried again by itself"
OVERTAKEN = "A newer picture of this view was asked for"


def stays() -> bool:
    """Whether somebody has gone, of whom that cannot be heard."""
    return False


class Overtaken(Refused):
    """Nobody waits for this any more."""

    def __init__(self) -> None:
        super().__init__(OVERTAKEN, 409, overtaken=True)


@dataclass(eq=False)
class Turn:
    """view: what a newer request of the same person takes the place of, or nothing; kind: of turns that take
    about as long as each other."""

    person: int
    large: bool
    view: str
    kind: str
    number: int
    began: float = 0.0
    ready: threading.Event = field(default_factory=threading.Event)
    overtaken: bool = False
    whole: bool = False  # it ran to its end


class Turns:
    """One a process."""

    def __init__(self, at_once: int = AT_ONCE, longest_stay: float = LONGEST_STAY) -> None:
        self._free, self._longest_stay = at_once, longest_stay
        self._waiting: list[Turn] = []
        self._served: dict[int, int] = {}  # by person, when they had their last turn
        self._running: list[Turn] = []
        self._resting: set[int] = set()  # people
        self._lock = threading.Lock()
        self._numbers = count(1)
        self._usage = Usage()
        self._lengths: dict[str, float] = {}  # of a kind of turn, seconds
        self._at_once = at_once
        self.refused = self.overtaken = self.gone = self.done = 0

    @property
    def waiting(self) -> int:
        return len(self._waiting)

    @contextmanager
    def turn(
        self,
        person: int,
        *,
        large: bool = False,
        view: str = "",
        kind: str = "",
        gone: Callable[[], bool] = stays,
    ) -> Iterator[None]:
        """gone: whether whoever asked has hung up. Raises Refused (503) at once when there is too much to do,
        Overtaken (409) when a newer request of the same view has come, or nobody waits any more."""
        mine = Turn(person, large, view, kind, next(self._numbers))
        if sum(t.person == person for t in self._waiting) >= MOST_OF_ONE:
            # Whoever asks again at once, and again, keeps the others from their answers by that alone.
            time.sleep(PAUSE)
        self._queue(mine)
        self._wait(mine, gone)
        try:
            if gone():
                raise Overtaken
            yield
            mine.whole = not gone()
        finally:
            self.gone += gone()
            self._give_back(mine)

    def _wait(self, mine: Turn, gone: Callable[[], bool]) -> None:
        began = time.monotonic()
        while not mine.ready.wait(min(LOOK_EVERY, self._longest_stay)):
            if gone() and self._leaves(mine):
                self.gone += 1
                raise Overtaken
            if time.monotonic() - began >= self._longest_stay and self._gives_up(mine):
                raise self._busy(1.0)
        if mine.overtaken:
            raise Overtaken

    def _queue(self, mine: Turn) -> None:
        with self._lock:
            if mine.view:
                self._overtake(mine.person, mine.view)
            if not self._waiting and self._may_begin(mine):
                self._begin(mine)
                return
            own = sum(t.person == mine.person for t in self._waiting)
            ahead = self._ahead(mine.person)
            too_long = ahead > LONGEST_WAIT and len(self._waiting) >= self._at_once
            if too_long or len(self._waiting) >= MOST_WAITING or own >= MOST_OF_ONE:
                raise self._busy(ahead)
            self._waiting.append(mine)
            self._next()

    def _ahead(self, person: int) -> float:
        """Seconds until somebody who comes now has a turn because of others, as far as can be told: after
        what these have under way, and one more of each. One's own is bounded by number alone."""
        now = time.monotonic()
        left = [
            max(self._length(t.kind) - (now - t.began), 0.0)
            for t in self._running
            if t.person != person
        ]
        others: dict[int, float] = {}
        for turn in self._waiting:
            if turn.person != person:
                longest = max(others.get(turn.person, 0.0), self._length(turn.kind))
                others[turn.person] = longest
        return (sum(left) + sum(others.values())) / self._at_once

    def _length(self, kind: str) -> float:
        return self._lengths.get(kind, LONG if kind else SHORT)

    def _busy(self, ahead: float) -> Refused:
        """Whoever is refused asks again when it may be worth it."""
        self.refused += 1
        return Refused(BUSY, 503, retry_after=min(max(round(ahead), 1), LONGEST_RETRY))

    def _gives_up(self, mine: Turn) -> bool:
        """Unless the turn has come meanwhile, or nobody else is what it waits for."""
        with self._lock:
            others = any(t.person != mine.person for t in (*self._running, *self._waiting))
        return others and self._leaves(mine)

    def _leaves(self, mine: Turn) -> bool:
        """Unless the turn has come meanwhile."""
        with self._lock:
            if mine not in self._waiting:
                return False
            self._waiting.remove(mine)
            return True

    def _overtake(self, person: int, view: str) -> None:
        for turn in [t for t in self._waiting if t.person == person and t.view == view]:
            self._waiting.remove(turn)
            turn.overtaken = True
            self.overtaken += 1
            turn.ready.set()

    def _begin(self, turn: Turn) -> None:
        self._free -= 1
        turn.began = time.monotonic()
        self._served[turn.person] = next(self._numbers)
        self._running.append(turn)
        turn.ready.set()

    def _give_back(self, turn: Turn) -> None:
        with self._lock:
            known, took = self._length(turn.kind), time.monotonic() - turn.began
            if turn.whole:
                self._lengths[turn.kind] = known + WEIGHT * (took - known)
            self._free += 1
            self._usage.add(turn.person, took)
            self.done += 1
            self._running.remove(turn)
            if self._usage.is_heavy(turn.person):
                self._rest(turn.person, REST * took)
            self._next()
            if not self._waiting and not self._running:
                self._served.clear()

    def _rest(self, person: int, seconds: float) -> None:
        """Whoever computes whenever nobody else does would meet all others half way through a turn."""
        self._resting.add(person)
        timer = threading.Timer(seconds, self._rested, (person,))
        timer.daemon = True
        timer.start()

    def _rested(self, person: int) -> None:
        with self._lock:
            self._resting.discard(person)
            self._next()

    def _next(self) -> None:
        """Of whoever has least under way, and waited longest since they came or had their last turn: nobody
        waits for ever."""
        while waiting := [t for t in self._waiting if self._may_begin(t)]:
            since: dict[int, int] = {}
            for turn in self._waiting:
                came = since.get(turn.person, turn.number)
                since[turn.person] = max(min(came, turn.number), self._served.get(turn.person, 0))
            turn = min(waiting, key=partial(self._order, since))
            self._waiting.remove(turn)
            self._begin(turn)

    def _may_begin(self, turn: Turn) -> bool:
        """Whoever had far more than the others lately takes no core away from one of them, and rests."""
        if not self._free or turn.person in self._resting:
            return False
        return not self._running or not self._usage.is_heavy(turn.person)

    def _order(self, since: dict[int, int], turn: Turn) -> tuple[int, int, bool, int]:
        running = sum(t.person == turn.person for t in self._running)
        return running, since[turn.person], turn.large, turn.number


turns = Turns()
