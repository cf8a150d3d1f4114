"""Django's test runner, several of which share one run: each takes the next class that none has taken yet."""

import json
import os
import time
import unittest
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import PBKDF2PasswordHasher
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder
from django.test import LiveServerTestCase, TransactionTestCase
from django.test.runner import DiscoverRunner
from django.test.utils import iter_test_cases  # type: ignore[attr-defined]

from config.garbage import look_rarely


class Timed(unittest.TextTestResult):
    """Keeps the seconds of every test."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.seconds: dict[str, float] = {}

    def startTest(self, test: unittest.TestCase) -> None:
        super().startTest(test)
        self._started = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:
        self.seconds[test.id()] = time.monotonic() - self._started
        super().stopTest(test)


class Quick(PBKDF2PasswordHasher):
    """As the product hashes, in one round."""

    iterations = 1


class SharedRunner(DiscoverRunner):
    """Alone it runs everything. With NUBILIS_TEST_SHARE, a folder, it claims classes there, the longest of
    last time first (NUBILIS_TEST_SECONDS, a JSON file), and leaves what came of them beside."""

    def build_suite(self, *args: Any, **options: Any) -> unittest.TestSuite:
        suite = super().build_suite(*args, **options)
        share = os.environ.get("NUBILIS_TEST_SHARE")
        return Claiming(suite, Path(share), _last_time()) if share else suite

    def setup_test_environment(self, **options: Any) -> None:
        """How slowly a password is tried is Django's own to test; a server beside the tests knows it too."""
        super().setup_test_environment(**options)
        settings.PASSWORD_HASHERS = ["config.runner.Quick"]

    def setup_databases(self, **options: Any) -> Any:
        """Says of the tables that all migrations led to them, as a backup asks."""
        made = super().setup_databases(**options)
        if made:
            recorder = MigrationRecorder(connection)
            recorder.ensure_schema()
            for app, name in MigrationLoader(None).disk_migrations:
                recorder.record_applied(app, name)
        return made

    def run_checks(self, databases: Any) -> None:
        """The last before tests are run."""
        super().run_checks(databases)
        look_rarely()  # as the web process does

    def get_resultclass(self) -> type[unittest.TextTestResult]:
        return super().get_resultclass() or Timed


class Claiming(unittest.TestSuite):
    """The tests of a suite class by class, the longest first, as far as nobody else has claimed them."""

    def __init__(
        self, suite: unittest.TestSuite, share: Path, last_time: Mapping[str, float]
    ) -> None:
        self.share = share
        self.seconds: dict[str, float] = {}
        super().__init__(sorted(_classes(suite), key=lambda tests: -_expected(tests, last_time)))

    def run(self, result: unittest.TestResult, debug: bool = False) -> unittest.TestResult:
        # Groups are told that they are not the whole, or each class would be taken down twice.
        result._testRunEntered = True  # type: ignore[attr-defined]
        for tests in self:
            assert isinstance(tests, unittest.TestSuite)
            name = _name(tests)
            if result.shouldStop or not self._claimed(name):
                continue
            started = time.monotonic()
            tests.run(result, debug)
            self.seconds[name] = time.monotonic() - started
        self._tearDownPreviousClass(None, result)  # type: ignore[attr-defined]
        self._handleModuleTearDown(result)  # type: ignore[attr-defined]
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        told = {"run": result.testsRun, "failed": failed, "skipped": len(result.skipped)}
        seconds = {"classes": self.seconds, "tests": getattr(result, "seconds", {})}
        (self.share / f"{os.getpid()}.json").write_text(json.dumps(told | seconds))
        return result

    def _claimed(self, name: str) -> bool:
        try:
            os.close(os.open(self.share / name, os.O_CREAT | os.O_EXCL))
        except FileExistsError:
            return False
        return True


def _classes(suite: unittest.TestSuite) -> Iterator[unittest.TestSuite]:
    by_class: dict[type, list[unittest.TestCase]] = {}
    for test in iter_test_cases(suite):
        by_class.setdefault(type(test), []).append(test)
    return (unittest.TestSuite(tests) for tests in by_class.values())


def _name(tests: unittest.TestSuite | unittest.TestCase) -> str:
    kind = type(next(iter_test_cases(tests)))
    return f"{kind.__module__}.{kind.__qualname__}"


def _last_time() -> dict[str, float]:
    """Seconds of classes."""
    path = os.environ.get("NUBILIS_TEST_SECONDS")
    if not path or not Path(path).is_file():
        return {}
    return dict(json.loads(Path(path).read_text())["classes"])


def _expected(
    tests: unittest.TestSuite | unittest.TestCase, last_time: Mapping[str, float]
) -> float:
    """Seconds; of a class that was never run a guess by its kind."""
    kind, count = type(next(iter_test_cases(tests))), tests.countTestCases()
    if issubclass(kind, LiveServerTestCase):
        guess = 8.0 * count
    else:
        guess = (1.0 if issubclass(kind, TransactionTestCase) else 0.3) * count
    return last_time.get(_name(tests), guess)
