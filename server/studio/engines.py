"""Decoded photos and what was computed about them, kept while they are being worked on."""

import threading
from collections import OrderedDict
from collections.abc import Sequence
from contextlib import suppress

from config.memory import LEAST, WORKING, budget, given_back, lets_go, resident
from config.turns import AT_ONCE
from nubilis.engine.engine import Engine
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.read import read_photo
from shoots.models import Photo
from shoots.store import OwnAssets, reading_original

CACHE_BYTES = 300 * 2**20  # of parts and results, each engine at most
Key = tuple[int, str]


class EnginePool:
    """Engines by owner and content hash, within what the process may have; the least recently used let go of
    their results first, and are forgotten when that is not enough. An engine sees the files of its owner's
    recipes, so it is nobody else's.

    limit_bytes: that they may hold; None: as much as leaves the whole process within its budget, with room
    for what is computed meanwhile."""

    def __init__(self, limit_bytes: int | None = None) -> None:
        self._limit = limit_bytes
        self._kept: OrderedDict[Key, Engine] = OrderedDict()
        self._opened: dict[int, Key] = {}
        self._lock = threading.Lock()
        self._decoding: dict[Key, threading.Lock] = {}

    def get(self, photo: Photo) -> Engine:
        """The photo's engine; two requests never decode the same photo twice. Raises PhotoError."""
        key = photo.shoot.owner_id, photo.content_hash
        with self._lock:
            self._opened[photo.id] = key
            own = self._decoding.setdefault(key, threading.Lock())
        with own:
            with self._lock:
                if key in self._kept:
                    self._kept.move_to_end(key)
                    self._trim()
                    return self._kept[key]
            engine = Engine(_read(photo), CACHE_BYTES, OwnAssets(photo.shoot.owner_id))
            with self._lock:
                self._kept[key] = engine
                self._trim()
            return engine

    @property
    def held_bytes(self) -> int:
        with self._lock:
            return sum(engine.held_bytes for engine in self._kept.values())

    def is_open(self, photo_id: int) -> bool:
        """Whether a photo need not be decoded first."""
        return self._opened.get(photo_id) in self._kept

    def make_room(self, wanted: int) -> None:
        """For other work, which takes so many bytes."""
        with self._lock:
            over = self._over() + wanted
            if over > 0:
                self._let_go(list(self._kept), over)
                given_back()

    def _over(self) -> int:
        """Bytes that are to be let go of."""
        held = sum(engine.held_bytes for engine in self._kept.values())
        if self._limit is not None:
            return held - self._limit
        room = budget() - AT_ONCE * WORKING
        return min(resident() - room, held - LEAST)

    def _trim(self) -> None:
        """All but the one that is asked for now."""
        over = self._over()
        if over > 0:
            self._let_go(list(self._kept)[:-1], over)
            given_back()

    def _let_go(self, others: Sequence[Key], over: int) -> None:
        """First of what whoever works on them does not need next."""
        for all_of_it in (False, True):
            for engine in (self._kept[key] for key in others):
                if over <= 0:
                    return
                before = engine.held_bytes
                engine.let_go(all_of_it=all_of_it)
                over -= before - engine.held_bytes
        for key in others:
            if over <= 0:
                return
            over -= self._kept.pop(key).held_bytes
            self._decoding.pop(key, None)
            self._opened = {p: k for p, k in self._opened.items() if k in self._kept}


def _read(photo: Photo) -> Decoded:
    with suppress(FileNotFoundError), reading_original(photo.content_hash) as path:
        if path.is_file():
            return read_photo(path)
    raise PhotoError(f"the original of {photo.title} is missing on the server's disk")


engines = EnginePool()
lets_go(engines.make_room)
