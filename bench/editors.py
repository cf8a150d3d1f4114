"""Many people at work on one web process, each on a photo of their own: how long a picture and a save take.

By hand: .venv/bin/python -m bench.editors EDITORS LARGE SECONDS [HEAVY]. LARGE photos have 24 megapixels,
the others 1.5; HEAVY: connections of one person that ask for pictures without a pause.
"""

import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from launch.common import ROOT, VENV_PYTHON, end_with_parent
from launch.database import Database, free_port
from launch.services import MANAGE

TOKEN = "a" * 32
_PEOPLE = """
import json
import django; django.setup()
from pathlib import Path
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from accounts.sessions import SessionStore
from accounts.models import User
from bench.workload import large_photo, three_casts
from nubilis.photo.write import write_photo
from shoots.models import Shoot
from shoots.services.add_photo import add_photo
large, small = large_photo(6000, 4000), large_photo(1500, 1000)
found = []
for i in range({editors}):
    user = User(username=f"e{{i}}"); user.set_unusable_password(); user.save()
    shoot = Shoot.objects.create(owner=user, name="Bench")
    photo = large if i < {large} else small
    photo.codes[0, i] = i
    path = Path("{folder}") / f"{{i}}.jpg"
    write_photo(path, photo, "jpeg")
    row, _ = add_photo(shoot, path, path.name)
    store = SessionStore()
    store[SESSION_KEY], store[HASH_SESSION_KEY] = str(user.pk), user.get_session_auth_hash()
    store[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
    store.create()
    found.append((store.session_key, row.id))
print(json.dumps([found, json.loads(three_casts(small).model_dump_json())]))
"""


@dataclass
class Told:
    pictures: list[float] = field(default_factory=list)
    saves: list[float] = field(default_factory=list)
    busy: list[float] = field(default_factory=list)
    errors: list[object] = field(default_factory=list)
    peak: float = 0.0


@dataclass
class Load:
    port: int
    people: Sequence[tuple[str, int]]
    recipe: dict[str, Any]
    until: float
    revisions: dict[int, int]  # by photo, as they were saved
    told: Told = field(default_factory=Told)

    def ask(self, session: str, method: str, path: str, body: object) -> tuple[object, float]:
        headers = {
            "Content-Type": "application/json",
            "Cookie": f"sessionid={session}; csrftoken={TOKEN}",
            "X-CSRFToken": TOKEN,
        }
        request = urllib.request.Request(
            f"http://127.0.0.1:{self.port}/api{path}",
            json.dumps(body).encode(),
            headers,
            method=method,
        )
        started = time.monotonic()
        try:
            with urllib.request.urlopen(request, timeout=120) as answer:
                answer.read()
                return 200, time.monotonic() - started
        except urllib.error.HTTPError as error:
            error.read()
            return error.code, time.monotonic() - started
        except OSError as error:
            return repr(error), time.monotonic() - started

    def view(self, amount: float) -> dict[str, Any]:
        recipe = json.loads(json.dumps(self.recipe))
        recipe["casts"][-1]["remedies"][0]["amount"] = round(amount, 3)
        return {"recipe": recipe, "size": [1500, 1000], "region": [0, 0, 1500, 1000], "draft": True}

    def editor(self, number: int) -> None:
        """Moves a handle four times and saves, with pauses as a person makes."""
        (session, photo), rng = self.people[number], random.Random(number)
        revision = self.revisions.get(photo, 0)
        time.sleep(rng.uniform(0.0, 3.0))
        while time.monotonic() < self.until:
            for _ in range(4):
                asked = self.view(rng.uniform(0.3, 1.2))
                status, took = self.ask(session, "POST", f"/photos/{photo}/picture", asked)
                into = {200: self.told.pictures, 503: self.told.busy}.get(status)  # type: ignore[call-overload]
                (self.told.errors if into is None else into).append(
                    took if into is not None else status
                )
                time.sleep(rng.uniform(0.5, 1.5) if status == 200 else 1.0)
            body = {"revision": revision, "recipe": asked["recipe"]}
            status, took = self.ask(session, "PUT", f"/photos/{photo}/recipe", body)
            if status == 200:
                revision = self.revisions[photo] = revision + 1
                self.told.saves.append(took)
            else:
                self.told.errors.append(status)

    def hog(self) -> None:
        session, photo = self.people[0]
        while time.monotonic() < self.until:
            self.ask(session, "POST", f"/photos/{photo}/picture", self.view(1.0))


def main(editors: int, large: int, seconds: float, heavy: int = 0) -> None:
    with tempfile.TemporaryDirectory() as folder:
        database = Database("bench-mariadb", free_port())
        shutil.rmtree(database.folder, ignore_errors=True)
        database.start()
        env = database.environment() | {"NUBILIS_VAR": folder}
        env["PYTHONPATH"] += os.pathsep + str(ROOT)
        env["DJANGO_SETTINGS_MODULE"] = "config.settings"
        try:
            subprocess.run([str(VENV_PYTHON), MANAGE, "migrate", "-v", "0"], env=env, check=True)
            code = _PEOPLE.format(editors=editors, large=large, folder=folder)
            made = subprocess.run(
                [str(VENV_PYTHON), "-c", code],
                env=env,
                check=True,
                stdout=subprocess.PIPE,
                text=True,
            )
            people, recipe = json.loads(made.stdout.splitlines()[-1])
            port = free_port()
            web = subprocess.Popen(
                [str(VENV_PYTHON), MANAGE, "web", "--port", str(port)], env=env, text=True,
                stdout=subprocess.PIPE, preexec_fn=end_with_parent,  # noqa: PLW1509
            )  # fmt: skip
            assert web.stdout is not None
            web.stdout.readline()
            revisions: dict[int, int] = {}
            # With a heavy one, whose photo is the first: before that without, once all photos are open.
            numbers = range(1 if heavy else 0, editors)
            for hogs in (0, 0, heavy) if heavy else (0,):
                until = time.monotonic() + seconds
                _run(Load(port, people, recipe, until, revisions), numbers, hogs, web.pid)
            web.terminate()
            web.wait()
        finally:
            database.stop()


def _run(load: Load, editors: Sequence[int], heavy: int, pid: int) -> None:
    threads = [threading.Thread(target=load.editor, args=(i,)) for i in editors]
    threads += [threading.Thread(target=load.hog) for _ in range(heavy)]
    for thread in threads:
        thread.start()
    told = load.told
    while any(thread.is_alive() for thread in threads):
        lines = Path(f"/proc/{pid}/status").read_text().splitlines()
        (resident,) = (int(v.split()[1]) for v in lines if v.startswith("VmRSS"))
        told.peak = max(told.peak, resident / 1e6)
        time.sleep(0.5)
    who = f"{len(editors)} editors" + (f", and {heavy} connections of one more" if heavy else "")
    print(
        f"{who}: {len(told.pictures)} pictures, median {_at(told.pictures, 0.5)}, "
        f"p95 {_at(told.pictures, 0.95)}; {len(told.busy)} told busy within {_at(told.busy, 0.95)} "
        f"(p95); {len(told.saves)} saves, p95 {_at(told.saves, 0.95)}; {len(told.errors)} errors; "
        f"{told.peak:.1f} GB at most",
        flush=True,
    )


def _at(values: Sequence[float], share: float) -> str:
    return f"{sorted(values)[int(share * (len(values) - 1))]:.2f} s" if values else "none"


if __name__ == "__main__":
    main(int(sys.argv[1]), int(sys.argv[2]), float(sys.argv[3]), *map(int, sys.argv[4:]))
