"""Decoded photos and what was computed about them, kept while they are being worked on."""

import threading
from collections import OrderedDict

from django.conf import settings

from nubilis.engine.engine import Engine
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.read import read_photo
from shoots.models import Photo
from shoots.store import OwnAssets, original_path

CACHE_BYTES = 300 * 2**20  # of parts and results, each engine at most
Key = tuple[int, str]


class EnginePool:
    """Engines by owner and content hash, within a budget of what they hold; the least recently used let go of
    their results first, and are forgotten when that is not enough. An engine sees the files of its owner's
    recipes, so it is nobody else's."""

    def __init__(self, limit_bytes: int | None = None) -> None:
        self._limit = settings.ENGINES_MB * 2**20 if limit_bytes is None else limit_bytes
        self._kept: OrderedDict[Key, Engine] = OrderedDict()
        self._lock = threading.Lock()
        self._decoding: dict[Key, threading.Lock] = {}

    def get(self, photo: Photo) -> Engine:
        """The photo's engine; two requests never decode the same photo twice. Raises PhotoError."""
        key = photo.shoot.owner_id, photo.content_hash
        with self._lock:
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

    def _trim(self) -> None:
        """All but the one that is asked for now: first of what whoever works on them does not need next."""
        others = list(self._kept)[:-1]
        over = sum(engine.held_bytes for engine in self._kept.values()) - self._limit
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


def _read(photo: Photo) -> Decoded:
    try:
        path = original_path(photo.content_hash)
        there = path.is_file()
    except FileNotFoundError:
        there = False
    if not there:
        raise PhotoError(f"the original of {photo.title} is missing on the server's disk")
    return read_photo(path)


engines = EnginePool()
