"""What is left over is swept away: at start, and by the clock."""

import logging
import threading
import time

from django.db import close_old_connections, connections

from accounts.sessions import SessionStore
from batches.services.take import forget_old as forget_old_batches
from config.database import only_one
from delivery.services.deliver import sweep_deliveries
from jobs.services import start as jobs
from shoots import files
from shoots.services.bin import empty_old
from shoots.store import sweep

log = logging.getLogger(__name__)
EVERY = 3600.0  # seconds
OLD = 6 * 3600.0  # what was half written so long ago, nobody is writing any more


def sweep_at_start() -> None:
    """Of the only process: what was under way is not any more, and nobody is writing."""
    jobs.after_a_stop()
    _sweep(time.time())


def sweep_all() -> None:
    """While others may be at work."""
    with only_one("sweep") as ours:
        if ours:
            _sweep(time.time() - OLD)


def _sweep(older_than: float) -> None:
    files.forget_halves(older_than)
    empty_old()
    sweep()
    sweep_deliveries(older_than)
    forget_old_batches()
    jobs.forget_old()
    SessionStore.clear_expired()


class Sweeper:
    """By the clock, as long as its process runs."""

    def start(self) -> None:
        threading.Thread(target=self._serve, name="sweeper", daemon=True).start()

    def _serve(self) -> None:
        while True:
            time.sleep(EVERY)
            close_old_connections()
            try:
                sweep_all()
            except Exception:  # a database that is away; the next time comes
                log.exception("sweep")
            finally:
                connections.close_all()
