"""The one HTML page."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The built front end, whatever the address: the browser reads it."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The front end is not built: run ./nubilis setup", status=503)
    response = HttpResponse(index.read_bytes())
    response.headers["Cache-Control"] = "no-cache"
    return response
