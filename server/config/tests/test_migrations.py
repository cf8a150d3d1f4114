"""Migrations are complete, and lead to the tables that the models describe, from which tests' tables come."""

import io
import re
from unittest.mock import patch

from django.core.management import call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase


def tables() -> dict[str, set[str]]:
    """Columns, keys and options of each of ours, in no order, without names of keys and what was counted."""
    found: dict[str, set[str]] = {}
    with connection.cursor() as cursor:
        names = connection.introspection.table_names(cursor)
        for name in (n for n in names if not n.startswith(("auth_", "django_"))):
            cursor.execute(f"show create table `{name}`")
            text = re.sub(r"AUTO_INCREMENT=\d+ ", "", cursor.fetchone()[1])
            text = re.sub(r"(KEY|CONSTRAINT) `\w+`", r"\1", text)
            found[name] = {line.strip(" ,") for line in text.split("\n")}
    return found


def execute(statement: str) -> None:
    with connection.cursor() as cursor:
        cursor.execute(statement)


class Migrations(TestCase):
    def test_none_is_missing(self) -> None:
        call_command("makemigrations", check=True, dry_run=True, stdout=io.StringIO())


class Tables(TransactionTestCase):
    def test_migrations_make_what_the_models_describe(self) -> None:
        described = tables()
        name = f"{connection.settings_dict['NAME']}_migrated"
        execute(f"create or replace database `{name}`")
        self.addCleanup(execute, f"drop database `{name}`")
        with patch.dict(connection.settings_dict, NAME=name):
            connection.close()
            call_command("migrate", verbosity=0)
            made = tables()
        connection.close()
        self.assertGreater(len(made), 20)
        for table in described.keys() | made.keys():
            with self.subTest(table):
                self.assertEqual(made.get(table), described.get(table))
