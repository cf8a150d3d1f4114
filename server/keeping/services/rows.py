"""All rows of the database as lines of JSON, and back."""

import base64
import json
from collections.abc import Iterable, Iterator
from datetime import date, datetime
from decimal import Decimal
from typing import Any

from django.db import connection

# Made anew by themselves, or of no use elsewhere: sessions end, files to be fetched are kept for a day.
LEFT_OUT = ("accounts_signedin", "delivery_delivery", "accounts_failedsignin")
MIGRATIONS = "django_migrations"
AT_ONCE = 500


def tables() -> list[str]:
    with connection.cursor() as cursor:
        names = connection.introspection.table_names(cursor)
    return sorted(n for n in names if n not in (*LEFT_OUT, MIGRATIONS))


def migrations() -> list[list[str]]:
    """What brought the database to what it is: (app, name)."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT app, name FROM {MIGRATIONS} ORDER BY app, name")
        return [list(row) for row in cursor.fetchall()]


def dumped(table: str) -> Iterator[str]:
    """A line with the columns' names, then one for each row, in the order of the first column."""
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT * FROM `{table}` ORDER BY 1")
        yield json.dumps([column[0] for column in cursor.description])
        while rows := cursor.fetchmany(AT_ONCE):
            for row in rows:
                yield json.dumps([_plain(value) for value in row])


def loaded(table: str, lines: Iterable[str]) -> int:
    """Rows put into a table; how many. Within a transaction."""
    source = iter(lines)
    columns = json.loads(next(source))
    names = ", ".join(f"`{name}`" for name in columns)
    marks = ", ".join(["%s"] * len(columns))
    statement = f"INSERT INTO `{table}` ({names}) VALUES ({marks})"
    count, batch = 0, []
    with connection.cursor() as cursor:
        for line in source:
            batch.append([_value(v) for v in json.loads(line)])
            if len(batch) == AT_ONCE:
                cursor.executemany(statement, batch)
                count, batch = count + len(batch), []
        if batch:
            cursor.executemany(statement, batch)
    return count + len(batch)


def _plain(value: Any) -> Any:
    if isinstance(value, bytes):
        return {"bytes": base64.b64encode(value).decode()}
    if isinstance(value, datetime):
        return {"time": value.isoformat()}
    if isinstance(value, date | Decimal):
        return str(value)
    return value


def _value(value: Any) -> Any:
    if isinstance(value, dict):
        if "bytes" in value:
            return base64.b64decode(value["bytes"])
        return datetime.fromisoformat(value["time"])
    return value
