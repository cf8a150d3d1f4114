"""Whether what is computed is still wanted: whoever asked may have gone meanwhile.

It is asked before every step whose result is kept (cache.py), on the thread that was asked; what was made
until then stays, for whoever asks next.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_wanted: ContextVar[Callable[[], bool] | None] = ContextVar("wanted", default=None)


class Unwanted(Exception):
    """Nobody waits for this any more."""


@contextmanager
def computing_while(wanted: Callable[[], bool]) -> Iterator[None]:
    """What this thread computes inside ends with Unwanted at its next step once it is not wanted any more."""
    before = _wanted.set(wanted)
    try:
        yield
    finally:
        _wanted.reset(before)


def check_wanted() -> None:
    """Raises Unwanted."""
    wanted = _wanted.get()
    if wanted is not None and not wanted():
        raise Unwanted
