"""Files that are sent: under what name, and from where on."""

import re
from collections.abc import Callable, Iterator

from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse
from django.utils.http import content_disposition_header

_RANGE = re.compile(r"bytes=(\d*)-(\d*)")


def named(response: HttpResponseBase, name: str) -> None:
    """The browser keeps the answer under this name (RFC 6266; RFC 8187 for what is not ASCII)."""
    response.headers["Content-Disposition"] = content_disposition_header(True, name) or ""


def sent(
    request: HttpRequest, size: int, pieces: Callable[[int, int], Iterator[bytes]], mark: str
) -> HttpResponseBase:
    """A file of so many bytes, or the part of it that is asked for (RFC 9110, section 14). pieces: from one
    place up to another; mark: the same as long as the file is, so that a download can be gone on with."""
    start, stop = _asked(request, size, mark)
    if start >= stop and size:
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    whole = (start, stop) == (0, size)
    response = StreamingHttpResponse(pieces(start, stop), status=200 if whole else 206)
    response.headers["Accept-Ranges"] = "bytes"
    response.headers["ETag"] = f'"{mark}"'
    response.headers["Content-Length"] = str(stop - start)
    if not whole:
        response.headers["Content-Range"] = f"bytes {start}-{stop - 1}/{size}"
    return response


def _asked(request: HttpRequest, size: int, mark: str) -> tuple[int, int]:
    """From where, up to where. Several parts at once are answered by the whole, as is what is gone on with
    after the file became another."""
    found = _RANGE.fullmatch(request.headers.get("Range", "").strip())
    known = request.headers.get("If-Range")
    if found is None or found.groups() == ("", "") or known not in (None, f'"{mark}"'):
        return 0, size
    first, last = found.groups()
    if not first:
        return max(size - int(last), 0), size
    if last and int(last) < int(first):
        return 0, size
    return int(first), min(int(last) + 1, size) if last else size
