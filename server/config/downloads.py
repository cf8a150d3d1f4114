"""Names of files that are sent, in whatever letters."""

from django.http import HttpResponseBase
from django.utils.http import content_disposition_header


def named(response: HttpResponseBase, name: str) -> None:
    """The browser keeps the answer under this name (RFC 6266; RFC 8187 for what is not ASCII)."""
    response.headers["Content-Disposition"] = content_disposition_header(True, name) or ""
