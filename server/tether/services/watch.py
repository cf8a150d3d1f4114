"""Looks again and again at the folders of watched shoots; a file that has stopped growing is taken in."""

import logging
import threading
from dataclasses import dataclass, field
from pathlib import Path

from django.db import close_old_connections, connection, connections

from jobs.models import OPEN, Job
from jobs.services.start import start
from tether.models import Watch
from tether.services.folder import folder_of

log = logging.getLogger(__name__)
EVERY = 1.0  # seconds
STILL = 2  # looks in a row at which a file has been the same
ONE_AT_A_TIME = "nubilis.watch"  # a lock in the database, for however many processes

Seen = tuple[int, int]  # bytes, and when it was last written to


@dataclass
class Growth:
    """What was seen of files, and how often they were the same since."""

    known: dict[Path, tuple[Seen, int]] = field(default_factory=dict)

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
        for path, seen in found.items():
            before, count = self.known.get(path, (None, 0))
            self.known[path] = seen, count + 1 if before == seen else 1
        settled = [p for p in found if self.known[p][1] > STILL]
        return sorted(settled, key=lambda p: (found[p][1], p.name))


def look_once(growth: Growth) -> int:
    """Begin to take in what has settled; how many files."""
    begun = 0
    for watch in Watch.objects.select_related("shoot__owner"):
        shoot = watch.shoot
        under_way = {
            job.arguments.get("file")
            for job in Job.objects.filter(shoot=shoot, kind="take-in", state__in=OPEN)
        }
        for path in growth.settled(folder_of(shoot)):
            if path.name not in under_way:
                start(shoot.owner, "take-in", shoot, file=path.name)
                begun += 1
    return begun


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
        with connection.cursor() as cursor:
            cursor.execute("SELECT GET_LOCK(%s, 0)", [ONE_AT_A_TIME])
            return bool(cursor.fetchone() == (1,))
