"""Whatever serves is killed again and again while people work: what was said to be done is done, once.

By hand: .venv/bin/python -m bench.kills KILLS [SEED].
"""

import io
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
from collections import Counter
from collections.abc import Callable
from http.client import HTTPException
from pathlib import Path
from typing import Any
from uuid import uuid4

import numpy as np
from PIL import Image

from launch.common import ROOT, VENV_PYTHON
from launch.database import Database, free_port
from launch.services import MANAGE, Broker, Started, WebServer, Worker
from launch.tests.client import Client

PEOPLE = 3
AWAY = (urllib.error.URLError, ConnectionError, HTTPException, TimeoutError, OSError)
_PEOPLE = """
import django; django.setup()
from accounts.models import User
from shoots.models import Shoot
for i in range({people}):
    user = User.objects.create_user(f"p{{i}}", password="hand and rod")
    print(Shoot.objects.create(owner=user, name="Kills").id)
"""
_SWEPT = """
import json, time
import django; django.setup()
from django.db.models import Count
from config.sweeping import _sweep
from delivery.models import Delivery
from jobs.models import OPEN, Job
from shoots import files
from shoots.models import Photo, Stored
from shoots.store import content_hash, original_path
from studio.models import Revision
_sweep(time.time() + 1.0)
photos = list(Photo.objects.all())
whole = [p.id for p in photos if content_hash(original_path(p.content_hash)) == p.content_hash]
print(json.dumps({
    "photos": {p.file_name: p.id for p in photos},
    "broken": [p.id for p in photos if p.id not in whole],
    "revisions": {r.key: r.photo_id for r in Revision.objects.all()},
    "rows": Revision.objects.count(),
    "halves": [str(p) for p in files.halves(time.time() + 60.0)],
    "orphans": len(files.listed("deliveries")) - Delivery.objects.count(),
    "without": sum(files.size(d.stored_as) != d.size_bytes for d in Delivery.objects.all()),
    "open": Job.objects.filter(state__in=OPEN).count(),
    "failed": list(Job.objects.filter(state="failed").values_list("kind", "error")),
    "done": dict(Job.objects.filter(parent=None, state="done").values_list("kind").annotate(n=Count("id"))),
}))
"""


class Person:
    """Works until told to stop; whatever fails for a moment is asked again, as the browser does."""

    def __init__(self, number: int, port: int, shoot: int, stopped: threading.Event) -> None:
        self.client, self.name, self.shoot = Client(port), f"p{number}", shoot
        self.rng, self.stopped = random.Random(number), stopped
        self.saved: dict[str, int] = {}
        self.uploaded: list[str] = []
        self.trouble: Counter[str] = Counter()
        self.revision: dict[int, int] = {}
        self.empty: dict[str, Any] = {}  # a recipe

    def again(self, ask: Callable[[], Any]) -> Any:
        """Until there is an answer; None when it is over before, or refused for good."""
        while not self.stopped.is_set():
            try:
                return ask()
            except urllib.error.HTTPError as error:
                if error.code < 500:
                    self.trouble[f"{error.code} {error.read()[:90]!r}"] += 1
                    return None
                self.trouble[str(error.code)] += 1
            except AWAY as error:
                self.trouble[type(error).__name__] += 1
            time.sleep(0.3)
        return None

    def work(self) -> None:
        self.again(self._sign_in)
        while not self.stopped.is_set():
            self._upload()
            for _ in range(5):
                self._save()
            self._start()

    def _sign_in(self) -> None:
        self.client.ask("GET", "/session")
        self.client.send("/session", {"name": self.name, "password": "hand and rod"})

    def _upload(self) -> None:
        out, name = io.BytesIO(), f"{uuid4().hex}.png"
        codes = np.random.default_rng(self.rng.randrange(2**31)).integers(0, 255, (160, 240, 3))
        Image.fromarray(codes.astype(np.uint8)).save(out, "PNG")
        photo = self.again(lambda: self.client.upload(self.shoot, out.getvalue(), name))
        if photo is None:
            return
        self.uploaded.append(name)
        told = self.again(lambda: self.client.ask("GET", f"/photos/{photo}/recipe"))
        if told is not None:
            self.empty, self.revision[photo] = told["recipe"], 0

    def _save(self) -> None:
        if not self.revision:
            return
        photo, key = self.rng.choice(list(self.revision)), uuid4().hex
        base = {"exposure": round(self.rng.uniform(-1.0, 1.0), 4)}
        recipe = self.empty | {"base": base}
        body = {"revision": self.revision[photo], "recipe": recipe, "key": key}
        told = self.again(lambda: self.client.send(f"/photos/{photo}/recipe", body, "PUT"))
        if told is not None:
            self.revision[photo] = told["revision"]
            self.saved[key] = photo

    def _start(self) -> None:
        some = list(self.revision)[-4:]
        order = {"file_format": "png16", "masks": None}
        for path, body in (
            (f"/shoots/{self.shoot}/look?photos={','.join(map(str, some))}", {}),
            (f"/shoots/{self.shoot}/deliveries", {"photos": some, "order": order}),
        ):
            self.again(lambda path=path, body=body: self.client.send(path, body))  # type: ignore[misc]


def main(kills: int, seed: int = 1) -> None:
    rng, hit = random.Random(seed), Counter[str]()
    with tempfile.TemporaryDirectory() as folder:
        database = Database(f"kills-{uuid4().hex[:8]}", free_port())
        broker = Broker(free_port(), Path(folder) / "redis")
        database.start()
        broker.start()
        env = database.environment() | {
            "NUBILIS_VAR": folder,
            "NUBILIS_BROKER": broker.url,
            "NUBILIS_JOBS_LOST_AFTER": "6",
            "NUBILIS_JOBS_ATTEMPTS": "99",
            "DJANGO_SETTINGS_MODULE": "config.settings",
        }
        subprocess.run([str(VENV_PYTHON), MANAGE, "migrate", "-v", "0"], env=env, check=True)
        shoots = _run(_PEOPLE.format(people=PEOPLE), env).split()
        web = WebServer(free_port(), env)
        workers = [Worker(i + 1, env, 2) for i in range(2)]
        serving: list[Started | Database] = [database, broker, web, *workers]
        for one in serving[2:]:
            one.start()
        stopped = threading.Event()
        people = [Person(i, web.port, int(s), stopped) for i, s in enumerate(shoots)]
        threads = [threading.Thread(target=p.work) for p in people]
        for thread in threads:
            thread.start()
        for _ in range(kills):
            time.sleep(rng.uniform(0.2, 2.5))
            one = rng.choice(serving)
            assert one.process is not None
            one.process.kill()
            one.process.wait()
            hit[one.name.rstrip(" 12")] += 1
            time.sleep(rng.uniform(0.0, 0.7))
            one.start()
        stopped.set()
        for thread in threads:
            thread.join()
        _calm(env)
        found = json.loads(_run(_SWEPT, env).splitlines()[-1])
        for one in reversed(serving):
            one.stop()
        shutil.rmtree(database.folder)
        _tell(hit, people, found)


def _run(code: str, env: dict[str, str]) -> str:
    path = env["PYTHONPATH"] + os.pathsep + str(ROOT)
    words = [str(VENV_PYTHON), "-c", code]
    done = subprocess.run(
        words, env=env | {"PYTHONPATH": path}, check=True, stdout=subprocess.PIPE, text=True
    )
    return done.stdout


def _calm(env: dict[str, str]) -> None:
    """Until nothing is left to do."""
    code = (
        "import django; django.setup()\nfrom jobs.models import OPEN, Job\n"
        "print(Job.objects.filter(state__in=OPEN).count())"
    )
    given_up = time.monotonic() + 900.0
    while int(_run(code, env).split()[-1]) and time.monotonic() < given_up:
        time.sleep(2.0)


def _tell(hit: Counter[str], people: list[Person], found: dict[str, Any]) -> None:
    saved = {k: p for person in people for k, p in person.saved.items()}
    uploaded = [n for person in people for n in person.uploaded]
    lost = [k for k, p in saved.items() if found["revisions"].get(k) != p]
    print(f"killed: {dict(hit)}")
    print(f"{len(saved)} saves told, {len(lost)} lost; {found['rows']} states in all")
    gone = [n for n in uploaded if n not in found["photos"]]
    print(f"{len(uploaded)} photos told, {len(gone)} lost, {len(found['broken'])} broken")
    print(f"work done: {found['done']}; still open: {found['open']}; failed: {found['failed'][:5]}")
    print(f"after one sweep: {len(found['halves'])} halves, {found['orphans']} files without rows, "
          f"{found['without']} rows without whole files")  # fmt: skip
    print("what people met:", dict(sum((p.trouble for p in people), Counter())))


if __name__ == "__main__":
    main(int(sys.argv[1]), *map(int, sys.argv[2:]))
