"""Backups: whole, of one moment, checked, and back to the bit; a doctor who finds what is wrong."""

import io
import json
import os
import shutil
import threading
import time
from pathlib import Path
from typing import Any
from unittest import mock
from zipfile import ZipFile

from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import TransactionTestCase, override_settings

from accounts.models import User
from config.errors import Refused
from config.tests.cases import glowing_wall, own_storage, png_bytes, recipe_document
from core.tests.effort import LONG, TIMES
from delivery.models import Delivery
from delivery.services.deliver import start_delivery
from delivery.services.order import Order
from keeping.services import doctor, rows
from keeping.services.backup import MANIFEST, backup, restore
from keeping.services.doctor import examine
from nubilis.recipe.document import Recipe
from shoots import files
from shoots.models import Photo, Shoot, Stored, Use
from shoots.services.add_photo import add_photo
from shoots.services.bin import forget
from shoots.store import original_path
from studio.services.save_recipe import current, save_recipe

ROUNDS = 50 if LONG else 5  # of the doctor, beside people at work


class KeepingCase(TransactionTestCase):
    def setUp(self) -> None:
        self.storage()
        self.file = Path(settings.COPIES).parent / "all.nubilis"
        person = User.objects.create_user("ida", password="hand and rod")
        self.shoot = Shoot.objects.create(owner=person, name="Rehearsal")
        self.photos = [self.add(seed) for seed in range(3)]

    def storage(self) -> None:
        storage = own_storage()
        storage.enable()
        self.addCleanup(shutil.rmtree, Path(settings.COPIES).parent, ignore_errors=True)
        self.addCleanup(storage.disable)

    def add(self, seed: int) -> Photo:
        path = Path(settings.FILE_UPLOAD_TEMP_DIR) / "wall.png"
        path.write_bytes(png_bytes(glowing_wall(seed=seed)))
        photo, _ = add_photo(self.shoot, path, f"wall-{seed}.png", title=f"Wall {seed}")
        save_recipe(photo, 0, Recipe.model_validate(recipe_document()), self.shoot.owner)
        return Photo.objects.get(id=photo.id)

    def dumped(self) -> dict[str, list[str]]:
        return {table: list(rows.dumped(table)) for table in rows.tables()}

    def empty_machine(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SET foreign_key_checks = 0")
            for table in rows.tables():
                cursor.execute(f"DELETE FROM `{table}`")
            cursor.execute("SET foreign_key_checks = 1")
        self.storage()


class Backups(KeepingCase):
    def test_back_on_an_empty_machine_everything_is_as_it_was_to_the_bit(self) -> None:
        before = self.dumped()
        originals = {
            p.content_hash: original_path(p.content_hash).read_bytes() for p in self.photos
        }
        backup(self.file)
        kept = self.file.read_bytes()
        self.empty_machine()
        file = Path(settings.COPIES).parent / "all.nubilis"
        file.write_bytes(kept)
        self.assertFalse(User.objects.exists())
        restore(file)
        self.assertEqual(self.dumped(), before)
        for content, data in originals.items():
            self.assertEqual(original_path(content).read_bytes(), data)
        photo = Photo.objects.get(title="Wall 1")
        self.assertEqual(len(current(photo).recipe.casts), 1)
        self.assertTrue(self.client.login(username="ida", password="hand and rod"))

    def test_a_further_one_takes_only_what_is_new(self) -> None:
        backup(self.file)
        first = self.file.stat().st_size
        new = self.add(7)
        forget(self.photos[0])
        with mock.patch("keeping.services.backup._pack_file", side_effect=_packed()) as packed:
            told = backup(self.file)
        names = [call.args[1] for call in packed.call_args_list]
        self.assertEqual(names, [f"files/original/{new.content_hash}"])
        self.assertEqual(len(told["files"]), 3)
        for _ in range(3):
            backup(self.file)
        self.assertLess(self.file.stat().st_size, 2 * first + new.size_bytes)
        with ZipFile(self.file) as zipped:
            self.assertIsNone(zipped.testzip())
            self.assertEqual(len(zipped.namelist()), len(set(zipped.namelist())))
        before = self.dumped()
        kept = self.file.read_bytes()
        self.empty_machine()
        file = Path(settings.COPIES).parent / "all.nubilis"
        file.write_bytes(kept)
        restore(file)
        self.assertEqual(self.dumped(), before)

    def test_one_that_fails_leaves_the_earlier_one_as_it_was(self) -> None:
        backup(self.file)
        before = self.file.read_bytes()
        self.add(8)
        full = OSError(28, "No space left on device")
        with (
            mock.patch("keeping.services.backup._pack_file", side_effect=full),
            self.assertRaises(OSError),
        ):
            backup(self.file)
        self.assertEqual(self.file.read_bytes(), before)
        self.assertEqual([p.name for p in self.file.parent.glob(".all*")], [])

    def test_a_damaged_original_is_told_and_not_backed_up(self) -> None:
        path = original_path(self.photos[0].content_hash)
        data = bytearray(path.read_bytes())
        data[-20] ^= 1
        path.write_bytes(bytes(data))
        with self.assertRaisesRegex(Refused, "damaged"):
            backup(self.file)
        self.assertFalse(self.file.exists())

    def test_what_is_no_backup_is_refused_and_nothing_changes(self) -> None:
        backup(self.file)
        whole = self.file.read_bytes()
        with self.assertRaisesRegex(Refused, "accounts here"):
            restore(self.file)
        other = self.file.with_name("holiday.txt")
        other.write_text("no backup")
        with self.assertRaisesRegex(Refused, "is no backup"):
            backup(other)
        self.assertEqual(other.read_text(), "no backup")
        self.empty_machine()
        broken = Path(settings.COPIES).parent / "broken"
        at = whole.index(b"\x89PNG") + 200
        for data in (b"", whole[: len(whole) // 2], whole[:at] + b"\0\0\0" + whole[at + 3 :]):
            broken.write_bytes(data)
            with self.assertRaises(Refused):
                restore(broken)
            self.assertFalse(User.objects.exists())
        self.rewrite(whole, broken, migrations=[["shoots", "0099_later"]])
        with self.assertRaisesRegex(Refused, "another version"):
            restore(broken)

    def rewrite(self, whole: bytes, to: Path, **more: Any) -> None:
        with ZipFile(io.BytesIO(whole)) as source, ZipFile(to, "w") as out:
            for name in source.namelist():
                data = source.read(name)
                if name == MANIFEST:
                    data = json.dumps(json.loads(data) | more).encode()
                out.writestr(name, data)

    def test_a_file_that_is_missing_is_named_and_the_rest_is_kept(self) -> None:
        lost = self.photos[0].content_hash
        original_path(lost).unlink()
        manifest = backup(self.file)
        self.assertEqual(manifest["missing"], [f"files/original/{lost}"])
        self.assertEqual(len(manifest["files"]), 2)
        said = io.StringIO()
        with self.assertRaises(CommandError) as raised:
            call_command("backup", str(self.file), stdout=io.StringIO(), stderr=said)
        self.assertEqual(raised.exception.returncode, 3)
        self.assertIn(lost, said.getvalue())
        self.empty_machine()
        restore(self.file)
        self.assertEqual(Photo.objects.count(), 3)

    def test_the_commands(self) -> None:
        out = io.StringIO()
        call_command("backup", str(self.file), stdout=out)
        self.assertIn("3 files", out.getvalue())
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)


def _packed() -> Any:
    from keeping.services.backup import _pack_file

    return _pack_file


class Doctor(KeepingCase):
    def told(self, **more: bool) -> list[str]:
        return [finding.text for finding in examine(**more)]

    def test_a_machine_on_which_all_is_well(self) -> None:
        self.assertEqual([t for t in self.told(deep=True) if "disk" not in t], [])

    def test_what_is_lost_or_damaged_is_named_by_its_photo(self) -> None:
        original_path(self.photos[0].content_hash).unlink()
        path = original_path(self.photos[1].content_hash)
        data = bytearray(path.read_bytes())
        data[-20] ^= 1
        path.write_bytes(bytes(data))
        self.assertTrue(any("Wall 0 is gone" in text for text in self.told()))
        self.assertFalse(any("Wall 1" in text for text in self.told()))
        self.assertTrue(any("Wall 1 is damaged" in text for text in self.told(deep=True)))

    def stray(self, sha256: str, hours: float) -> Path:
        """A file that no row knows, put into the store so many hours ago."""
        name = f"originals/{sha256[:2]}/{sha256}"
        files.put(name, lambda to: to.write_bytes(b"nobody's"))
        at = time.time() - 3600.0 * hours
        os.utime(files.local(name), (at, at))
        return files.local(name)

    def test_what_may_still_be_taken_in_is_no_stray(self) -> None:
        old, new = self.stray("a" * 64, hours=1.5), self.stray("c" * 64, hours=0.5)
        for finding in examine():
            if finding.mend:
                finding.mend()
        self.assertFalse(old.exists())
        self.assertTrue(new.exists())

    def test_a_file_that_is_stored_while_strays_are_dropped_stays(self) -> None:
        """Listed as a stray, and taken in before it is its turn."""
        sha256 = self.photos[0].content_hash
        doctor._drop([(Stored.Kind.ORIGINAL, sha256), (Stored.Kind.ORIGINAL, "d" * 64)])
        self.assertTrue(original_path(sha256).is_file())

    @override_settings(JOBS_AT_ONCE=True)
    def test_nothing_is_lost_while_people_work_and_the_doctor_repairs(self) -> None:
        """Uploads, saves and deliveries; even if nothing were too young for the doctor."""
        ended = threading.Event()
        added: list[Photo] = []
        recipe, order = Recipe.model_validate(recipe_document()), Order(file_format="png")

        def people() -> None:
            try:
                for seed in range(10, 16 + 10 * TIMES):
                    photo = self.add(seed)
                    save_recipe(photo, photo.revision, recipe, photo.shoot.owner)
                    photo.refresh_from_db()
                    start_delivery(photo.shoot.owner, photo, photo.revision, order)
                    added.append(photo)
            finally:
                connection.close()
                ended.set()

        thread = threading.Thread(target=people)
        with mock.patch.object(doctor, "STRAY_FOR", -3600.0):
            thread.start()
            rounds = 0
            while not ended.is_set() or rounds < ROUNDS:
                for finding in examine():
                    if finding.mend:
                        finding.mend()
                rounds += 1
        thread.join()
        self.assertGreater(len(added), 10)
        for photo in (*self.photos, *added):
            self.assertTrue(original_path(photo.content_hash).is_file(), photo.title)
            self.assertTrue(Stored.objects.get(sha256=photo.content_hash).there)
        for photo in added:
            photo.refresh_from_db()
            self.assertEqual(current(photo).recipe.casts, recipe.casts)
            delivery = Delivery.objects.get(photo=photo)
            self.assertEqual(files.size(delivery.stored_as), delivery.size_bytes)

    def test_what_can_be_put_right_is(self) -> None:
        self.stray("a" * 64, hours=2.0)
        Use.objects.filter(photo=self.photos[2]).delete()
        unused = Stored.objects.create(kind="asset", sha256="b" * 64, size_bytes=1)
        told = self.told()
        self.assertTrue(any("nobody knows" in text for text in told), told)
        self.assertTrue(any("Wall 2 is not noted" in text for text in told), told)
        for finding in examine():
            if finding.mend:
                finding.mend()
        self.assertEqual([t for t in self.told(deep=True) if "disk" not in t], [])
        self.assertEqual(original_path(self.photos[2].content_hash).stat().st_size > 0, True)
        unused.refresh_from_db()
        self.assertFalse(unused.there)
