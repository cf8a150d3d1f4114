"""Django's test runner, several of which share one run: each takes the next class that none has taken yet."""

import json
import os
import time
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from django.test import LiveServerTestCase, TransactionTestCase
from django.test.runner import DiscoverRunner
from django.test.utils import iter_test_cases  # type: ignore[attr-defined]

from config.garbage import look_rarely


class SharedRunner(DiscoverRunner):
    """Alone it runs everything. With NUBILIS_TEST_SHARE, a folder, it claims classes there and leaves what
    came of them beside."""

    def build_suite(self, *args: Any, **options: Any) -> unittest.TestSuite:
        suite = super().build_suite(*args, **options)
        share = os.environ.get("NUBILIS_TEST_SHARE")
        return Claiming(suite, Path(share)) if share else suite

    def run_checks(self, databases: Any) -> None:
        """The last before tests are run."""
        super().run_checks(databases)
        look_rarely()  # as the web process does


class Claiming(unittest.TestSuite):
    """The tests of a suite class by class, the slow kinds first, as far as nobody else has claimed them."""

    def __init__(self, suite: unittest.TestSuite, share: Path) -> None:
        self.share = share
        self.seconds: dict[str, float] = {}
        super().__init__(sorted(_classes(suite), key=_slowness))

    def run(self, result: unittest.TestResult, debug: bool = False) -> unittest.TestResult:
        # Groups are told that they are not the whole, or each class would be taken down twice.
        result._testRunEntered = True  # type: ignore[attr-defined]
        for tests in self:
            assert isinstance(tests, unittest.TestSuite)
            name = _name(next(iter_test_cases(tests)))
            if result.shouldStop or not self._claimed(name):
                continue
            started = time.monotonic()
            tests.run(result, debug)
            self.seconds[name] = time.monotonic() - started
        self._tearDownPreviousClass(None, result)  # type: ignore[attr-defined]
        self._handleModuleTearDown(result)  # type: ignore[attr-defined]
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        told = {"run": result.testsRun, "failed": failed, "skipped": len(result.skipped)}
        text = json.dumps(told | {"seconds": self.seconds})
        (self.share / f"{os.getpid()}.json").write_text(text)
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


def _name(test: unittest.TestCase) -> str:
    return f"{type(test).__module__}.{type(test).__qualname__}"


def _slowness(tests: unittest.TestSuite | unittest.TestCase) -> int:
    """Browsers first and the longest classes of them, so that both ends come at about the same time."""
    kind = type(next(iter_test_cases(tests)))
    if issubclass(kind, LiveServerTestCase):
        return -tests.countTestCases()
    return 1 if issubclass(kind, TransactionTestCase) else 2
