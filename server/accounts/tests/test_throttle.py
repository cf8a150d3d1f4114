"""Guessing is slowed down, and slows nobody else."""

import threading
from typing import Any

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings

from accounts.models import FailedSignIn, Noted, User
from accounts.services import throttle
from config.errors import Refused
from config.tests.cases import ServerCase, png_bytes
from nubilis.photo.grey import grey_png


class Guessing(ServerCase):
    def sign_in(self, password: str, name: str = "ida", address: str = "192.0.2.1") -> Any:
        return self.client.post(
            "/api/session",
            {"name": name, "password": password},
            content_type="application/json",
            REMOTE_ADDR=address,
        )

    def setUp(self) -> None:
        super().setUp()
        self.client.logout()

    def test_after_some_failures_even_the_right_password_waits_and_other_places_do_not(
        self,
    ) -> None:
        for _ in range(throttle.PAIR):
            self.refused(self.sign_in("wrong"), 401, "do not match")
        answer = self.sign_in("hand and rod")
        self.refused(answer, 429, "quarter of an hour")
        self.assertIn("Retry-After", answer.headers)
        self.assertEqual(self.sign_in("hand and rod", address="192.0.2.2").status_code, 200)

    def test_spellings_of_one_name_are_one_name(self) -> None:
        """Capitals and compatible letters, each of which would otherwise have tries of its own."""
        spellings = ["ida", "IDA", "Ida", "iDA", "\uff49\uff44\uff41"]
        for i in range(throttle.PAIR):
            self.refused(self.sign_in("wrong", name=spellings[i % 5]), 401, "do not match")
        for name in spellings:
            self.refused(self.sign_in("hand and rod", name=name), 429, "quarter of an hour")

    def test_other_letters_are_another_name(self) -> None:
        for name in ("\u00edda", "ida ", " ida", "id\u0101", "ida\u200b"):
            self.refused(self.sign_in("hand and rod", name=name), 401, "do not match")
        self.assertEqual(self.sign_in("hand and rod", name="Ida").status_code, 200)

    def test_counting_goes_on_however_many_variants_there_are(self) -> None:
        for i in range(300):
            throttle.failed("\u00edda" if i % 2 else "ida ", f"198.51.100.{i % 200}")
        for _ in range(throttle.PAIR):
            self.refused(self.sign_in("wrong"), 401, "do not match")
        self.refused(self.sign_in("hand and rod"), 429, "quarter of an hour")

    def test_a_right_one_forgets_the_wrong_ones(self) -> None:
        for _ in range(throttle.PAIR - 1):
            self.sign_in("wrong")
        self.assertEqual(self.sign_in("hand and rod").status_code, 200)
        self.assertEqual(FailedSignIn.objects.count(), 0)
        self.assertEqual([n.what for n in Noted.objects.all()], ["signed in"])

    def test_one_address_that_tries_many_names_waits(self) -> None:
        for i in range(throttle.ADDRESS):
            self.sign_in("wrong", name=f"name {i}")
        self.refused(self.sign_in("wrong", name="yet another"), 429, "quarter")

    def test_few_passwords_are_hashed_at_once_and_the_rest_is_told(self) -> None:
        inside, go_on = threading.Event(), threading.Event()

        def slow() -> None:
            with throttle.hashing():
                inside.set()
                go_on.wait()

        def wait_too() -> None:
            with throttle.hashing():
                pass

        threads = [threading.Thread(target=slow)]
        threads[0].start()
        inside.wait()
        threads += [threading.Thread(target=wait_too) for _ in range(throttle.WAITING)]
        for thread in threads[1:]:
            thread.start()
        while True:  # until all of them wait
            try:
                with throttle.hashing():
                    self.fail("there was room")
            except Refused as refused:
                self.assertEqual(refused.status, 503)
                break
        go_on.set()
        for thread in threads:
            thread.join()


class Quotas(ServerCase):
    def test_no_more_than_one_s_room_and_what_is_there_stays(self) -> None:
        row = self.photo()
        User.objects.filter(id=self.person.id).update(quota_mb=1)
        self.shoot.owner.refresh_from_db()
        with override_settings(QUOTA_MB=0):
            from shoots.services.quota import check_quota, used_bytes

            self.assertEqual(used_bytes(self.shoot.owner), row.size_bytes)
            check_quota(self.shoot.owner, 900_000 - row.size_bytes)
            with self.assertRaisesRegex(Refused, "room for 1 MB"):
                check_quota(self.shoot.owner, 1_000_001)

    def test_mask_pictures_and_camera_files_count(self) -> None:
        flat = np.full((700, 700, 3), 150, dtype=np.uint8)
        photo_id = self.upload(png_bytes(flat)).json()["photo"]["id"]
        User.objects.filter(id=self.person.id).update(quota_mb=1)
        noise = np.random.default_rng(1).integers(0, 255, (700, 700), dtype=np.uint8)
        refused = 0
        for part in (noise, noise[::-1], noise.T):
            picture = SimpleUploadedFile("mask.png", grey_png(np.ascontiguousarray(part)))
            address = f"/api/photos/{photo_id}/mask-picture"
            answer = self.client.post(address, {"file": picture, "id": "m"})
            refused += answer.status_code == 413
        self.assertEqual(refused, 1)
        for _ in range(3):
            answer = self.send("post", f"/shoots/{self.shoot.id}/camera", {})
        self.refused(answer, 413, "room for 1 MB")
        held = sum(p.stat().st_size for p in self.folder.rglob("*") if p.is_file())
        self.assertLess(held, 1_100_000)
