"""Which requests compute, and wait for their turn."""

import re
from collections.abc import Callable, Iterable, Iterator
from contextlib import ExitStack
from typing import Any

from django.contrib.auth import SESSION_KEY
from django.http import HttpRequest

from config.answers import refused
from config.errors import Refused
from config.turns import stays, turns
from nubilis.wanted import computing_while
from studio.engines import engines

# Questions about a photo that take a core for a while; saving, the history and what is stored do not.
_QUICK = r"recipe|undo|redo|go-to|versions.*|deliveries|delivery-name|check|links|copy"
ASKED = re.compile(rf"^/api/photos/(\d+)/(?!(?:{_QUICK})/?$)[\w/-]+$")
SEEN = re.compile(r"^/api/photos/(\d+)/(whole|card|people.*)$")
LARGE = re.compile(r"/(look|proof|touches|field|colour-table|mask|report.*)$")
# Whoever draws one view again and again names it; then its newest picture is the only one that is wanted.
VIEW = "X-Nubilis-View"
HUNG_UP = "waitress.client_disconnected"  # says whether whoever asked has


def in_turn(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware: computing is done in turns, by people who are signed in."""

    def middleware(request: HttpRequest) -> Any:
        computes = (SEEN if request.method == "GET" else ASKED).match(request.path)
        if not computes or request.method not in ("GET", "POST"):
            return get_response(request)
        # Whose session it is; whether they may still ask is looked at when their turn has come.
        person = int(request.session.get(SESSION_KEY) or 0)
        if not person:
            return get_response(request)
        large = bool(LARGE.search(request.path))
        kind = "large" if large else "" if engines.is_open(int(computes[1])) else "opening"
        view = request.headers.get(VIEW, "")[:80]
        gone = request.META.get(HUNG_UP, stays)
        with ExitStack() as turn:
            try:
                turn.enter_context(turns.turn(person, large=large, view=view, kind=kind, gone=gone))
            except Refused as error:
                return refused(error)
            with computing_while(lambda: not gone()):
                response = get_response(request)
            if response.streaming:
                held = turn.pop_all()
                response.streaming_content = UntilSent(response.streaming_content, held)
        return response

    return middleware


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
