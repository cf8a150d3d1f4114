"""What server tests share: people, shoots and photos made in memory, storage in a folder of its own."""

import json
import shutil
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.http import HttpResponse
from django.test import TestCase, override_settings

from accounts.models import User
from nubilis.colour.profile import srgb
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.write import write_photo
from nubilis.recipe.document import VERSION
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo

FOLDERS = (
    "ORIGINALS", "ASSETS", "THUMBNAILS", "DELIVERIES", "FILE_UPLOAD_TEMP_DIR", "COPIES",
    "FOLDER_OUT", "FOLDER_IN",
)  # fmt: skip


def glowing_wall(h: int = 80, w: int = 120, seed: int = 7) -> npt.NDArray[np.uint8]:
    """A grey wall, its left half in reddish light."""
    rng = np.random.default_rng(seed)
    wall = np.full((h, w, 3), 150.0) + rng.normal(0, 2, (h, w, 1))
    wall[:, : w // 2] *= (1.15, 0.95, 0.90)
    return np.asarray(wall + 0.5, dtype=np.uint8)


def png_bytes(codes: npt.NDArray[np.uint8]) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "photo.png"
        write_photo(path, Decoded(codes, srgb()), "png")
        return path.read_bytes()


def stored_in(folder: Path) -> dict[str, Any]:
    """Settings of a store of files of its own."""
    local = {
        "BACKEND": "django.core.files.storage.FileSystemStorage",
        "OPTIONS": {"location": folder},
    }
    return {"STORAGES": settings.STORAGES | {"files": local}}


def own_storage() -> Any:
    """A decorator: files of a test never mix with the product's."""
    root = Path(tempfile.mkdtemp(prefix="nubilis-test-"))
    for name in FOLDERS:
        (root / name.lower()).mkdir()
    folders: dict[str, Any] = {name: root / name.lower() for name in FOLDERS}
    return override_settings(**stored_in(root), **folders)


@override_settings(JOBS_AT_ONCE=True)
class ServerCase(TestCase):
    """Signed in as one of two people, each with a shoot."""

    def setUp(self) -> None:
        storage = own_storage()
        storage.enable()
        root = Path(settings.ORIGINALS).parent
        self.addCleanup(shutil.rmtree, root, ignore_errors=True)
        self.addCleanup(storage.disable)
        self.folder = root
        self.person = User.objects.create_user("ida", password="hand and rod")
        self.other = User.objects.create_user("otto", password="string and wood")
        self.shoot = Shoot.objects.create(owner=self.person, name="Rehearsal")
        self.client.force_login(self.person)

    def photo(self, shoot: Shoot | None = None, seed: int = 7) -> Photo:
        path = self.folder / "wall.png"
        path.write_bytes(png_bytes(glowing_wall(seed=seed)))
        return add_photo(shoot or self.shoot, path, "wall.png")[0]

    def upload(self, data: bytes, name: str = "photo.png", shoot: Shoot | None = None) -> Any:
        file = SimpleUploadedFile(name, data)
        return self.client.post(f"/api/shoots/{(shoot or self.shoot).id}/photos", {"file": file})

    def send(self, method: str, path: str, body: object) -> Any:
        call = getattr(self.client, method)
        return call(f"/api{path}", json.dumps(body), content_type="application/json")

    def throw_away(self, photo: Photo) -> None:
        """For good."""
        address = f"/shoots/{photo.shoot_id}"
        self.assertEqual(
            self.send("post", f"{address}/remove", {"photos": [photo.id]}).status_code, 204
        )
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.delete(f"/api{address}/bin").status_code, 204)

    def refused(self, response: HttpResponse, status: int, reason: str) -> None:
        self.assertEqual(response.status_code, status, response.content[:300])
        detail = json.loads(response.content)["detail"]
        self.assertIn(reason, detail)
        self.assertNotIn("\n", detail)


def recipe_document(amount: float = 1.0, name: str = "") -> dict[str, Any]:
    """Takes the wall's glow off its left half, under a brush in the middle of it."""
    lit = [0.40, 0.28, 0.25]
    sample = {"at": [0.2, 0.3], "radius": 0.02, "rgb": lit}
    clean = {"at": [0.9, 0.3], "radius": 0.02, "rgb": [0.30, 0.30, 0.30]}
    stroke = {"size": 0.2, "feather": 0.5, "points": [[[0.2, 0.1], 1.0], [[0.2, 0.5], 1.0]]}
    return {
        "format": "nubilis-recipe",
        "version": VERSION,
        "casts": [
            {
                "id": "a",
                "name": name,
                "pairs": [{"id": "p", "tainted": sample, "reference": clean}],
                "mask": {"parts": [{"kind": "brush", "id": "b", "strokes": [stroke]}]},
                "remedies": [{"kind": "neutralise", "id": "n", "amount": amount}],
            }
        ],
    }


def close_content(answer: Any) -> None:
    """As a server does with a streamed answer when the connection has ended."""
    for close in answer._resource_closers:
        close()
