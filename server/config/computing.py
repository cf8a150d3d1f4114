"""Requests that compute wait for their turn."""

from collections.abc import Callable, Iterable, Iterator
from contextlib import AbstractContextManager, ExitStack, contextmanager
from typing import Any

from django.contrib.auth import SESSION_KEY
from django.http import HttpRequest

from config.answers import refused
from config.errors import Refused
from config.operations import computing_of
from config.turns import stays, turns
from nubilis.wanted import computing_while
from studio.engines import engines

# Whoever draws one view again and again names it; then its newest picture is the only one that is wanted.
VIEW = "X-Nubilis-View"
HUNG_UP = "waitress.client_disconnected"  # says whether whoever asked has


def in_turn(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware: what is declared to compute is done in turns, by people who are signed in."""

    def middleware(request: HttpRequest) -> Any:
        computing, match = computing_of(request)
        if computing is None or match is None or not _person(request):
            return get_response(request)
        with ExitStack() as turn:
            try:
                photo = int(match.kwargs.get("photo_id", 0))
                turn.enter_context(_turn(request, photo, large=computing.large))
            except (Refused, ValueError) as error:
                return refused(error) if isinstance(error, Refused) else get_response(request)
            with computing_while(lambda: not _gone(request)()):
                response = get_response(request)
            if response.streaming:
                held = turn.pop_all()
                response.streaming_content = UntilSent(response.streaming_content, held)
        return response

    return middleware


@contextmanager
def turn_of(request: HttpRequest, photo: int, *, large: bool = False) -> Iterator[None]:
    """A turn of whoever asks. photo: the id of the one that it is about. What only sometimes computes, since
    it is kept otherwise, asks for its turn itself. Raises Refused (503, 409)."""
    gone = _gone(request)
    with _turn(request, photo, large=large), computing_while(lambda: not gone()):
        yield


def _turn(request: HttpRequest, photo: int, *, large: bool) -> AbstractContextManager[None]:
    kind = "large" if large else "" if engines.is_open(photo) else "opening"
    view, gone = request.headers.get(VIEW, "")[:80], _gone(request)
    return turns.turn(_person(request), large=large, view=view, kind=kind, gone=gone)


def _gone(request: HttpRequest) -> Callable[[], bool]:
    gone: Callable[[], bool] = request.META.get(HUNG_UP, stays)
    return gone


def _person(request: HttpRequest) -> int:
    """Whose session it is; whether they may still ask is looked at when their turn has come."""
    return int(request.session.get(SESSION_KEY) or 0)


class UntilSent:
    """What is worked out while it is sent holds its turn so long. A generator would not give it back when the
    connection ends before the first piece was asked for."""

    def __init__(self, content: Iterable[bytes], turn: ExitStack) -> None:
        self._content, self._turn = iter(content), turn

    def __iter__(self) -> Iterator[bytes]:
        return self

    def __next__(self) -> bytes:
        try:
            return next(self._content)
        except BaseException:
            self._turn.close()
            raise

    def close(self) -> None:
        if close := getattr(self._content, "close", None):
            close()
        self._turn.close()
