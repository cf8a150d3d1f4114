"""What a worker does when a broker wakes it."""

import logging
from typing import Any

from celery.signals import worker_ready, worker_shutting_down
from django.db import close_old_connections, connections
from kombu.exceptions import KombuError
from redis.exceptions import RedisError

from config.queue import app
from jobs.keeper import Keeper

log = logging.getLogger(__name__)
MOST_AT_ONCE = 64  # messages
PATIENCE = 0.4  # seconds
AWAY = (KombuError, RedisError, OSError)
ROUTE = app.conf.task_default_queue


def wake(count: int) -> None:
    """Say that there is work, to so many workers. Somebody waits for the answer meanwhile: a broker that is
    away, or hangs, hears it later, from a worker's keeper."""
    try:
        with app.connection_for_write(**_limits()) as connection:
            for _ in range(min(count, MOST_AT_ONCE)):
                work.apply_async(connection=connection, retry=False)
    except AWAY as error:
        log.warning("the broker is away: %s", " ".join(str(error).split()))


def _limits() -> dict[str, Any]:
    waits = {"socket_timeout": PATIENCE, "socket_connect_timeout": PATIENCE, "max_retries": 0}
    return {"connect_timeout": PATIENCE, "transport_options": waits}


def _wake_for(left: int) -> None:
    """As many messages as there is work, when some were lost or came before their time."""
    try:
        with app.connection_for_read(**_limits()) as connection:
            channel = connection.default_channel
            missing = min(left, MOST_AT_ONCE) - channel._size(ROUTE)
    except AWAY as error:
        log.warning("the broker is away: %s", " ".join(str(error).split()))
        return
    if missing > 0:
        wake(missing)


keeper = Keeper(_wake_for)


@app.task(name="jobs.work")  # type: ignore[untyped-decorator]
def work() -> None:
    """The next piece of work, whichever that is by now."""
    close_old_connections()
    try:
        keeper.work_once()
    finally:
        connections.close_all()


@worker_ready.connect  # type: ignore[untyped-decorator]
def _begin(**_: object) -> None:
    keeper.start()


@worker_shutting_down.connect  # type: ignore[untyped-decorator]
def _end(**_: object) -> None:
    keeper.stop()
