"""Files in a store that speaks S3: a simulated one on loopback."""

import io
import shutil
from pathlib import Path
from zipfile import ZipFile

import boto3
from django.conf import settings
from django.test import override_settings
from moto.server import ThreadedMotoServer

from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from delivery.models import Delivery
from nubilis.photo.read import read_photo
from shoots import files
from shoots.store import original_path
from studio.engines import EnginePool

BUCKET = "quillwick"


class Elsewhere(ServerCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.server = ThreadedMotoServer(ip_address="127.0.0.1", port=0, verbose=False)
        cls.server.start()
        host, port = cls.server.get_host_and_port()
        cls.address = f"http://{host}:{port}"
        cls.keys = {"aws_access_key_id": "made", "aws_secret_access_key": "up"}
        cls.s3 = boto3.client("s3", endpoint_url=cls.address, region_name="us-east-1", **cls.keys)

    @classmethod
    def tearDownClass(cls) -> None:
        cls.server.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        super().setUp()
        self.s3.create_bucket(Bucket=BUCKET)
        self.addCleanup(self.empty)
        options = {
            "bucket_name": BUCKET, "endpoint_url": self.address, "access_key": "made",
            "secret_key": "up", "region_name": "us-east-1", "file_overwrite": True,
        }  # fmt: skip
        far = {"BACKEND": "storages.backends.s3.S3Storage", "OPTIONS": options}
        own = override_settings(STORAGES=settings.STORAGES | {"files": far})
        own.enable()
        self.addCleanup(own.disable)

    def empty(self) -> None:
        for name in self.names():
            self.s3.delete_object(Bucket=BUCKET, Key=name)
        self.s3.delete_bucket(Bucket=BUCKET)

    def names(self) -> list[str]:
        told = self.s3.list_objects_v2(Bucket=BUCKET)
        return [one["Key"] for one in told.get("Contents", [])]

    def forget_copies(self) -> None:
        shutil.rmtree(settings.COPIES)
        Path(settings.COPIES).mkdir()

    def test_photos_thumbnails_masks_and_deliveries_live_there(self) -> None:
        data = png_bytes(glowing_wall())
        row = self.photo()
        self.assertEqual(list(Path(settings.ORIGINALS).rglob("*")), [])
        self.assertIn(f"originals/{row.content_hash[:2]}/{row.content_hash}", self.names())
        self.forget_copies()  # as on another machine
        self.assertEqual(original_path(row.content_hash).read_bytes(), data)
        self.send("put", f"/photos/{row.id}/recipe", {"revision": 0, "recipe": recipe_document()})
        body = {"revision": 1, "order": {"file_format": "png"}}
        job = self.send("post", f"/photos/{row.id}/deliveries", body).json()
        self.assertEqual(job["state"], "done", job)
        self.forget_copies()
        answer = self.client.get(f"/api/deliveries/{job['delivery']}")
        photo = read_photo(b"".join(answer.streaming_content))
        self.assertEqual((photo.width, photo.height), (120, 80))
        shown = self.client.get(f"/api/photos/{row.id}/thumbnail")
        self.assertEqual(shown.status_code, 200)
        with self.captureOnCommitCallbacks(execute=True):
            self.throw_away(row)
        self.assertEqual(self.names(), [])

    def test_deliveries_are_not_fetched_before_they_are_sent(self) -> None:
        row = self.photo()
        body = {"photos": [row.id], "order": {"file_format": "png"}}
        job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", body).json()
        self.forget_copies()
        zipped = self.client.get(f"/api/jobs/{job['id']}/files.zip")
        (name,) = ZipFile(io.BytesIO(b"".join(zipped.streaming_content))).namelist()
        self.assertTrue(name.endswith(".png"))
        delivery = Delivery.objects.get()
        answer = self.client.get(f"/api/deliveries/{delivery.id}", HTTP_RANGE="bytes=8-15")
        self.assertEqual(b"".join(answer.streaming_content)[4:], b"IHDR")
        self.assertEqual(list(Path(settings.COPIES).iterdir()), [])

    def test_what_is_being_read_stays(self) -> None:
        name = "assets/aa/read"
        files.put(name, lambda path: path.write_bytes(b"whole"))
        with files.reading(name) as path:
            with override_settings(COPIES_BYTES=0):
                files.put("assets/aa/other", lambda path: path.write_bytes(b"more"))
            self.assertFalse(files._copy_path(name).exists())
            self.assertEqual(path.read_bytes(), b"whole")
        self.assertFalse(path.exists())
        with self.assertRaises(FileNotFoundError), files.reading("assets/aa/none"):
            pass
        with self.assertRaises(FileNotFoundError):
            list(files.pieces("assets/aa/none"))

    def test_what_is_missing_or_away_is_told_in_a_line(self) -> None:
        row = self.photo()
        name = f"originals/{row.content_hash[:2]}/{row.content_hash}"
        self.s3.delete_object(Bucket=BUCKET, Key=name)
        self.assertIsNone(files.size(name))
        self.forget_copies()
        with self.assertRaisesRegex(ValueError, "missing"):
            EnginePool().get(row)

    def test_copies_are_kept_within_their_room(self) -> None:
        with override_settings(COPIES_BYTES=1500):
            for i in range(4):
                files.put(f"assets/aa/{i}", lambda path: path.write_bytes(bytes(1000)))
        kept = [p for p in Path(settings.COPIES).rglob("*") if p.is_file()]
        self.assertEqual(len(kept), 1)
        self.assertEqual(files.local("assets/aa/0").read_bytes(), bytes(1000))

    def test_copies_that_just_fit_stay(self) -> None:
        with override_settings(COPIES_BYTES=2000):
            for i in range(2):
                files.put(f"assets/aa/{i}", lambda path: path.write_bytes(bytes(1000)))
            self.assertEqual(len([p for p in Path(settings.COPIES).rglob("*") if p.is_file()]), 2)

    def test_half_a_file_is_never_seen(self) -> None:
        def half(path: Path) -> None:
            path.write_bytes(b"half")
            raise OSError(28, "No space left on device")

        with self.assertRaises(OSError):
            files.put("assets/aa/half", half)
        self.assertEqual(self.names(), [])
        self.assertEqual(list(Path(settings.COPIES).rglob("*half*")), [])
