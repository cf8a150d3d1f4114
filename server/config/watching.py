"""What goes on, in figures: counted as it happens, told in the open text form of Prometheus (0.0.4)."""

import logging
import threading
import time
from collections import Counter
from collections.abc import Callable
from typing import Any
from uuid import uuid4

from django.http import HttpRequest, HttpResponse

from config.logs import ANSWERS, request_id

log = logging.getLogger(ANSWERS)

STEPS = (0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0)  # seconds


class Counts:
    """Of answers, by their kind. Safe under threads."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self.answers: Counter[tuple[str, str]] = Counter()
        self.within: Counter[float] = Counter()
        self.seconds, self.number = 0.0, 0

    def note(self, method: str, status: int, seconds: float) -> None:
        with self._lock:
            self.answers[method, f"{status // 100}xx"] += 1
            self.seconds += seconds
            self.number += 1
            for step in STEPS:
                self.within[step] += seconds <= step

    def lines(self) -> list[str]:
        with self._lock:
            told = [
                f'nubilis_answers_total{{method="{m}",status="{s}"}} {n}'
                for (m, s), n in sorted(self.answers.items())
            ]
            told += [f'nubilis_answer_seconds_bucket{{le="{s}"}} {self.within[s]}' for s in STEPS]
            told += [
                f'nubilis_answer_seconds_bucket{{le="+Inf"}} {self.number}',
                f"nubilis_answer_seconds_sum {self.seconds:.3f}",
                f"nubilis_answer_seconds_count {self.number}",
            ]
        return told


counts = Counts()


def counted(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware: each answer is counted and has an id, which every line of the log about it has too."""

    def middleware(request: HttpRequest) -> Any:
        started = time.monotonic()
        known = request_id.set(uuid4().hex[:16])
        try:
            response = get_response(request)
            _note(request, response, time.monotonic() - started)
            response.headers["X-Request-Id"] = request_id.get()
            return response
        finally:
            request_id.reset(known)

    return middleware


def _note(request: HttpRequest, response: HttpResponse, seconds: float) -> None:
    method, status = str(request.method), response.status_code
    counts.note(method, status, seconds)
    route = request.resolver_match.route if request.resolver_match else ""
    told = {"method": method, "route": route, "status": status, "seconds": round(seconds, 3)}
    log.info("answered", extra=told)
