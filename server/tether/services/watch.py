"""Looks again and again at the folders of watched shoots; a file that has stopped growing is taken in."""

import logging
import threading
import time
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path

from django.db import close_old_connections, connections

from config.database import only_one
from config.errors import Refused
from jobs.models import OPEN, Job
from jobs.services.start import start
from shoots.models import Shoot
from shoots.services.refusals import noting_refusals
from tether.models import Watch
from tether.services.folder import REFUSED, folder_of, moved, printable

log = logging.getLogger(__name__)
EVERY = 1.0  # seconds
TRIES, PAUSE = 5, 2.0  # of one file, and seconds until it is tried again
STILL = 2  # looks in a row at which a file has been the same

Seen = tuple[int, int]  # bytes, and when it was last written to


@dataclass
class Growth:
    """What was seen of files, and how often they were the same since."""

    known: dict[Path, tuple[Seen, int]] = field(default_factory=dict)
    tried: dict[Path, tuple[int, float]] = field(default_factory=dict)  # how often, and when again

    def settled(self, folder: Path) -> list[Path]:
        """Files of a folder that have stopped growing, in the order in which they were last written to."""
        found: dict[Path, Seen] = {}
        for path in folder.iterdir() if folder.is_dir() else ():
            try:
                told = path.stat()
            except FileNotFoundError:
                continue
            if path.is_file() and not path.name.startswith(".") and told.st_size:
                found[path] = told.st_size, told.st_mtime_ns
        for path in [p for p in self.known if p.parent == folder and p not in found]:
            del self.known[path]
            self.tried.pop(path, None)
        for path, seen in found.items():
            before, count = self.known.get(path, (None, 0))
            self.known[path] = seen, count + 1 if before == seen else 1
            if before not in (None, seen):
                self.tried.pop(path, None)
        settled = [p for p in found if self.known[p][1] > STILL]
        return sorted(settled, key=lambda p: (found[p][1], p.name))

    def due(self, path: Path) -> bool:
        """Whether it is time to try a settled file; notes that it is tried. One that stays where it is, since
        it cannot be moved away, is tried a few times, later each time, then left until it changes."""
        count, again = self.tried.get(path, (0, 0.0))
        if count >= TRIES or time.monotonic() < again:
            return False
        self.tried[path] = count + 1, time.monotonic() + PAUSE * 4**count
        return True


def look_once(growth: Growth) -> int:
    """Begin to take in what has settled; how many files. Each folder, and each file, fails by itself."""
    begun = 0
    for watch in Watch.objects.filter(
        shoot__owner__is_active=True, shoot__removed=None
    ).select_related("shoot__owner"):
        try:
            begun += _look_into(watch, growth)
        except (OSError, UnicodeError) as error:
            log.warning("watcher, shoot %s: %s", watch.shoot_id, type(error).__name__)
    return begun


def _look_into(watch: Watch, growth: Growth) -> int:
    shoot, begun = watch.shoot, 0
    under_way = {
        job.arguments.get("file")
        for job in Job.objects.filter(shoot=shoot, kind="take-in", state__in=OPEN)
    }
    for path in growth.settled(folder_of(shoot)):
        if path.name in under_way or not growth.due(path):
            continue
        if (name := printable(path.name)) != path.name:
            _refuse(shoot, path, name)
            continue
        start(shoot.owner, "take-in", shoot, file=path.name)
        begun += 1
    return begun


def _refuse(shoot: Shoot, path: Path, name: str) -> None:
    """A name that no letters can be made of: the file is put aside under one that can be read."""
    with suppress(Refused), noting_refusals(shoot, name):
        moved(path, REFUSED, name)
        raise Refused("The file's name is not UTF-8. Rename the file and put it back.", 422)


class Watcher:
    """By a thread of one of the web processes, whichever has the lock."""

    def start(self) -> None:
        threading.Thread(target=self._serve, name="watcher", daemon=True).start()

    def _serve(self) -> None:
        growth, wait = Growth(), threading.Event()
        while True:
            wait.wait(EVERY)
            close_old_connections()
            try:
                if Watch.objects.exists() and self._is_ours():
                    look_once(growth)
            except (
                Exception
            ) as error:  # a database or a folder that is away is back sooner or later
                log.warning("watcher: %s", " ".join(str(error).split()))
                connections.close_all()

    def _is_ours(self) -> bool:
        """Held as long as the connection is."""
        with only_one("watch", keep=True) as ours:
            return ours
