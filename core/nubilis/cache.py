"""A small store of computed arrays, bounded in bytes, the least recently used forgotten first."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable

from nubilis.arrays import Floats


class ArrayCache:
    """Safe under threads; two threads may compute the same entry twice, which is harmless."""

    def __init__(self, limit_bytes: int) -> None:
        self._limit = limit_bytes
        self._size = 0
        self._lock = threading.Lock()
        self._kept: OrderedDict[Hashable, Floats] = OrderedDict()

    def get(self, key: Hashable, make: Callable[[], Floats]) -> Floats:
        """The array under `key`, made when missing. Callers must not write into it."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        made = make()
        with self._lock:
            if key not in self._kept:
                self._kept[key] = made
                self._size += made.nbytes
            while self._size > self._limit and len(self._kept) > 1:
                self._size -= self._kept.popitem(last=False)[1].nbytes
        return made
