"""Every operation of the API, asked what its own description allows and what it does not: none fails by
itself."""

import os
import shutil
import subprocess
from pathlib import Path

from django.conf import settings
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.test import LiveServerTestCase

from accounts.models import User
from accounts.sessions import SessionStore
from config.memory import resident
from config.tests.cases import glowing_wall, own_storage, png_bytes
from core.tests.effort import FUZZ, TIMES, long_tier
from jobs.models import OPEN, Job
from jobs.runner import threads
from launch.common import VENV_PYTHON
from shoots.models import Shoot
from shoots.services.add_photo import add_photo

EXAMPLES = TIMES  # of each operation
LONGEST = 5  # seconds, of an answer
TOKEN = "a" * 32


@long_tier
class Fuzzed(LiveServerTestCase):
    available_apps = list(settings.INSTALLED_APPS)

    def setUp(self) -> None:
        storage = own_storage()
        storage.enable()
        self.addCleanup(storage.disable)
        folder = Path(settings.ORIGINALS).parent
        self.addCleanup(shutil.rmtree, folder, ignore_errors=True)
        person = User.objects.create_user("ida", password="hand and rod")
        shoot = Shoot.objects.create(owner=person, name="Rehearsal")
        path = folder / "wall.png"
        path.write_bytes(png_bytes(glowing_wall()))
        add_photo(shoot, path, "wall.png")
        store = SessionStore()
        store[SESSION_KEY] = str(person.pk)
        store[BACKEND_SESSION_KEY] = "django.contrib.auth.backends.ModelBackend"
        store[HASH_SESSION_KEY] = person.get_session_auth_hash()
        store.create()
        self.session = store.session_key
        self.folder = folder
        self.addCleanup(self.end_work)

    def end_work(self) -> None:
        Job.objects.filter(state__in=OPEN).update(cancelled=True)
        threads.stop()

    def test_no_operation_fails_by_itself(self) -> None:
        # From a file: who asks a busy server for it waits ten seconds, and no option says longer.
        described = self.folder / "openapi.json"
        described.write_bytes(self.client.get("/api/openapi.json").content)
        words = ["run", str(described), "--url", self.live_server_url, "--phases", "fuzzing"]
        words += ["--request-timeout", "120"]
        for header in (
            f"Cookie: csrftoken={TOKEN}; sessionid={self.session}",
            f"X-CSRFToken: {TOKEN}",
            f"Referer: {self.live_server_url}/",
        ):
            words += ["--header", header]
        words += ["--checks", "not_a_server_error", "--max-examples", str(EXAMPLES)]
        words += ["--seed", "7"] if not FUZZ else ["--max-response-time", str(LONGEST)]
        words += ["--continue-on-failure", "--exclude-path-regex", "session", "--no-color"]
        done = subprocess.run(
            [str(VENV_PYTHON.with_name("schemathesis")), *words],
            cwd=self.folder, env=os.environ | {"HYPOTHESIS_STORAGE_DIRECTORY": str(self.folder)},
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertIn("API Operations", done.stdout, done.stdout[-2000:] + done.stderr[-2000:])
        self.assertNotIn("Server error", done.stdout, done.stdout[:6000])
        self.assertNotIn("Response time limit", done.stdout, done.stdout[:6000])
        if FUZZ:
            print(done.stdout[-1500:], f"{resident() / 1e9:.1f} GB now")
