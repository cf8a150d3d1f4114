"""Whether this process lives and can serve; figures for whoever watches over it."""

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse

from config.memory import budget, resident
from config.turns import turns
from config.watching import counts
from jobs.models import Job
from shoots import files
from studio.engines import engines

FIGURES_TYPE = "text/plain; version=0.0.4"


def live(request: HttpRequest) -> HttpResponse:
    return JsonResponse({"live": True})


def ready(request: HttpRequest) -> HttpResponse:
    """503 with what is missing, in a word each."""
    missing = []
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        missing.append("database")
    try:
        files.size("health/none")
    except Exception:  # whatever a store that is away raises
        missing.append("store")
    return JsonResponse({"ready": not missing, "missing": missing}, status=503 if missing else 200)


def metrics(request: HttpRequest) -> HttpResponse:
    """To whoever may see everything; others ask on the port for figures."""
    if not getattr(request.user, "is_superuser", False):
        return HttpResponse(status=404)
    return HttpResponse(figures(), content_type=FIGURES_TYPE)


def figures() -> str:
    """Of this process, in the open text form of Prometheus."""
    lines = [
        *counts.lines(),
        f"nubilis_turns_waiting {turns.waiting}",
        f"nubilis_turns_done_total {turns.done}",
        f"nubilis_turns_refused_total {turns.refused}",
        f"nubilis_turns_overtaken_total {turns.overtaken}",
        f"nubilis_turns_gone_total {turns.gone}",
        f"nubilis_engines_bytes {engines.held_bytes}",
        f"nubilis_resident_bytes {resident()}",
        f"nubilis_budget_bytes {budget()}",
        *(
            f'nubilis_jobs{{state="{s}"}} {Job.objects.filter(state=s).count()}'
            for s in Job.State.values
        ),
    ]
    return "\n".join(lines) + "\n"
