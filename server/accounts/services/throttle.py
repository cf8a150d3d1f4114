"""Guessing is slowed down: by who is guessed at and by where it comes from."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.utils import timezone

from accounts.models import FailedSignIn
from config.errors import Refused

COUNTS_FOR = timedelta(minutes=15)
AHEAD = timedelta(minutes=1)
PAIR, ADDRESS, NAME = 8, 40, 100  # failures of one name from one address, of an address, of a name
# Passwords that are hashed at once, and that may wait for it: each takes a core.
HASHING, WAITING = 1, 3
WAIT = "Too many tries; please wait a quarter of an hour"
BUSY = "Many people are signing in just now; please try again"

_hashing = threading.BoundedSemaphore(HASHING)
_waiting = threading.BoundedSemaphore(HASHING + WAITING)


def check(name: str, address: str) -> None:
    """name: folded. Raises Refused (429) after too many failures."""
    now = timezone.now()
    # Not what a clock that was ahead has written: it would count for as long as that was.
    failed = FailedSignIn.objects.filter(made__range=(now - COUNTS_FOR, now + AHEAD))
    of_name, of_address = failed.filter(name=name), failed.filter(address=address)
    pair = of_name.filter(address=address)
    if any(
        rows.count() >= most
        for rows, most in ((pair, PAIR), (of_address, ADDRESS), (of_name, NAME))
    ):
        raise Refused(WAIT, 429, retry_after=int(COUNTS_FOR.total_seconds()))


def failed(name: str, address: str) -> None:
    FailedSignIn.objects.create(name=name, address=address)
    FailedSignIn.objects.filter(made__lt=timezone.now() - COUNTS_FOR).delete()


def succeeded(name: str, address: str) -> None:
    FailedSignIn.objects.filter(name=name, address=address).delete()


@contextmanager
def hashing() -> Iterator[None]:
    """One at a time, and few who wait for it: the others' pictures come first. Raises Refused (503)."""
    if not _waiting.acquire(blocking=False):
        raise Refused(BUSY, 503, retry_after=2)
    try:
        with _hashing:
            yield
    finally:
        _waiting.release()
