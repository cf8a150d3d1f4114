"""Transactions that a database ended so that another could go on are begun again."""

import random
import time
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import OperationalError, connection

P = ParamSpec("P")
T = TypeVar("T")
DEADLOCK, WAITED_TOO_LONG = 1213, 1205  # MariaDB's numbers
TIMES = 8
PAUSE = 0.02  # seconds, at most, before the first new try; twice as long each time


def again_when_deadlocked(work: Callable[P, T]) -> Callable[P, T]:
    """For a function that is one transaction of its own."""

    @wraps(work)
    def tried(*args: P.args, **more: P.kwargs) -> T:
        pause = PAUSE
        for left in range(TIMES - 1, -1, -1):
            try:
                return work(*args, **more)
            except OperationalError as error:
                passing = error.args and error.args[0] in (DEADLOCK, WAITED_TOO_LONG)
                if not passing or not left or connection.in_atomic_block:
                    raise
                time.sleep(random.uniform(0.0, pause))
                pause *= 2.0
        raise AssertionError("unreachable")

    return tried
