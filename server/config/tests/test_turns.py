"""Who computes when."""

import threading
import time
import unittest
from collections.abc import Callable
from typing import Any
from unittest import mock

from django.db import connection
from django.test import override_settings

from accounts.models import User
from config.errors import Refused
from config.health import figures
from config.tests.bodies import NAMED, bodies, body_of, operations
from config.tests.cases import ServerCase, close_content, recipe_document
from config.turns import MOST_OF_ONE, MOST_WAITING, Overtaken, Turn, Turns, turns
from nubilis.engine.engine import Engine
from shoots.models import Photo
from studio.engines import engines

VIEW = {
    "recipe": recipe_document(), "size": [120, 80], "region": [0, 0, 120, 80], "at": [0.2, 0.3],
    "colour": [0.3, 0.3, 0.3], "colours": [[0.3, 0.3, 0.3]], "values": [50.0, 0.0, 0.0], "id": "m",
    "cast": "a", "part": "b", "wanted": [0.3, 0.3, 0.3], "names": "{name}", "said": {},
}  # fmt: skip
STROKE = {"size": 0.2, "feather": 0.5, "points": [[[0.2, 0.1], 1.0]]}
UNKNOWN = "00000000-0000-0000-0000-000000000000"
# What is asked of these computes nothing.
GONE = dict.fromkeys(("job_id", "delivery_id"), UNKNOWN) | dict.fromkeys(
    ("key_id", "look_id", "person_id", "preset_id", "reference_id", "session_id", "kind"), 0
)
CORRECTION = {"cast": "a", "strokes": [STROKE]}


class InTurn(unittest.TestCase):
    def setUp(self) -> None:
        self.turns = Turns(at_once=1, longest_stay=3600.0)
        self.turns._lengths[""] = 0.0  # how long turns take is a test of its own
        self.order: list[str] = []
        self.threads: list[threading.Thread] = []
        self.go_on = threading.Event()
        self.first = self.turns.turn(0)
        self.first.__enter__()

    def ask(self, name: str, person: int, **more: bool | str) -> None:
        waiting = self.turns.waiting

        def work() -> None:
            try:
                with self.turns.turn(person, **more):  # type: ignore[arg-type]
                    self.order.append(name)
            except Overtaken:
                self.order.append(f"{name} overtaken")

        thread = threading.Thread(target=work)
        thread.start()
        self.threads.append(thread)
        self.until(lambda: self.turns.waiting > waiting or more.get("view") == "again")

    def until(self, check: Callable[[], bool]) -> None:
        given_up = time.monotonic() + 120.0
        while not check():
            self.assertLess(time.monotonic(), given_up)
            time.sleep(0.001)

    def let_go(self) -> list[str]:
        self.first.__exit__(None, None, None)
        for thread in self.threads:
            thread.join()
        return self.order

    def test_people_have_turns_one_after_the_other_however_much_one_asks_for(self) -> None:
        for i in range(4):
            self.ask(f"heavy {i}", 1)
        self.ask("light", 2)
        self.assertEqual(self.let_go()[:2], ["heavy 0", "light"])
        self.assertEqual(self.order[2:], ["heavy 1", "heavy 2", "heavy 3"])

    def test_of_several_people_who_came_first_is_first(self) -> None:
        for name, person in (("early", 1), ("other", 2), ("later", 1)):
            self.ask(name, person)
        self.assertEqual(self.let_go(), ["early", "other", "later"])

    def test_small_before_large_of_one_person(self) -> None:
        self.ask("large", 1, large=True)
        self.ask("small", 1)
        self.assertEqual(self.let_go(), ["small", "large"])

    def test_the_newest_view_wins_and_what_was_overtaken_is_never_begun(self) -> None:
        self.ask("old", 1, view="again")
        self.until(lambda: self.turns.waiting == 1)
        self.ask("other", 1, view="elsewhere")
        self.ask("new", 1, view="again")
        self.until(lambda: "old overtaken" in self.order)
        self.until(lambda: self.turns.waiting == 2)
        self.assertEqual(sorted(self.let_go()), ["new", "old overtaken", "other"])

    def test_too_much_is_said_at_once(self) -> None:
        for i in range(MOST_OF_ONE):
            self.ask(f"one {i}", 1)
        started = time.monotonic()
        with self.assertRaises(Refused) as refused, self.turns.turn(1):
            pass
        self.assertEqual(refused.exception.status, 503)
        for i in range(MOST_WAITING - MOST_OF_ONE):
            self.ask(f"others {i}", 2 + i)
        with self.assertRaises(Refused), self.turns.turn(999):
            pass
        self.assertEqual(self.turns.refused, 2)
        self.assertLess(time.monotonic() - started, 60.0)
        self.assertEqual(len(self.let_go()), MOST_WAITING)

    def test_who_waits_for_too_long_is_told_and_holds_nothing(self) -> None:
        turns = Turns(at_once=1, longest_stay=0.05)
        with turns.turn(1):
            with self.assertRaises(Refused) as refused, turns.turn(2):
                pass
            self.assertEqual((refused.exception.status, turns.waiting), (503, 0))
        with turns.turn(2):
            pass

    def test_one_who_is_alone_waits_for_what_they_asked_for(self) -> None:
        turns = Turns(at_once=1, longest_stay=0.02)
        order: list[int] = []

        def work(number: int) -> None:
            with turns.turn(1, kind="opening"):
                time.sleep(0.05)
                order.append(number)

        threads = [threading.Thread(target=work, args=(i,)) for i in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual((len(order), turns.refused), (6, 0))

    def test_one_who_had_far_more_than_the_others_takes_no_core_from_them(self) -> None:
        turns = Turns(at_once=2, longest_stay=0.05)
        for person in range(2, 12):
            turns._usage.add(person, 0.1)
        turns._usage.add(1, 20.0)
        with turns.turn(2):
            with self.assertRaises(Refused), turns.turn(1):
                pass
            with turns.turn(3):
                pass
        with turns.turn(1):  # when nobody else computes
            pass

    def test_one_who_had_far_more_rests_as_long_as_they_computed(self) -> None:
        turns = Turns(at_once=2)
        for person in range(2, 12):
            turns._usage.add(person, 0.1)
        turns._usage.add(1, 20.0)
        began = time.monotonic()
        with turns.turn(1):
            time.sleep(0.2)
        with turns.turn(1):
            self.assertGreaterEqual(time.monotonic() - began, 0.4)
        with turns.turn(2):
            began = time.monotonic()
        with turns.turn(2):
            pass
        self.assertFalse(turns._resting - {1})

    def test_whoever_hangs_up_is_not_computed_for(self) -> None:
        here, begun = threading.Event(), []

        def work() -> None:
            with self.assertRaises(Overtaken), self.turns.turn(1, gone=here.is_set):
                begun.append(1)

        thread = threading.Thread(target=work)
        thread.start()
        self.until(lambda: self.turns.waiting == 1)
        here.set()
        thread.join()
        self.assertEqual((self.turns.waiting, self.turns.gone), (0, 1))
        self.let_go()
        with self.assertRaises(Overtaken), self.turns.turn(1, gone=here.is_set):
            begun.append(2)
        self.assertEqual((begun, self.turns._running), ([], []))

    def test_what_was_broken_off_says_nothing_of_how_long_it_takes(self) -> None:
        self.let_go()
        left = threading.Event()
        with self.turns.turn(1, kind="opening", gone=left.is_set):
            left.set()
        self.assertNotIn("opening", self.turns._lengths)
        with self.turns.turn(1, kind="opening"):
            pass
        self.assertIn("opening", self.turns._lengths)

    def test_nobody_waits_for_all_that_one_other_asked_for(self) -> None:
        turns = Turns(at_once=1)
        turns._waiting = [Turn(1, False, "", "slow", i) for i in range(5)]
        self.assertEqual((turns._ahead(1), turns._ahead(2)), (0.0, 1.0))
        self.let_go()

    def test_what_fails_gives_its_turn_back(self) -> None:
        self.first.__exit__(None, None, None)
        for _ in range(3):
            with self.assertRaises(ZeroDivisionError), self.turns.turn(1):
                raise ZeroDivisionError
        with self.turns.turn(2):
            pass
        self.first = self.turns.turn(0)
        self.first.__enter__()
        self.let_go()


class Computing(ServerCase):
    """Which requests wait, and what is said when they cannot."""

    def test_pictures_wait_and_saving_does_not(self) -> None:
        row = self.photo()
        view = {
            "recipe": recipe_document(), "size": [120, 80], "region": [0, 0, 120, 80],
        }  # fmt: skip
        done = turns.done
        self.assertEqual(self.send("post", f"/photos/{row.id}/picture", view).status_code, 200)
        self.assertEqual(turns.done, done + 1)
        self.send("put", f"/photos/{row.id}/recipe", {"revision": 0, "recipe": recipe_document()})
        self.assertEqual(turns.done, done + 1)
        held = [turns.turn(-1) for _ in range(turns._free)]
        for one in held:
            one.__enter__()
        try:
            turns._lengths[""] = 0.0
            many = [Turn(-2 - i, False, "", "", i) for i in range(MOST_WAITING)]
            for one in many:
                turns._queue(one)
            answer = self.send("post", f"/photos/{row.id}/picture", view)
            self.refused(answer, 503, "tried again")
            self.assertEqual(answer.headers["Retry-After"], "1")
            saved = {"revision": 1, "recipe": recipe_document(0.5)}
            answer = self.send("put", f"/photos/{row.id}/recipe", saved)
            self.assertEqual(answer.status_code, 200)
        finally:
            for turn in many:
                if turn in turns._waiting:
                    turns._waiting.remove(turn)
            for one in held:
                one.__exit__(None, None, None)

    def test_what_is_streamed_holds_its_turn_until_it_is_sent(self) -> None:
        row = self.photo()
        answer = self.send("post", f"/photos/{row.id}/look", {"recipe": recipe_document()})
        self.assertTrue(answer.streaming, answer)
        done = turns.done
        b"".join(answer.streaming_content)
        self.assertEqual(turns.done, done + 1)

    def test_who_hangs_up_before_anything_was_sent_holds_no_turn(self) -> None:
        row, done = self.photo(), turns.done
        answer = self.send("post", f"/photos/{row.id}/look", {"recipe": recipe_document()})
        close_content(answer)
        self.assertEqual(turns.done, done + 1)
        self.assertEqual(turns._running, [])

    def test_nothing_computes_without_a_turn_or_inside_a_transaction(self) -> None:
        """Every operation there is, as far as it comes with what it is asked."""
        row, other = self.photo(), self.photo(seed=8)
        self.send("put", f"/photos/{row.id}/recipe", {"revision": 0, "recipe": recipe_document()})
        batch = self.send("post", f"/shoots/{self.shoot.id}/batches",
                          {"kind": "carry", "photos": [other.id], "source": row.id}).json()  # fmt: skip
        known = bodies(row.id, self.shoot.id, recipe_document(0.5)) | {"/correct": CORRECTION}
        named = (
            NAMED
            | dict.fromkeys(GONE, UNKNOWN)
            | {"photo_id": row.id, "shoot_id": self.shoot.id, "batch_id": batch["batch"]}
        )
        depth, get, asked = (
            len(connection.savepoint_ids),
            engines.get,
            {"operations": 0, "computing": 0},
        )

        def checked(photo: Photo) -> Engine:
            self.assertTrue(turns._running, f"{way} {path} computes without a turn")
            self.assertEqual(len(connection.savepoint_ids), depth, f"{way} {path}")
            asked["computing"] += 1
            return get(photo)

        for path, way, _ in operations():
            if (
                path.endswith(("/bin", "/remove", "/move", "/photos", "/mask-picture"))
                and way != "get"
            ):
                continue
            address = path.removeprefix("/api").format(**named | self.rest_of(path, other.id))
            self.client.force_login(self.person)
            waiting = override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads")
            with waiting[0], waiting[1], mock.patch.object(engines, "get", checked):
                body = VIEW | body_of(path, known)
                answer = (
                    self.client.get(f"/api{address}")
                    if way == "get"
                    else self.send(way, address, body)
                )
                if answer.streaming:
                    b"".join(answer.streaming_content)
            asked["operations"] += answer.status_code < 400
        self.assertEqual(turns._running, [])
        self.assertGreater(asked["operations"], 60, asked)
        self.assertGreater(asked["computing"], 25, asked)

    def rest_of(self, path: str, other: int) -> dict[str, Any]:
        return {"photo_id": other} if "/batches/" in path else {}

    def test_health_and_figures(self) -> None:
        self.client.logout()
        self.assertEqual(self.client.get("/health/live").json(), {"live": True})
        self.assertEqual(self.client.get("/health/ready").json(), {"ready": True, "missing": []})
        self.assertEqual(self.client.get("/metrics").status_code, 404)
        self.client.force_login(self.person)
        self.assertEqual(self.client.get("/metrics").status_code, 404)
        owner = User.objects.create_superuser("mo", password="glue and gold leaf")
        self.client.force_login(owner)
        told = self.client.get("/metrics").content.decode()
        self.assertIn("nubilis_turns_waiting 0", told)
        self.assertRegex(told, r'nubilis_answers_total\{method="GET",status="2xx"\} \d+')
        self.assertEqual(told.splitlines()[-5:], figures().splitlines()[-5:])
