"""How much of the computing each person had lately."""

import math
import time

LATELY = 5.0  # seconds in which what was used fades to a third
FORGOTTEN = 0.01  # seconds
MUCH, TIMES_OTHERS = 1.0, 3.0  # seconds, and times the mean of everybody


class Usage:
    """Not safe under threads."""

    def __init__(self) -> None:
        self._used: dict[int, tuple[float, float]] = {}  # seconds, when that was so

    def add(self, person: int, seconds: float) -> None:
        self._used[person] = self.of(person) + seconds, time.monotonic()
        for other in [p for p in self._used if self.of(p) < FORGOTTEN]:
            del self._used[other]

    def of(self, person: int) -> float:
        seconds, at = self._used.get(person, (0.0, 0.0))
        return seconds * math.exp((at - time.monotonic()) / LATELY)

    def is_heavy(self, person: int) -> bool:
        """Whether somebody had far more than everybody who had any."""
        mine = self.of(person)
        if mine <= MUCH:
            return False
        return mine > TIMES_OTHERS * sum(self.of(p) for p in self._used) / len(self._used)
