"""A database that is away for a moment, or that ended one transaction so that another could go on."""

import logging
import random
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import DatabaseError, IntegrityError, InterfaceError, OperationalError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse

from config.errors import UNFORESEEN, is_disk_full, told_of_disk
from config.logs import request_id

log = logging.getLogger(__name__)
P = ParamSpec("P")
T = TypeVar("T")
# MariaDB's numbers. Ended for another's sake: a deadlock, a lock that was waited for too long.
ENDED = (1213, 1205)
# Not to be reached: full, ending, connection killed, no server, no answer any more.
AWAY = (1040, 1053, 1927, 2002, 2003, 2006, 2013)
LOST = 1452  # a row that another is to belong to
Contradiction: type[Exception] = IntegrityError
Trouble: type[Exception] = DatabaseError
TIMES = 8
PAUSE = 0.02  # seconds, at most, before the first new try; twice as long each time
RETRY = 2  # seconds
TOLD_AWAY = "The database is away for a moment; what was not confirmed was not stored"


def again_when_deadlocked(work: Callable[P, T]) -> Callable[P, T]:
    """For a function that is one transaction of its own."""

    @wraps(work)
    def tried(*args: P.args, **more: P.kwargs) -> T:
        pause = PAUSE
        for left in range(TIMES - 1, -1, -1):
            try:
                return work(*args, **more)
            except OperationalError as error:
                if not _is(error, ENDED) or not left or connection.in_atomic_block:
                    raise
                time.sleep(random.uniform(0.0, pause))
                pause *= 2.0
        raise AssertionError("unreachable")

    return tried


def is_away(error: BaseException | None) -> bool:
    """Whether asking again later may help."""
    return isinstance(error, InterfaceError) or _is(error, (*ENDED, *AWAY))


def has_lost_its_row(error: Exception) -> bool:
    """What was to be added to went for good meanwhile."""
    return isinstance(error, Contradiction) and bool(error.args) and error.args[0] == LOST


@contextmanager
def only_one(what: str, *, keep: bool = False) -> Iterator[bool]:
    """Whether nobody else is at it, of however many processes on this database: the server's locks are all
    databases' together. keep: it stays this connection's afterwards."""
    name = f"{connection.settings_dict['NAME']}.{what}"[-64:]
    with connection.cursor() as cursor:
        cursor.execute("SELECT GET_LOCK(%s, 0)", [name])
        ours = cursor.fetchone() == (1,)
    try:
        yield ours
    finally:
        if ours and not keep:
            with connection.cursor() as cursor:
                cursor.execute("SELECT RELEASE_LOCK(%s)", [name])


@contextmanager
def if_there_is_room() -> Iterator[None]:
    """For what is written down only so that it need not be computed again: reading goes on without it."""
    try:
        yield
    except DatabaseError as error:
        if not is_disk_full(error):
            raise
        log.warning("not kept: the database's disk is full")


def _is(error: BaseException | None, numbers: tuple[int, ...]) -> bool:
    return isinstance(error, OperationalError) and bool(error.args) and error.args[0] in numbers


def unforeseen(request: HttpRequest) -> HttpResponse:
    """Django's handler of errors that nobody told: one line, and whether to ask again."""
    if is_away(sys.exc_info()[1]):
        return JsonResponse({"detail": TOLD_AWAY}, status=503, headers={"Retry-After": str(RETRY)})
    if (error := sys.exc_info()[1]) is not None and (full := told_of_disk(error)):
        return JsonResponse({"detail": full}, status=507)
    told = f"{UNFORESEEN} (request {request_id.get()})"
    return JsonResponse({"detail": told}, status=500)
