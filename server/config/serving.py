"""The web server: how much of a request is read before it is known whose it is, and how long one waits.

A body is bounded by what is asked for, before it is read: pictures and photos come only from people who are
signed in, everything else is small. Connections that say nothing are closed, and there may be many of them.
"""

import re
import threading
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from typing import Any

from django.conf import settings
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import create_server
from waitress.utilities import Error, RequestEntityTooLarge

from accounts.sessions import is_of_ours
from config.health import FIGURES_TYPE, figures

THREADS = 48  # most wait for their turn to compute (config/turns.py)
CONNECTIONS = 900  # at once, with room for files below what a process may open
SILENT = 30  # seconds after which a connection that asks nothing is closed
SMALL = 4 * 2**20  # bytes of what is not a file; recipes and questions about them
UPLOAD = re.compile(
    r"^/api/(shoots/\d+/photos|photos/\d+/(mask-picture|looks?)|looks|references/.*)/?$"
)
PHOTO = re.compile(r"^/api/shoots/\d+/photos/?$")
PICTURE = 300 * 2**20  # bytes of a mask picture or a table


class Unknown(Error):  # type: ignore[misc]
    code, reason = 401, "Unauthorized"


class Parser(HTTPRequestParser):  # type: ignore[misc]
    """Looks at the head of a request before its body is read."""

    most = SMALL

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        path = str(self.path)
        if PHOTO.match(path):
            self.most = settings.PHOTO_MAX_BYTES + 2**20
        elif UPLOAD.match(path):
            self.most = PICTURE
        large = self.chunked or self.content_length > SMALL
        if self.content_length > self.most:
            self._refuse_large()
        elif large and self.most > SMALL and not _is_known(str(self.headers.get("COOKIE", ""))):
            self._refuse(Unknown("Please sign in"))

    def received(self, data: bytes) -> int:
        consumed = int(super().received(data))
        if self.chunked and self.body_bytes_received > self.most and not self.error:
            self._refuse_large()
        return consumed

    def _refuse_large(self) -> None:
        text = f"more than {self.most // 2**20} MB are not read here"
        self._refuse(RequestEntityTooLarge(text))

    def _refuse(self, error: Error) -> None:
        """What else comes on this connection is not read."""
        self.error, self.completed, self.connection_close = error, True, True
        self.body_rcv, self.content_length, self.chunked = None, 0, False


def _is_known(cookies: str) -> bool:
    """Whether they are of somebody who signed in here. All connections wait meanwhile: the database is asked
    once the body is there."""
    try:
        cookie = SimpleCookie(cookies).get(settings.SESSION_COOKIE_NAME)
    except CookieError:
        return False
    return cookie is not None and is_of_ours(cookie.value)


class Channel(HTTPChannel):  # type: ignore[misc]
    parser_class = Parser


def web_server(port: int) -> Any:
    """Ready to run. Behind our own router or somebody's front servers, their word counts on where a request
    comes from: of the addresses that were handed on, the one that the first of them saw."""
    hops = settings.HOPS + settings.ROUTED
    behind: dict[str, Any] = {}
    if hops:
        behind = {
            "trusted_proxy": "127.0.0.1" if settings.ROUTED else settings.PROXY,
            "trusted_proxy_count": hops,
            "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"},
            "clear_untrusted_proxy_headers": True,
        }
    server = create_server(
        get_wsgi_application(),
        host="127.0.0.1" if settings.ROUTED else settings.BIND,
        port=port,
        threads=THREADS,
        ident="nubilis",
        connection_limit=CONNECTIONS,
        asyncore_use_poll=True,
        channel_timeout=SILENT,
        channel_request_lookahead=1,  # or it is not heard that somebody hangs up while they are answered
        cleanup_interval=5,
        max_request_header_size=32 * 2**10,
        max_request_body_size=settings.PHOTO_MAX_BYTES + 2**20,
        **behind,
    )
    server.channel_class = Channel
    return server


def serve_figures() -> None:
    """On the port that is set for them, by a thread of its own."""
    if not settings.METRICS_PORT:
        return
    server = create_server(
        figures_alone,
        host=settings.METRICS_BIND,
        port=settings.METRICS_PORT,
        threads=2,
        ident="nubilis",
        map={},
    )
    threading.Thread(target=server.run, name="figures", daemon=True).start()


def figures_alone(environ: dict[str, Any], start_response: Callable[..., Any]) -> list[bytes]:
    """A WSGI application that tells the figures and nothing else."""
    if environ.get("PATH_INFO") != "/metrics":
        start_response("404 Not Found", [("Content-Length", "0")])
        return []
    close_old_connections()
    told = figures().encode()
    kind = ("Content-Type", FIGURES_TYPE)
    start_response("200 OK", [kind, ("Content-Length", str(len(told)))])
    return [told]
