"""Files that arrive in a watched folder; the simulated camera."""

import os
from pathlib import Path
from typing import Any
from unittest import mock

from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from jobs.models import Job
from shoots.models import Photo, Shoot
from studio.models import ToCheck
from tether.models import Watch
from tether.services.folder import REFUSED, TAKEN, begin_watching, folder_of
from tether.services.watch import STILL, TRIES, Growth, look_once


class Folder(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.growth = Growth()
        self.send("put", f"/shoots/{self.shoot.id}/watch", {})
        self.incoming = folder_of(self.shoot)

    def look(self, times: int = STILL + 1) -> int:
        return sum(look_once(self.growth) for _ in range(times))

    def told(self) -> dict[str, Any]:
        return dict(self.client.get(f"/api/shoots/{self.shoot.id}/watch").json())

    def arrive(self, name: str, data: bytes) -> None:
        (self.incoming / name).write_bytes(data)

    def test_a_file_is_taken_in_once_it_has_stopped_growing(self) -> None:
        data = png_bytes(glowing_wall())
        self.arrive("one.png", data[:500])
        self.look(STILL)
        self.arrive("one.png", data)  # it has grown
        os.utime(self.incoming / "one.png", ns=(1, 1))
        self.assertEqual(self.look(STILL), 0)
        self.assertFalse(Photo.objects.exists())
        self.assertEqual(self.look(1), 1)
        photo = Photo.objects.get()
        self.assertEqual(photo.file_name, "one.png")
        self.assertEqual([p.name for p in self.incoming.iterdir()], [TAKEN])
        (arrival,) = self.told()["arrivals"]
        self.assertEqual((arrival["file"], arrival["photo"]["id"]), ("one.png", photo.id))
        self.assertEqual(self.look(), 0)

    def test_hidden_and_empty_files_are_left_and_damaged_ones_put_aside_with_a_reason(self) -> None:
        self.arrive(".half.png", png_bytes(glowing_wall()))
        self.arrive("empty.png", b"")
        self.arrive("broken.png", png_bytes(glowing_wall())[:900])
        self.assertEqual(self.look(), 1)
        self.assertFalse(Photo.objects.exists())
        left = {p.name for p in self.incoming.iterdir()}
        self.assertEqual(left, {".half.png", "empty.png", REFUSED})
        (arrival,) = self.told()["arrivals"]
        self.assertIn("damaged", arrival["reason"])
        (refusal,) = self.client.get(f"/api/shoots/{self.shoot.id}/refusals").json()
        self.assertEqual(refusal["file_name"], "broken.png")

    def test_a_name_that_is_not_utf_8_holds_nobody_up(self) -> None:
        other = Shoot.objects.create(owner=self.other, name="Evening")
        begin_watching(other)
        with open(bytes(self.incoming) + b"/b\xe4d.png", "wb") as out:
            out.write(png_bytes(glowing_wall()))
        self.arrive("good.png", png_bytes(glowing_wall(seed=2)))
        (folder_of(other) / "theirs.png").write_bytes(png_bytes(glowing_wall(seed=3)))
        self.look()
        names = set(Photo.objects.values_list("file_name", flat=True))
        self.assertEqual(names, {"good.png", "theirs.png"})
        (refusal,) = self.client.get(f"/api/shoots/{self.shoot.id}/refusals").json()
        self.assertIn("not UTF-8", refusal["reason"])
        self.assertEqual([p.name for p in (self.incoming / REFUSED).iterdir()], ["b\ufffdd.png"])
        self.assertEqual(self.look(), 0)

    def test_a_file_that_cannot_be_moved_away_is_tried_a_few_times_and_left(self) -> None:
        self.arrive("stuck.png", png_bytes(glowing_wall()))
        with mock.patch("tether.services.take_in.moved", side_effect=PermissionError("read-only")):
            self.look()
            self.assertEqual(self.look(3), 0)  # it is not its time yet
            with mock.patch("tether.services.watch.PAUSE", 0.0):
                self.growth.tried.clear()
                self.assertEqual(self.look(20), TRIES)
        self.assertEqual(Photo.objects.count(), 1)
        self.arrive("stuck.png", png_bytes(glowing_wall(seed=5)))
        self.assertEqual(self.look(), 1)  # it is another one

    def test_one_folder_that_cannot_be_read_keeps_the_others_going(self) -> None:
        other = Shoot.objects.create(owner=self.other, name="Evening")
        begin_watching(other)
        self.arrive("good.png", png_bytes(glowing_wall()))

        def settled(growth: Growth, folder: Path) -> list[Path]:
            if folder == folder_of(other):
                raise PermissionError("not yours")
            return wanted(growth, folder)

        wanted = Growth.settled
        with mock.patch.object(Growth, "settled", settled):
            self.look()
        self.assertEqual(Photo.objects.count(), 1)

    def test_the_same_file_twice_is_one_photo_and_names_are_counted_up(self) -> None:
        for _ in range(2):
            self.arrive("one.png", png_bytes(glowing_wall()))
            self.look()
        self.assertEqual(Photo.objects.count(), 1)
        taken = sorted(p.name for p in (self.incoming / TAKEN).iterdir())
        self.assertEqual(taken, ["one-2.png", "one.png"])

    def test_a_treatment_is_laid_on_and_marked_to_be_looked_at(self) -> None:
        source = self.photo(seed=3)
        body = {"revision": 0, "recipe": recipe_document()}
        self.send("put", f"/photos/{source.id}/recipe", body)
        self.send("put", f"/shoots/{self.shoot.id}/watch", {"source": source.id})
        self.assertEqual(self.told()["source"], source.id)
        self.arrive("next.png", png_bytes(glowing_wall(seed=4)))
        self.look()
        photo = Photo.objects.get(file_name="next.png")
        self.assertEqual(photo.revision, 1)
        recipe = self.client.get(f"/api/photos/{photo.id}/recipe").json()["recipe"]
        self.assertEqual(len(recipe["casts"]), 1)
        self.assertIn("Laid on from", ToCheck.objects.get(photo=photo).why)

    def test_a_worker_that_died_half_way_is_followed_by_one_that_takes_the_file_once(self) -> None:
        self.arrive("one.png", png_bytes(glowing_wall()))
        self.look()
        job = Job.objects.get(kind="take-in")
        Job.objects.filter(id=job.id).update(state="waiting", attempts=1)
        from jobs.runner import work_on

        work_on(job.id)
        job.refresh_from_db()
        self.assertEqual(job.state, "done")
        self.assertEqual(Photo.objects.count(), 1)

    def test_the_camera_s_raw_files_arrive_with_its_own_picture_and_are_developed(self) -> None:
        pressed = self.send("post", f"/shoots/{self.shoot.id}/camera", {}).json()
        self.assertEqual(pressed["file"], "QW_0001.dng")
        self.assertEqual([p.name for p in self.incoming.iterdir()], ["QW_0001.dng"])
        self.look()
        photo = Photo.objects.get()
        self.assertEqual((photo.file_format, photo.bits, photo.preview), ("RAW", 16, False))
        self.assertTrue(any("balanced as shot" in note for note in photo.notes))
        self.assertIsNotNone(photo.shot)
        self.assertEqual(
            sorted(Job.objects.values_list("kind", "state")),
            [("develop", "done"), ("take-in", "done")],
        )
        self.assertEqual(self.told()["exposures"], 1)

    def test_only_for_its_owner_and_not_when_it_is_not_watched(self) -> None:
        self.client.force_login(self.other)
        for method, path in (
            ("put", "watch"),
            ("delete", "watch"),
            ("post", "camera"),
        ):
            answer = self.send(method, f"/shoots/{self.shoot.id}/{path}", {})
            self.refused(answer, 404, "not yours")
        self.refused(self.client.get(f"/api/shoots/{self.shoot.id}/watch"), 404, "not yours")
        own = Shoot.objects.create(owner=self.other, name="Own")
        mine = self.photo()
        self.refused(
            self.send("put", f"/shoots/{own.id}/watch", {"source": mine.id}), 404, "not yours"
        )
        self.client.force_login(self.person)
        self.arrive("one.png", png_bytes(glowing_wall(seed=5)))
        self.client.delete(f"/api/shoots/{self.shoot.id}/watch")
        self.assertEqual(self.look(), 0)
        self.assertFalse(Watch.objects.exists())
        self.assertTrue((self.incoming / "one.png").is_file())

    def test_a_shoot_s_name_never_leads_out_of_the_folder(self) -> None:
        shoot = Shoot.objects.create(owner=self.person, name="../../etc: passwd")
        folder = folder_of(shoot)
        self.assertEqual(folder.parent, self.incoming.parent)

    def test_a_renamed_shoot_keeps_its_folder(self) -> None:
        self.send("put", f"/shoots/{self.shoot.id}", {"name": "Première"})
        told = self.told()["folder"]
        self.assertEqual(folder_of(Shoot.objects.get(id=self.shoot.id)), self.incoming)
        self.assertTrue(str(self.incoming).endswith(told))
        self.arrive("one.png", png_bytes(glowing_wall()))
        self.assertEqual(self.look(), 1)
        self.assertEqual(Photo.objects.get().shoot_id, self.shoot.id)

    def test_names_of_many_bytes(self) -> None:
        for name in ("\u6f22" * 100, "\U0001f3ad" * 110):
            shoot = Shoot.objects.create(owner=self.person, name=name)
            answer = self.send("put", f"/shoots/{shoot.id}/watch", {})
            self.assertEqual(answer.status_code, 200, answer.content)
            folder = folder_of(shoot)
            self.assertTrue(folder.is_dir())
            self.assertLess(len(bytes(folder.name, "utf-8")), 255)
            self.assertNotIn("\ufffd", folder.name)
