"""What is written down says what went wrong and where, and nothing about whom."""

import json
import logging
import sys
from collections.abc import Callable
from unittest import mock

from django.db import IntegrityError, OperationalError
from django.test import SimpleTestCase, TransactionTestCase

from config.database import TIMES, again_when_deadlocked
from config.logs import AsJson, Brief, request_id
from config.tests.cases import ServerCase

SECRET = "/home/ida/Curtain call.png"


def failed_record() -> logging.LogRecord:
    try:
        try:
            raise OSError(28, "No space left on device", SECRET)
        except OSError as error:
            raise ValueError(SECRET) from error
    except ValueError:
        told = sys.exc_info()
    return logging.LogRecord("studio", logging.ERROR, __file__, 1, "lost %s", (SECRET,), told)


class Lines(SimpleTestCase):
    def test_an_error_is_told_by_kind_number_and_place_without_its_values(self) -> None:
        text = AsJson().format(failed_record())
        self.assertNotIn("Curtain", text)
        line = json.loads(text)
        self.assertEqual(
            (line["level"], line["name"], line["text"]), ("error", "studio", "lost %s")
        )
        self.assertEqual([e["kind"] for e in line["error"]], ["ValueError", "OSError"])
        self.assertEqual(line["error"][1]["number"], 28)
        self.assertRegex(
            line["error"][0]["at"][0], r"^server/config/tests/test_logs\.py:\d+ failed"
        )

    def test_whoever_looks_for_a_fault_sees_the_values(self) -> None:
        line = json.loads(AsJson(values=True).format(failed_record()))
        self.assertEqual(line["text"], f"lost {SECRET}")
        self.assertEqual(line["error"][0]["says"], SECRET)

    def test_the_terminal_is_told_where_to_look(self) -> None:
        known = request_id.set("abc")
        self.addCleanup(request_id.reset, known)
        self.assertEqual(
            Brief().format(failed_record()), "error in studio: ValueError, request abc"
        )


class Unforeseen(ServerCase):
    """Something below a view fails as nobody thought of."""

    def failing(self, error: Exception) -> tuple[int, dict[str, str], str, str]:
        self.client.raise_request_exception = False
        with (
            mock.patch("shoots.api.seen_shoot", side_effect=error),
            self.assertLogs("django.request", "ERROR"),
        ):
            answer = self.client.get(f"/api/shoots/{self.shoot.id}")
        return (
            answer.status_code,
            answer.json(),
            answer["X-Request-Id"],
            answer.get("Retry-After", ""),
        )

    def test_it_is_one_line_with_the_request_s_number(self) -> None:
        status, told, number, _ = self.failing(RuntimeError(SECRET))
        self.assertEqual(status, 500)
        self.assertIn(number, told["detail"])
        self.assertNotIn("Curtain", told["detail"])

    def test_a_database_that_is_away_is_asked_again(self) -> None:
        for number in (2006, 2013, 1205, 1213):
            status, told, _, after = self.failing(OperationalError(number, SECRET))
            self.assertEqual((status, after), (503, "2"))
            self.assertIn("away for a moment", told["detail"])
        self.assertEqual(self.failing(IntegrityError(1062, SECRET))[0], 500)

    def test_each_answer_has_a_line_with_its_route_alone(self) -> None:
        with self.assertLogs("nubilis.answers", "INFO") as logged:
            answer = self.client.get(f"/api/shoots/{self.shoot.id}?name=ida")
        (record,) = logged.records
        line = AsJson().format(record)
        self.assertNotIn("ida", line)
        told = json.loads(line)
        self.assertEqual((told["method"], told["status"]), ("GET", 200))
        self.assertEqual(told["route"], "api/shoots/<shoot_id>")
        other = self.client.get("/api/session")
        self.assertNotEqual(answer["X-Request-Id"], other["X-Request-Id"])


class Deadlocks(TransactionTestCase):
    def times(self, failures: int, error: Exception) -> tuple[int, Callable[[], int]]:
        work = mock.Mock(side_effect=[error] * failures + [7], __name__="work")
        return work, again_when_deadlocked(work)

    def test_what_was_ended_for_another_s_sake_is_begun_again(self) -> None:
        work, tried = self.times(3, OperationalError(1213, "Deadlock found"))
        self.assertEqual(tried(), 7)
        self.assertEqual(work.call_count, 4)

    def test_not_for_ever_and_not_for_other_errors(self) -> None:
        work, tried = self.times(TIMES, OperationalError(1213, "Deadlock found"))
        self.assertRaises(OperationalError, tried)
        self.assertEqual(work.call_count, TIMES)
        work, tried = self.times(1, OperationalError(2006, "gone"))
        self.assertRaises(OperationalError, tried)
        self.assertEqual(work.call_count, 1)
