"""How a refusal is told."""

from django.http import JsonResponse

from config.errors import Refused, one_line


def refused(error: Refused) -> JsonResponse:
    """{"detail": one line}, with what else it says; when to ask again is a header."""
    more = dict(error.more)
    after = more.pop("retry_after", None)
    response = JsonResponse({"detail": one_line(error), **more}, status=error.status)
    if after is not None:
        response.headers["Retry-After"] = str(after)
        response._has_been_logged = True  # type: ignore[attr-defined]  # it is no failure (Django's log_response)
    return response
