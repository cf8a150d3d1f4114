"""The database's clock: the one that all processes share, on however many machines."""

from datetime import UTC, datetime

from django.db import connection


def now() -> datetime:
    with connection.cursor() as cursor:
        cursor.execute("SELECT UTC_TIMESTAMP(6)")
        (told,) = cursor.fetchone()
    assert isinstance(told, datetime)
    return told.replace(tzinfo=UTC)
