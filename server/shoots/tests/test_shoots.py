"""Shoots and their photos: adding, refusing, removing, and whose they are."""

import errno
import io
import json
import zlib
from pathlib import Path
from unittest import mock

import numpy as np
from django.conf import settings
from django.core.management import call_command
from django.test import override_settings
from PIL import Image

from accounts.models import User
from config.tests.cases import ServerCase, glowing_wall, png_bytes
from shoots.models import Photo, Shoot
from shoots.store import original_path


class Shoots(ServerCase):
    def test_list_make_and_open(self) -> None:
        made = self.send("post", "/shoots", {"name": "Matinee"}).json()
        self.assertEqual(made["photos"], 0)
        names = [s["name"] for s in self.client.get("/api/shoots").json()]
        self.assertEqual(names, ["Matinee", "Rehearsal"])
        self.photo()
        opened = self.client.get(f"/api/shoots/{self.shoot.id}").json()
        self.assertEqual([p["title"] for p in opened["photos"]], ["wall"])
        self.refused(self.send("post", "/shoots", {"name": ""}), 422, "name")

    def test_a_shoot_costs_few_queries_however_many_photos(self) -> None:
        for seed in range(4):
            self.photo(seed=seed)
        with self.assertNumQueries(4):  # session, person, shoot, photos
            self.client.get(f"/api/shoots/{self.shoot.id}")

    def test_other_people_s_are_not_there(self) -> None:
        theirs = Shoot.objects.create(owner=self.other, name="Secret")
        photo = self.photo(theirs)
        mine = self.photo(seed=2)
        self.refused(self.client.get(f"/api/shoots/{theirs.id}"), 404, "not yours")
        self.refused(self.upload(b"x", shoot=theirs), 404, "not yours")
        for path in (
            f"/shoots/{theirs.id}/photos/{photo.id}",
            f"/shoots/{theirs.id}/photos/{mine.id}",
        ):
            self.refused(self.client.delete(f"/api{path}"), 404, "not yours")
        self.assertEqual(Photo.objects.count(), 2)


class Adding(ServerCase):
    def test_a_photo_is_stored_as_it_came(self) -> None:
        data = png_bytes(glowing_wall())
        added = self.upload(data, "my wall_2.png").json()
        self.assertFalse(added["already"])
        photo = added["photo"]
        self.assertEqual((photo["title"], photo["width"], photo["height"]), ("my wall 2", 120, 80))
        row = Photo.objects.get()
        self.assertEqual(original_path(row.content_hash).read_bytes(), data)
        thumbnail = self.client.get(f"/api/photos/{row.id}/thumbnail?revision=0")
        self.assertEqual(Image.open(io.BytesIO(thumbnail.content)).size, (120, 80))
        self.assertIn("immutable", thumbnail["Cache-Control"])

    def test_the_same_file_twice_is_one(self) -> None:
        data = png_bytes(glowing_wall())
        first = self.upload(data, "a.png").json()
        again = self.upload(data, "b.png").json()
        self.assertTrue(again["already"])
        self.assertEqual(again["photo"]["id"], first["photo"]["id"])
        second = Shoot.objects.create(owner=self.person, name="Other")
        self.assertFalse(self.upload(data, shoot=second).json()["already"])
        self.assertEqual(len([p for p in Path(settings.ORIGINALS).rglob("*") if p.is_file()]), 1)

    def test_what_cannot_be_read_is_refused_and_leaves_nothing(self) -> None:
        good = png_bytes(glowing_wall())
        cmyk = io.BytesIO()
        Image.new("CMYK", (4, 4)).save(cmyk, "JPEG")
        header = b"IHDR" + (60000).to_bytes(4, "big") * 2 + good[24:29]
        claims = good[:12] + header + zlib.crc32(header).to_bytes(4, "big") + good[33:]
        for data, reason in (
            (good[: len(good) // 2], "incomplete"),
            (b"Dear diary", "not a picture"),
            (cmyk.getvalue(), "CMYK"),
            (claims, "60000 x 60000"),
        ):
            self.refused(self.upload(data, "photo.jpg"), 422, reason)
        self.assertEqual(Photo.objects.count(), 0)
        self.assertEqual([p for p in Path(settings.ORIGINALS).rglob("*") if p.is_file()], [])
        self.assertEqual(list(Path(settings.THUMBNAILS).iterdir()), [])

    def test_grey_alpha_and_one_pixel_are_taken(self) -> None:
        for codes in (
            glowing_wall()[..., 0],
            np.dstack([glowing_wall()] * 2)[..., :4],
            glowing_wall(1, 1),
        ):
            out = io.BytesIO()
            Image.fromarray(codes).save(out, "PNG")
            self.assertEqual(self.upload(out.getvalue()).status_code, 200)

    @override_settings(PHOTO_MAX_BYTES=1000)
    def test_over_the_size_limit(self) -> None:
        self.refused(self.upload(png_bytes(glowing_wall())), 413, "the limit")

    def test_no_file_at_all(self) -> None:
        response = self.client.post(f"/api/shoots/{self.shoot.id}/photos", {})
        self.refused(response, 422, "file")

    def test_a_full_disk_says_so_and_leaves_nothing(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        with (
            mock.patch("shoots.store.shutil.copyfile", side_effect=full),
            self.assertLogs("django.request", "ERROR"),
        ):
            self.refused(self.upload(png_bytes(glowing_wall())), 507, "disk is full")
        self.assertEqual(Photo.objects.count(), 0)
        self.assertEqual([p for p in Path(settings.ORIGINALS).rglob("*") if p.is_file()], [])

    def test_names_from_elsewhere_are_only_names(self) -> None:
        self.upload(png_bytes(glowing_wall()), "..\\..\\etc\\pass\x07wd.png")
        self.assertNotIn("\\", Photo.objects.get().file_name)
        self.assertNotIn("\x07", Photo.objects.get().file_name)


class Removing(ServerCase):
    def test_the_file_goes_with_its_last_photo(self) -> None:
        second = Shoot.objects.create(owner=self.other, name="Other")
        mine, theirs = self.photo(), self.photo(second)
        path = original_path(mine.content_hash)
        with self.captureOnCommitCallbacks(execute=True):
            response = self.client.delete(f"/api/shoots/{self.shoot.id}/photos/{mine.id}")
        self.assertEqual(response.status_code, 204)
        self.assertTrue(path.is_file())
        self.client.force_login(self.other)
        with self.captureOnCommitCallbacks(execute=True):
            self.client.delete(f"/api/shoots/{second.id}/photos/{theirs.id}")
        self.assertFalse(path.exists())
        self.assertEqual(list(Path(settings.THUMBNAILS).iterdir()), [])


class Demo(ServerCase):
    def test_the_demo_is_loaded_once(self) -> None:
        for _ in range(2):
            call_command("load_demo", stdout=io.StringIO())
        demo = User.objects.get(username="demo")
        shoot = Shoot.objects.get(owner=demo)
        listed = json.loads((settings.ROOT / "demo/shoot.json").read_text())["photos"]
        self.assertEqual(shoot.photos.count(), len(listed))
        self.assertTrue(all(p.caption for p in shoot.photos.all()))
