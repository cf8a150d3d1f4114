"""What a page may load and do, and who may keep an answer: said with each of them."""

import base64
import hashlib
import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_NOWHERE = ("base-uri 'none'", "frame-ancestors 'none'")
# Only what this server sends, nothing written into the page; pictures arrive as blobs.
POLICY = "; ".join(
    (
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        "font-src 'self'",
        "connect-src 'self'",
        "img-src 'self' blob: data:",
        "form-action 'self'",
        *_NOWHERE,
    )
)
# Of all that a browser could be asked for, a page of ours needs the whole screen and the clipboard.
_NOT_NEEDED = (
    "accelerometer", "autoplay", "camera", "display-capture", "geolocation", "gyroscope", "hid",
    "magnetometer", "microphone", "midi", "payment", "serial", "usb", "xr-spatial-tracking",
)  # fmt: skip
HEADERS = {
    "Content-Security-Policy": POLICY,
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": ", ".join(f"{name}=()" for name in _NOT_NEEDED),
}
# An answer about somebody's photos is nobody else's to keep, unless it says how itself.
NOT_KEPT = "no-store"


def policy_of_page(page: bytes) -> str:
    """Of a page that carries all that it needs, to be kept as a file: its own styles and pictures alone (CSP
    level 3, section 2.3.1: hashes)."""
    styles = re.findall(rb"<style>(.*?)</style>", page, re.DOTALL)
    hashes = (base64.b64encode(hashlib.sha256(s).digest()).decode() for s in styles)
    allowed = " ".join(f"'sha256-{one}'" for one in hashes) or "'none'"
    told = ("default-src 'none'", f"style-src {allowed}", "img-src data:", "font-src data:")
    return "; ".join((*told, "form-action 'none'", *_NOWHERE))


def guarded(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that adds these headers to every answer."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        for name, value in HEADERS.items():
            response.headers.setdefault(name, value)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", NOT_KEPT)
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
