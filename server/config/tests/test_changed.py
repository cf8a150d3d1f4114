"""What the browser asks, changed: every operation answers, and none fails by itself."""

import copy
import json
import re
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from typing import Any
from urllib.parse import urlencode

from django.db import transaction

from config.errors import UNFORESEEN
from config.memory import resident
from config.tests.bodies import NAMED, bodies, body_of, operations
from config.tests.cases import ServerCase, recipe_document
from core.tests.effort import FUZZ, TIMES, chances
from fuzz.mutate import ODD, changed
from jobs.models import Job

EACH = TIMES  # questions of each operation
LONGEST = 5.0  # seconds, of an answer; only where one looks long
LEFT_OUT = re.compile(r"/(session|password|first)$")  # whoever asks would be signed out
# All that questions about a photo ask for; each takes what is its own.
ASKED = {
    "recipe": {}, "size": [120, 80], "region": [0, 0, 120, 80], "draft": False, "cast": "a",
    "at": [0.2, 0.3], "radius": 0.02, "lab": [50.0, 10.0, 10.0], "part": "b", "remedy": "n",
    "pair": "p", "to": [0.9, 0.3], "points": [[0.2, 0.3]], "casts": ["a"], "figure": "left",
    "reference": [0.9, 0.3], "tainted": [0.2, 0.3], "said": {}, "id": "m", "person": 0, "of": "skin",
}  # fmt: skip


@contextmanager
def rolled_back() -> Iterator[None]:
    with transaction.atomic():
        yield
        transaction.set_rollback(True)


class Changed(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.client.raise_request_exception = False
        self.wall = self.photo()
        body = {"revision": 0, "recipe": recipe_document()}
        self.assertEqual(self.send("put", f"/photos/{self.wall.id}/recipe", body).status_code, 200)
        self.known = bodies(self.wall.id, self.shoot.id, recipe_document(0.5))
        self.rng = chances("changed questions")
        self.asked, self.took = 0, [(0.0, "")]

    def body(self, path: str) -> Any:
        """One that is meant well, with up to three changes."""
        made: Any = copy.deepcopy(ASKED | {"recipe": recipe_document()} | body_of(path, self.known))
        for _ in range(self.rng.randrange(4)):
            with suppress(KeyError, TypeError, OverflowError):  # what it would change is gone
                made = changed(made, self.rng)
        return made

    def address(self, path: str) -> str:
        ids: dict[str, object] = {"photo_id": self.wall.id, "shoot_id": self.shoot.id, **NAMED}
        if self.rng.random() < 0.1:
            ids[self.rng.choice(list(ids))] = self.rng.choice([v for v in ODD if v != ""])
        unknown = dict.fromkeys(re.findall(r"{(\w+)}", path), 1)
        address = path.format(**unknown | ids)
        return address if "\0" not in address else path.format(**unknown)

    def test_every_operation_answers(self) -> None:
        for path, way, query in operations():
            if LEFT_OUT.search(path):
                continue
            for _ in range(EACH):
                self.ask(way, path, query)
        self.assertGreater(self.asked, 100 * EACH)
        if FUZZ:
            longest = [f"{took:.1f} s {where}" for took, where in sorted(self.took)[:-6:-1]]
            print(
                f"{self.asked} asked; {resident() / 1e9:.1f} GB now; longest: {', '.join(longest)}"
            )
            self.assertLess(max(self.took)[0], LONGEST)

    def ask(self, way: str, path: str, query: list[str]) -> None:
        address, text = self.address(path), json.dumps(self.body(path))
        if query:
            address += "?" + urlencode({q: self.rng.choice([*ODD, self.wall.id]) for q in query})
        began = time.monotonic()
        # Whatever is done is undone, so that the next question finds its photo.
        with self.subTest(f"{way} {address}"), rolled_back():
            answer: Any = self.client.generic(way.upper(), address, text, "application/json")
            told = b"".join(answer.streaming_content) if answer.streaming else answer.content
            self.assertLess(answer.status_code, 500, f"{text[:2000]}\n{told[:300]!r}")
            self.assertFalse(Job.objects.filter(error=UNFORESEEN).exists(), text[:2000])
        self.asked += 1
        self.took.append((time.monotonic() - began, f"{way} {path}"))
