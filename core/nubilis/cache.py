"""A small store of what is slow to make, bounded in size, the least recently used forgotten first."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from nubilis.arrays import Floats
from nubilis.wanted import check_wanted

Made = TypeVar("Made")
LOOKS_AGAIN = 0.5  # seconds, after which one who waits asks whether that is still wanted


class Cache(Generic[Made]):
    """Safe under threads: who asks for what another makes just now waits for it."""

    def __init__(self, limit: int, size_of: Callable[[Made], int] = lambda _: 1) -> None:
        """limit: of all sizes together; without size_of, a number of entries. What is
        larger than the limit by itself is kept alone."""
        self._limit, self._size_of = limit, size_of
        self._size = 0
        self._lock = threading.Lock()
        self._kept: OrderedDict[Hashable, Made] = OrderedDict()
        self._making: dict[Hashable, threading.Event] = {}

    @property
    def size(self) -> int:
        """Of all that is kept."""
        return self._size

    def shrink(self, limit: int) -> None:
        """To so much, the least recently used first. What is in use elsewhere stays in use."""
        with self._lock:
            while self._size > limit and self._kept:
                self._size -= self._size_of(self._kept.popitem(last=False)[1])

    def get(self, key: Hashable, make: Callable[[], Made]) -> Made:
        """What is under `key`, made when missing. Callers must not change it. Raises Unwanted.

        What is made of an entry must not ask for that entry again.
        """
        while True:
            with self._lock:
                if key in self._kept:
                    self._kept.move_to_end(key)
                    return self._kept[key]
                under_way = self._making.get(key)
                if under_way is None:
                    self._making[key] = done = threading.Event()
                    break
            check_wanted()
            # Who makes it may fail or not be wanted any more: then it is up to us.
            under_way.wait(LOOKS_AGAIN)
        try:
            check_wanted()
            made = make()
            with self._lock:
                self._keep(key, made)
            return made
        finally:
            with self._lock:
                del self._making[key]
            done.set()

    def _keep(self, key: Hashable, made: Made) -> None:
        self._kept[key] = made
        self._size += self._size_of(made)
        while self._size > self._limit and len(self._kept) > 1:
            self._size -= self._size_of(self._kept.popitem(last=False)[1])


def array_cache(limit_bytes: int) -> Cache[Floats]:
    """A store of arrays, bounded in bytes."""
    return Cache(limit_bytes, lambda array: array.nbytes)
