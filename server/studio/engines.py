"""Decoded photos and what was computed about them, kept while they are being worked on."""

import threading
from collections import OrderedDict

from nubilis.engine.engine import Engine
from nubilis.errors import PhotoError
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.read import read_photo
from shoots.models import Photo
from shoots.store import OwnAssets, original_path

CACHE_BYTES = 300 * 2**20  # of parts and results, each engine
Key = tuple[int, str]
KEPT_BYTES = 1500 * 2**20  # of all engines together, as far as can be told beforehand


class EnginePool:
    """Engines by owner and content hash, the least recently used forgotten first. An engine sees
    the files of its owner's recipes, so it is nobody else's."""

    def __init__(self, limit_bytes: int = KEPT_BYTES) -> None:
        self._limit = limit_bytes
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
                    return self._kept[key]
            engine = Engine(_read(photo), CACHE_BYTES, OwnAssets(photo.shoot.owner_id))
            with self._lock:
                self._kept[key] = engine
                self._trim()
            return engine

    def _trim(self) -> None:
        while len(self._kept) > 1 and sum(map(_bytes, self._kept.values())) > self._limit:
            forgotten, _ = self._kept.popitem(last=False)
            self._decoding.pop(forgotten, None)


def _read(photo: Photo) -> Decoded:
    try:
        path = original_path(photo.content_hash)
        there = path.is_file()
    except FileNotFoundError:
        there = False
    if not there:
        raise PhotoError(f"the original of {photo.title} is missing on the server's disk")
    return read_photo(path)


def _bytes(engine: Engine) -> int:
    """Code values, half-size levels (a third of full size in floats), and cached results."""
    pixels = engine.photo.width * engine.photo.height
    return engine.photo.codes.nbytes + 4 * pixels + CACHE_BYTES


engines = EnginePool()
