"""Full-size files: right pixels, right type, and only for their owner."""

import time
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest import mock
from uuid import UUID

import numpy as np
from django.conf import settings
from django.test import override_settings
from django.utils import timezone

from accounts.models import User
from config.tests.cases import ServerCase, glowing_wall, recipe_document
from delivery.models import Delivery
from delivery.services.deliver import sweep_deliveries
from jobs.progress import Progress
from jobs.runner import work_on
from nubilis.colour.standard import standard_like
from nubilis.photo.read import read_photo
from shoots import files
from shoots.services.folders import own_folder


class Deliveries(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()
        self.send(
            "put", f"/photos/{self.row.id}/recipe", {"revision": 0, "recipe": recipe_document()}
        )

    def ask(self, file_format: str = "png", revision: int = 1, **more: Any) -> Any:
        body = {"revision": revision, "order": {"file_format": file_format, **more}}
        return self.send("post", f"/photos/{self.row.id}/deliveries", body)

    def make(self, file_format: str = "png") -> dict[str, Any]:
        """What is said of the file that a job made."""
        job = self.ask(file_format).json()
        self.assertEqual((job["state"], job["share"], job["error"]), ("done", 1.0, ""))
        return dict(self.client.get(f"/api/deliveries/{job['delivery']}/about").json())

    def test_a_download_can_be_gone_on_with(self) -> None:
        self.make()
        row = Delivery.objects.get()
        address = f"/api/deliveries/{row.id}"
        whole = self.client.get(address)
        data, mark = b"".join(whole.streaming_content), whole.headers["ETag"]
        self.assertEqual((whole.status_code, len(data)), (200, row.size_bytes))
        self.assertEqual(whole.headers["Accept-Ranges"], "bytes")
        size = len(data)
        for asked, start, stop in (
            ("bytes=0-0", 0, 1), ("bytes=5-9", 5, 10), ("bytes=10-", 10, size),
            ("bytes=-7", size - 7, size), (f"bytes=3-{10 * size}", 3, size),
        ):  # fmt: skip
            part = self.client.get(address, HTTP_RANGE=asked, HTTP_IF_RANGE=mark)
            self.assertEqual(part.status_code, 206, asked)
            self.assertEqual(b"".join(part.streaming_content), data[start:stop], asked)
            self.assertEqual(part.headers["Content-Range"], f"bytes {start}-{stop - 1}/{size}")
            self.assertEqual(part.headers["Content-Length"], str(stop - start))
        for asked in ("bytes=9-5", "bytes=0-1,4-5", "lines=1-2", "bytes=-", "bytes=a-b"):
            self.assertEqual(self.client.get(address, HTTP_RANGE=asked).status_code, 200, asked)
        beyond = self.client.get(address, HTTP_RANGE=f"bytes={size}-")
        self.assertEqual(beyond.status_code, 416)
        self.assertEqual(beyond.headers["Content-Range"], f"bytes */{size}")
        other = self.client.get(address, HTTP_RANGE="bytes=5-9", HTTP_IF_RANGE='"another"')
        self.assertEqual(other.status_code, 200)

    def test_an_export_names_the_photos_that_it_lost_on_its_way(self) -> None:
        rows = [self.row, self.photo(seed=2), self.photo(seed=3)]
        for row, title in zip(rows, ("Stays", "In the bin", "Gone for good"), strict=True):
            type(row).objects.filter(id=row.id).update(title=title)
        order = {"photos": [r.id for r in rows], "order": {"file_format": "png"}}
        with override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads"):
            job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", order).json()
        self.throw_away(rows[2])
        self.send("post", f"/shoots/{self.shoot.id}/remove", {"photos": [rows[1].id]})
        work_on(UUID(job["id"]))
        told = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual((told["state"], told["done"], told["total"]), ("done", 1, 3))
        self.assertEqual((told["files"], len(told["troubles"])), (1, 2))
        troubles = " ".join(told["troubles"])
        self.assertIn("In the bin: It is in the bin.", troubles)
        self.assertIn("Gone for good: it was deleted.", troubles)

    def test_how_far_it_is_only_grows(self) -> None:
        told: list[float] = []

        def tell(_: Progress, share: float) -> None:
            told.append(share)

        with mock.patch.object(Progress, "tell", tell):
            self.ask(masks="png", proof=["json", "csv"])
        self.assertEqual(told, sorted(told))
        self.assertGreater(told[0], -1e-9)
        self.assertAlmostEqual(told[-1], 1.0)
        self.assertGreater(len({round(t, 3) for t in told if t > 0.8}), 2)

    def test_two_accounts_never_share_a_folder(self) -> None:
        names = (
            "tour",
            "tour.",
            "tour..",
            "con",
            "_con",
            "a" * 150,
            "\u6f22" * 150,
            "\u6f22" * 149,
        )
        people = [User.objects.create_user(name, password="x") for name in names]
        self.assertEqual(len({own_folder(p) for p in people}), len(names))
        for person in people:
            self.assertLess(len(own_folder(person).encode()), 255)
            self.assertNotIn("/", own_folder(person))

    def test_every_format(self) -> None:
        for file_format, suffix, media, bits in (
            ("jpeg", ".jpg", "image/jpeg", 8),
            ("png", ".png", "image/png", 8),
            ("png16", ".png", "image/png", 16),
            ("tiff", ".tif", "image/tiff", 8),
            ("tiff16", ".tif", "image/tiff", 16),
            ("avif", ".avif", "image/avif", 8),
            ("jxl", ".jxl", "image/jxl", 8),
            ("jxl16", ".jxl", "image/jxl", 16),
        ):
            made = self.make(file_format)
            self.assertEqual(made["name"], f"wall-nubilis{suffix}")
            response = self.client.get(f"/api/deliveries/{made['id']}")
            self.assertEqual(response["Content-Type"], media)
            self.assertIn(made["name"], response["Content-Disposition"])
            data = b"".join(response.streaming_content)
            self.assertEqual(len(data), made["size_bytes"])
            photo = read_photo(data)
            self.assertEqual((photo.width, photo.height, photo.bits), (120, 80, bits))
            self.assertEqual(standard_like(photo.profile), "srgb")

    def test_in_another_space_and_smaller(self) -> None:
        job = self.ask(space="display-p3", long_edge=60).json()
        made = self.client.get(f"/api/deliveries/{job['delivery']}/about").json()
        self.assertIsNone(made["unchanged"])
        response = self.client.get(f"/api/deliveries/{made['id']}")
        photo = read_photo(b"".join(response.streaming_content))
        self.assertEqual((photo.width, photo.height, photo.profile.name), (60, 40, "Display P3"))
        self.refused(self.ask(long_edge=3), 422, "long_edge")

    def test_what_a_file_has_no_place_for_is_told(self) -> None:
        made = self.make("png")
        self.assertEqual(made["notes"], [])
        said = "Left out: the IPTC; AVIF has no place for it."
        with mock.patch("nubilis.deliver.pieces.left_out", return_value=(said,)):
            self.assertEqual(self.make("avif")["notes"], [said])
            order = {
                "photos": [self.row.id, self.photo(seed=2).id],
                "order": {"file_format": "avif"},
            }
            job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", order).json()
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}").json()["notes"], [said])

    def test_outside_the_mask_to_the_bit_and_counted(self) -> None:
        made = self.make()
        data = b"".join(self.client.get(f"/api/deliveries/{made['id']}").streaming_content)
        codes, original = read_photo(data).codes, glowing_wall()
        np.testing.assert_array_equal(codes[:, 60:], original[:, 60:])
        same = (codes == original).all(axis=2).mean()
        self.assertAlmostEqual(made["unchanged"], same)
        self.assertLess(same, 0.95)
        finer = self.make("png16")[
            "unchanged"
        ]  # where a code moved by less than one of eight bits, too
        self.assertTrue(0.5 < finer <= same, (finer, same))
        self.assertIsNone(self.make("jpeg")["unchanged"])

    def test_what_was_not_looked_at_is_not_delivered(self) -> None:
        self.refused(self.ask(revision=0), 409, "look again")
        self.refused(self.ask("gif"), 422, "file_format")
        self.assertEqual(Delivery.objects.count(), 0)

    def test_only_for_its_owner(self) -> None:
        made = self.make()
        self.client.force_login(self.other)
        self.refused(self.client.get(f"/api/deliveries/{made['id']}"), 404, "not yours")
        self.refused(self.ask(), 404, "not yours")

    def test_old_files_go(self) -> None:
        first = Delivery.objects.get(id=self.make()["id"])
        Delivery.objects.update(made=timezone.now() - timedelta(days=2))
        with self.captureOnCommitCallbacks(execute=True):
            self.make()
        self.assertFalse(files.local(first.stored_as).exists())
        self.assertEqual(Delivery.objects.count(), 1)
        self.refused(self.client.get(f"/api/deliveries/{first.id}"), 404, "nothing here")

    def test_files_go_with_their_photo(self) -> None:
        self.make()
        with self.captureOnCommitCallbacks(execute=True):
            self.throw_away(self.row)
        self.assertEqual(list(Path(settings.DELIVERIES).iterdir()), [])

    def test_a_photo_that_moves_on_before_its_turn_is_not_delivered(self) -> None:
        with override_settings(JOBS_AT_ONCE=False), mock.patch("jobs.runner.threads"):
            job = self.ask().json()
        self.assertEqual(job["state"], "waiting")
        body = {"revision": 1, "recipe": recipe_document(0.3)}
        self.send("put", f"/photos/{self.row.id}/recipe", body)
        work_on(UUID(job["id"]))
        told = self.client.get(f"/api/jobs/{job['id']}").json()
        self.assertEqual(told["state"], "failed")
        self.assertIn("look again", told["error"])

    def test_files_without_a_row_and_rows_without_a_file_are_swept(self) -> None:
        kept, lost = (Delivery.objects.get(id=self.make()["id"]) for _ in range(2))
        files.local(lost.stored_as).unlink()
        stray = Path(settings.DELIVERIES) / "stray.png"
        stray.write_bytes(b"a file whose process died before it was recorded")
        sweep_deliveries(time.time() + 1.0)
        self.assertEqual(list(Delivery.objects.all()), [kept])
        self.assertEqual(list(Path(settings.DELIVERIES).iterdir()), [files.local(kept.stored_as)])

    def test_a_failed_write_leaves_nothing(self) -> None:
        full = OSError(28, "No space left on device")
        with mock.patch("nubilis.photo.write.os.replace", side_effect=full):
            job = self.ask().json()
        self.assertEqual(job["state"], "failed")
        self.assertIn("disk is full", job["error"])
        self.assertEqual(Delivery.objects.count(), 0)
        self.assertEqual(list(Path(settings.DELIVERIES).iterdir()), [])
