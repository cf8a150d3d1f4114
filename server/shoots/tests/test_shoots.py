"""Shoots and their photos: adding, refusing, removing, and whose they are."""

import errno
import io
import json
import zlib
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

import numpy as np
from django.conf import settings
from django.core.management import CommandError, call_command
from django.test import override_settings
from django.utils import timezone
from PIL import Image

from accounts.models import User
from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from shoots.models import Photo, Shoot
from shoots.services.bin import empty_old
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
        for shoot, one in ((theirs, photo), (theirs, mine), (self.shoot, photo)):
            answer = self.send("post", f"/shoots/{shoot.id}/remove", {"photos": [one.id]})
            self.refused(answer, 404, "not yours")
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
        self.assertEqual(list(Path(settings.THUMBNAILS).rglob("*.jpg")), [])

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
        self.throw_away(mine)
        self.assertTrue(path.is_file())
        self.client.force_login(self.other)
        self.throw_away(theirs)
        self.assertFalse(path.exists())
        self.assertEqual(list(Path(settings.THUMBNAILS).rglob("*.jpg")), [])


class Bin(ServerCase):
    def act(self, verb: str, *photos: Photo, **more: Any) -> Any:
        body = {"photos": [p.id for p in photos], **more}
        return self.send("post", f"/shoots/{self.shoot.id}/{verb}", body)

    def listed(self, shoot: Shoot | None = None) -> list[int]:
        address = f"/api/shoots/{(shoot or self.shoot).id}"
        return [p["id"] for p in self.client.get(address).json()["photos"]]

    def test_removed_photos_are_nowhere_and_come_back_as_they_were(self) -> None:
        one, two = self.photo(), self.photo(seed=8)
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{one.id}/recipe", body)
        self.act("remove", one)
        self.assertEqual(self.listed(), [two.id])
        self.assertEqual(self.client.get(f"/api/photos/{one.id}").status_code, 404)
        shoots = self.client.get("/api/shoots").json()
        self.assertEqual(shoots[0]["photos"], 1)
        (binned,) = self.client.get(f"/api/shoots/{self.shoot.id}/bin").json()
        self.assertEqual(binned["photo"]["id"], one.id)
        self.assertEqual([p["id"] for p in self.act("put-back", one).json()], [one.id])
        self.assertEqual(self.listed(), [one.id, two.id])
        self.assertEqual(self.client.get(f"/api/photos/{one.id}/recipe").json()["revision"], 1)

    def test_the_same_file_added_again_comes_out_of_the_bin(self) -> None:
        one = self.photo()
        self.act("remove", one)
        answer = self.upload(png_bytes(glowing_wall())).json()
        self.assertEqual((answer["photo"]["id"], answer["already"]), (one.id, False))
        self.assertEqual(self.listed(), [one.id])

    def test_what_has_been_there_for_thirty_days_goes(self) -> None:
        one, two = self.photo(), self.photo(seed=8)
        self.act("remove", one, two)
        Photo.everywhere.filter(id=one.id).update(removed=timezone.now() - timedelta(days=31))
        empty_old()
        self.assertEqual(Photo.everywhere.count(), 2)
        Photo.everywhere.filter(going__isnull=False).update(
            going=timezone.now() - timedelta(days=2)
        )
        with self.captureOnCommitCallbacks(execute=True):
            empty_old()
        self.assertEqual(list(Photo.everywhere.all()), [two])
        self.assertFalse(original_path(one.content_hash).exists())

    def test_photos_move_to_another_shoot_all_or_none(self) -> None:
        second = Shoot.objects.create(owner=self.person, name="Evening")
        one, two = self.photo(), self.photo(seed=8)
        self.assertEqual(self.act("move", one, to=second.id).status_code, 204)
        self.assertEqual((self.listed(), self.listed(second)), ([two.id], [one.id]))
        again = self.photo()
        self.refused(self.act("move", again, two, to=second.id), 409, "there already")
        self.assertEqual(self.listed(), [two.id, again.id])

    def test_other_people_s_photos_and_shoots_are_not_there(self) -> None:
        theirs = Shoot.objects.create(owner=self.other, name="Theirs")
        mine, foreign = self.photo(), self.photo(theirs, seed=8)
        for verb in ("remove", "move"):
            self.assertEqual(self.act(verb, mine, foreign, to=self.shoot.id).status_code, 404)
        self.assertEqual(self.act("move", mine, to=theirs.id).status_code, 404)
        self.assertEqual(self.act("put-back", foreign).json(), [])
        self.assertEqual(self.client.get(f"/api/shoots/{theirs.id}/bin").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/shoots/{theirs.id}/bin").status_code, 404)
        self.assertEqual(self.listed(), [mine.id])

    def test_refusals_can_be_read_later(self) -> None:
        self.upload(b"no picture at all", "poster.png")
        address = f"/api/shoots/{self.shoot.id}/refusals"
        (told,) = self.client.get(address).json()
        self.assertEqual(told["file_name"], "poster.png")
        self.assertTrue(told["reason"])
        # Taken after all, it is none any more.
        self.upload(png_bytes(glowing_wall()), "poster.png")
        self.assertEqual(self.client.get(address).json(), [])
        self.upload(b"no picture", "other.png")
        self.assertEqual(self.client.delete(address).status_code, 204)
        self.assertEqual(self.client.get(address).json(), [])

    def test_a_shoot_can_be_renamed(self) -> None:
        answer = self.send("put", f"/shoots/{self.shoot.id}", {"name": " Dress rehearsal "})
        self.assertEqual(answer.json()["name"], "Dress rehearsal")

    def test_the_camera_s_clock_is_read(self) -> None:
        exif = Image.Exif()
        exif.get_ifd(0x8769)[0x9003] = "2026:04:12 19:30:05"
        out = io.BytesIO()
        Image.fromarray(glowing_wall()).save(out, "JPEG", exif=exif.tobytes())
        self.upload(out.getvalue(), "evening.jpg")
        self.assertEqual(Photo.objects.get().shot, datetime(2026, 4, 12, 19, 30, 5, tzinfo=UTC))


class Names(ServerCase):
    def test_what_cannot_be_read_or_turns_its_direction_is_refused(self) -> None:
        for name in ("a\0b", "a\nb", "evil\u202egnp", "x\u2066y", "\u200f"):
            answer = self.send("post", "/shoots", {"name": name})
            self.refused(answer, 422, "control characters")
        self.assertEqual(self.send("post", "/shoots", {"name": "Grün 🎭 夜"}).status_code, 200)

    def test_casts_too(self) -> None:
        row = self.photo()
        for name in ("a\x07b", "a\u202eb"):
            body = {"revision": 0, "recipe": recipe_document(name=name)}
            answer = self.send("put", f"/photos/{row.id}/recipe", body)
            self.refused(answer, 422, "control characters")


class Demo(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        User.objects.all().delete()

    def test_it_never_enters_where_others_have_accounts(self) -> None:
        """Also not as somebody whose name only looks the same."""
        for name in ("ida", "Demo", "demo"):
            with self.subTest(name), self.assertRaises(CommandError) as raised:
                person = User.objects.create_user(name, password="hand and rod")
                call_command("load_demo", stdout=io.StringIO())
            self.assertEqual(raised.exception.returncode, 3)
            self.assertNotIn("\n", str(raised.exception))
            person.refresh_from_db()
            self.assertFalse(person.is_superuser)
            self.assertTrue(person.check_password("hand and rod"))
            person.delete()

    def test_its_account_looks_after_nobody(self) -> None:
        call_command("load_demo", stdout=io.StringIO())
        with override_settings(DEMO=True):
            self.client.post("/api/session/demo")
        self.assertEqual(self.client.get("/api/session").json()["user"], "demo")
        self.assertEqual(self.client.get("/api/people").status_code, 403)

    def test_the_demo_is_loaded_once(self) -> None:
        for _ in range(2):
            call_command("load_demo", stdout=io.StringIO())
        demo = User.objects.get(username="demo")
        listed = json.loads((settings.ROOT / "demo/shoots.json").read_text())["shoots"]
        shoots = list(Shoot.objects.filter(owner=demo))
        self.assertEqual([s.name for s in shoots], [s["name"] for s in listed])
        for shoot, entry in zip(shoots, listed, strict=True):
            self.assertEqual(shoot.photos.count(), len(entry["photos"]))
            self.assertTrue(all(p.caption for p in shoot.photos.all()))
