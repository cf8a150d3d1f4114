"""A database of the version before masks were kept apart, as that version wrote it, with its undo history."""

import json
import shutil
import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.test import Client, TransactionTestCase, override_settings

from accounts.models import User
from config.tests.cases import stored_in
from nubilis.photo.grey import read_grey
from nubilis.recipe.document import VERSION
from shoots.models import Photo, Stored, Use
from shoots.store import OwnAssets, asset_path
from studio.models import KeptSurvey, Revision, Version
from studio.services.save_recipe import current

DUMP = Path(__file__).with_name("before_masks_apart.sql")


class Migrating(TransactionTestCase):
    """In a database of its own beside the tests'."""

    def setUp(self) -> None:
        folder = Path(tempfile.mkdtemp(prefix="nubilis-test-"))
        self.addCleanup(shutil.rmtree, folder, ignore_errors=True)
        own = override_settings(ASSETS=folder / "assets", **stored_in(folder))
        own.enable()
        self.addCleanup(own.disable)
        self.tests_name = str(connection.settings_dict["NAME"])
        self.name = f"{self.tests_name}_before"
        self.addCleanup(self.back)
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS `{self.name}`")
            cursor.execute(f"CREATE DATABASE `{self.name}` CHARACTER SET utf8mb4")
        self.use(self.name)
        statements = DUMP.read_text().removesuffix(";\n").split(";\n\n")
        with connection.cursor() as cursor:
            for statement in statements[1:]:
                cursor.execute(statement)
        call_command("migrate", verbosity=0)

    def use(self, name: str) -> None:
        connection.close()
        connection.settings_dict["NAME"] = name

    def back(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS `{self.name}`")
        self.use(self.tests_name)

    def test_every_step_opens_and_undo_reaches_through(self) -> None:
        photo = Photo.objects.get(file_name="wall.png")
        recipes = {r.number: r.recipe for r in Revision.objects.filter(photo=photo)}
        self.assertEqual(sorted(recipes), [1, 2, 3, 4, 5])
        self.assertEqual([len(recipes[n].assets) for n in (1, 2, 3, 4, 5)], [0, 0, 1, 2, 1])
        self.assertEqual(recipes[1].casts[0].name, "Early")
        for row in (*Revision.objects.all(), *Version.objects.all()):
            self.assertNotIn('"png"', row.document)
            self.assertEqual(json.loads(row.document)["version"], VERSION)
        client = Client()
        client.force_login(User.objects.get(username="ida"))
        seen = []
        while True:
            state = current(photo)
            if not state.can_undo:
                break
            body = json.dumps({"revision": state.revision})
            answer = client.post(f"/api/photos/{photo.id}/undo", body, "application/json")
            self.assertEqual(answer.status_code, 200, answer.content)
            photo.refresh_from_db()
            seen.append([c["name"] for c in answer.json()["recipe"]["casts"]])
        self.assertEqual(seen, [["Glow"], ["Early"], []])
        told = client.get(f"/api/photos/{photo.id}/history").json()
        self.assertEqual(len(told), 8)
        versions = client.get(f"/api/photos/{photo.id}/versions").json()
        self.assertEqual([v["name"] for v in versions], ["As it began", "With grey"])

    def test_masks_are_files_that_each_photo_has_a_use_for(self) -> None:
        photo = Photo.objects.get(file_name="wall.png")
        second = Photo.objects.get(file_name="second.png")
        recipe = Version.objects.get(name="With grey").recipe
        self.assertEqual(len(recipe.assets), 2)
        owner = OwnAssets(User.objects.get(username="ida").id)
        kinds = {}
        for sha256, asset in recipe.assets.items():
            codes = read_grey(owner(sha256))
            self.assertEqual(codes.shape, (asset.height, asset.width))
            self.assertTrue(asset_path(sha256).is_file())
            kinds[str(codes.dtype)] = sha256
        self.assertEqual(set(kinds), {"uint8", "uint16"})
        uses = Use.objects.filter(stored__sha256=kinds["uint8"]).values_list("photo_id", flat=True)
        self.assertEqual(set(uses), {photo.id, second.id})  # adopted here, copied there
        originals = Stored.objects.filter(kind="original").values_list("sha256", flat=True)
        self.assertEqual(set(originals), {photo.content_hash, second.content_hash})
        self.assertFalse(KeptSurvey.objects.exists())

    def test_migrating_again_changes_nothing(self) -> None:
        before: list[Any] = list(Revision.objects.values_list("id", "document"))
        call_command("migrate", verbosity=0)
        self.assertEqual(list(Revision.objects.values_list("id", "document")), before)
        self.assertEqual(settings.DATABASES["default"]["ENGINE"], "django.db.backends.mysql")
