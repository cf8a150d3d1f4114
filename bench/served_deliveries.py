"""Photos a minute that are delivered by one and two workers, with one and two pieces of work at once each.

Needs what serving needs (./nubilis serve --workers 1 once): run by hand, python -m bench.served_deliveries.
"""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from launch.common import ROOT, VENV_PYTHON, end_with_parent
from launch.database import Database, free_port
from launch.services import MANAGE, Broker

PHOTOS = 24
SIDE = (6000, 4000)

_BEGIN = """
import time, django; django.setup()
from pathlib import Path
from accounts.models import User
from bench.workload import large_photo, three_casts
from delivery.services.deliver import start_delivering
from delivery.services.order import Order
from jobs.models import Job
from nubilis.photo.write import write_photo
from shoots.models import Shoot
from shoots.services.add_photo import add_photo
from studio.services.save_recipe import save_recipe
user = User.objects.create_user("bench", password="x")
shoot = Shoot.objects.create(owner=user, name="Bench")
photo = large_photo(*{side})
recipe = three_casts(photo)
rows = []
for i in range({count}):
    photo.codes[0, i] = i
    path = Path("{folder}") / f"{{i}}.jpg"
    write_photo(path, photo, "jpeg")
    row, _ = add_photo(shoot, path, path.name)
    save_recipe(row, 0, recipe, user)
    rows.append(row)
print("ready", flush=True)
for line in iter(input, "end"):
    started = time.monotonic()
    job = start_delivering(user, shoot, rows, Order(file_format="jpeg", quality=94 if line == "x" else 95))
    while not Job.objects.get(id=job.id).over:
        time.sleep(0.05)
    told = Job.objects.get(id=job.id)
    assert told.state == "done" and not told.troubles, (told.state, told.troubles)
    print(60.0 * {count} / (time.monotonic() - started), flush=True)
"""


def main() -> int:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        database = Database("bench-mariadb", free_port())
        broker = Broker(free_port(), folder / "redis")
        database.start()
        broker.start()
        env = database.environment() | {"NUBILIS_BROKER": broker.url, "NUBILIS_VAR": name}
        env["PYTHONPATH"] += os.pathsep + str(ROOT)
        env["DJANGO_SETTINGS_MODULE"] = "config.settings"
        try:
            subprocess.run([str(VENV_PYTHON), MANAGE, "migrate", "-v", "0"], env=env, check=True)
            _measure(env, name)
        finally:
            broker.stop()
            database.stop()
    return 0


def _measure(env: dict[str, str], folder: str) -> None:
    code = _BEGIN.format(side=SIDE, count=PHOTOS, folder=folder)
    asker = subprocess.Popen(
        [str(VENV_PYTHON), "-c", code], env=env, text=True, stdin=subprocess.PIPE,
        stdout=subprocess.PIPE, preexec_fn=end_with_parent,  # noqa: PLW1509
    )  # fmt: skip
    assert asker.stdin is not None and asker.stdout is not None
    print(asker.stdout.readline().strip(), file=sys.stderr)
    print("| workers | at once | threads of kernels | photos a minute |\n|---|---|---|---|")
    for workers, at_once, threads in (
        (1, 1, 2),
        (1, 2, 2),
        (1, 1, 1),
        (2, 1, 2),
        (2, 1, 1),
        (1, 2, 1),
    ):
        told = env | {"NUBILIS_CORES": str(threads)}
        running = [_worker(told, i, at_once) for i in range(workers)]
        time.sleep(8.0)
        asker.stdin.write("y\n")
        asker.stdin.flush()
        pace = float(asker.stdout.readline())
        print(f"| {workers} | {at_once} | {threads} | {pace:.0f} |", flush=True)
        for worker in running:
            worker.kill()
            worker.wait()
    asker.stdin.write("end\n")
    asker.stdin.flush()
    asker.wait()


def _worker(env: dict[str, str], number: int, at_once: int) -> "subprocess.Popen[bytes]":
    words = ["worker", "--number", str(number), "--at-once", str(at_once)]
    command = [str(VENV_PYTHON), MANAGE, *words]
    return subprocess.Popen(command, env=env, preexec_fn=end_with_parent)  # noqa: PLW1509


if __name__ == "__main__":
    sys.exit(main())
