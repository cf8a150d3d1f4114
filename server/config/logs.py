"""What is written down of a process's life: one JSON object a line, kept apart from people.

A line has ids of requests and the program's own words, never who asked, from where, or what their files are
called; of an error its kind and place in the program, without the values that it was about. Whoever looks for
a fault has them too (NUBILIS_LOG_VALUES), for as long as it takes.
"""

import json
import logging
import sys
import traceback
from collections.abc import Iterator
from contextvars import ContextVar
from datetime import UTC, datetime
from itertools import islice
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[2]
ANSWERS = "nubilis.answers"  # a line for each
BYTES, KEPT = 5 * 2**20, 5  # of one file, and of those before it
# The request that is being answered.
request_id: ContextVar[str] = ContextVar("request_id", default="")
MOST_BEHIND = 5  # errors
FIGURES = ("method", "route", "status", "seconds")  # what a line may say besides


class AsJson(logging.Formatter):
    """time (UTC), level, name; text as it stands in the program, without what was filled in unless that is
    wanted."""

    def __init__(self, *, values: bool = False) -> None:
        super().__init__()
        self.values = values

    def format(self, record: logging.LogRecord) -> str:
        told: dict[str, Any] = {
            "time": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "name": record.name,
            "text": record.getMessage() if self.values else str(record.msg),
        }
        if known := request_id.get():
            told["request"] = known
        told |= {k: v for k in FIGURES if (v := getattr(record, k, None)) is not None}
        if record.exc_info and record.exc_info[1] is not None:
            told["error"] = list(islice(self._chain(record.exc_info[1]), MOST_BEHIND))
        return json.dumps(told)

    def _chain(self, error: BaseException) -> Iterator[dict[str, Any]]:
        """An error and those behind it: what kind, its number if it has one, and where."""
        now: BaseException | None = error
        while now is not None:
            told = {
                "kind": type(now).__name__,
                "number": getattr(now, "errno", None) or _number(now),
            }
            frames = traceback.extract_tb(now.__traceback__)
            told["at"] = [f"{_short(f.filename)}:{f.lineno} {f.name}" for f in frames]
            yield told | ({"says": str(now)} if self.values else {})
            now = now.__cause__ or now.__context__


def _number(error: BaseException) -> int | None:
    """As databases count theirs."""
    return next((a for a in error.args[:1] if isinstance(a, int)), None)


def _short(file: str) -> str:
    """Below the product's folder or Python's packages."""
    for root in (str(ROOT), "site-packages", f"python{sys.version_info.major}"):
        _, found, rest = file.rpartition(f"{root}/")
        if found:
            return rest
    return file.rpartition("/")[2]


class Brief(logging.Formatter):
    """For the terminal, when the rest is in a file."""

    def format(self, record: logging.LogRecord) -> str:
        text = record.getMessage().strip().partition("\n")[0]
        kind = record.exc_info[1].__class__.__name__ if record.exc_info else text
        request = f", request {known}" if (known := request_id.get()) else ""
        return f"{record.levelname.lower()} in {record.name}: {kind}{request}"


def configuration(file: str, *, values: bool) -> dict[str, Any]:
    """Of Python's logging. file: where lines go, rotated; without one, readable ones go to the terminal."""
    console: dict[str, Any] = {"class": "logging.StreamHandler", "level": "WARNING"}
    kept = {
        "class": "logging.handlers.RotatingFileHandler",
        "filename": file,
        "maxBytes": BYTES,
        "backupCount": KEPT,
        "delay": True,
        "formatter": "json",
    }
    if file and not values:
        console["formatter"] = "brief"
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {"json": {"()": AsJson, "values": values}, "brief": {"()": Brief}},
        "handlers": {"console": console, "file": kept} if file else {"console": console},
        "root": {"handlers": ["console", "file"] if file else ["console"], "level": "WARNING"},
        "loggers": {
            ANSWERS: {"level": "INFO" if file else "WARNING"},
            # A refused request is the caller's to hear, not the log's.
            "django.request": {"level": "ERROR"},
            "django.security": {"level": "ERROR"},
            "django.security.DisallowedHost": {"level": "CRITICAL"},
        },
    }
