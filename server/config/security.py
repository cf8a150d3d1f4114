"""What a page may load: only what this server sends."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

# Dials and swatches are coloured by style attributes; pictures arrive as blobs.
POLICY = (
    "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that adds the policy to every answer."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response

    return middleware


def head_without_body(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: what a page says of itself, without it (RFC 9110, section 9.3.2)."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.method == "HEAD" and not response.streaming:
            response.headers["Content-Length"] = str(len(response.content))
            response.content = b""
        return response

    return middleware
