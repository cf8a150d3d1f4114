"""Treating a selection: proposed, corrected, taken and taken back."""

import io
import json
from typing import Any
from unittest import mock
from zipfile import ZipFile

import cv2
import numpy as np

from batches.models import Batch, Proposal
from batches.services import propose
from config.tests.cases import ServerCase, png_bytes, recipe_document
from core.tests.effort import long_tier
from jobs.models import Job
from nubilis.photo.grey import grey_png
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from shoots.services.add_photo import add_photo
from shoots.store import keep_asset
from studio.models import ToCheck

WIDE, HIGH, SIZE = 300, 200, 60
WAY = [(50, 60), (62, 64), (76, 66)]


def texture(shape: tuple[int, int], seed: int, colour: tuple[int, int, int]) -> np.ndarray:
    rng = np.random.default_rng(seed)
    rough = cv2.GaussianBlur(rng.normal(0.0, 1.0, (*shape, 1)).astype(np.float32), (0, 0), 2.0)
    return np.array(colour) + 160.0 * np.atleast_3d(rough)


def moving(at: tuple[int, int], seed: int) -> np.ndarray:
    """A warm square before a grey wall."""
    codes = texture((HIGH, WIDE), 1, (120, 122, 125))
    codes += np.random.default_rng(seed).normal(0.0, 1.0, codes.shape)
    thing = texture((SIZE, SIZE), 50, (190, 120, 90))
    thing[20:30, 10:25] = 40.0
    x, y = at
    codes[y : y + SIZE, x : x + SIZE] = thing
    return np.clip(codes, 0, 255).astype(np.uint8)


class BatchCase(ServerCase):
    def frames(self) -> list[Photo]:
        rows = []
        for i, at in enumerate(WAY):
            path = self.folder / f"frame {i}.png"
            path.write_bytes(png_bytes(moving(at, i)))
            rows.append(add_photo(self.shoot, path, path.name)[0])
        return rows

    def save(self, photo: Photo, document: dict[str, Any], revision: int = 0) -> None:
        body = {"revision": revision, "recipe": document}
        answer = self.send("put", f"/photos/{photo.id}/recipe", body)
        self.assertEqual(answer.status_code, 200, answer.content)

    def masked(self, photo: Photo) -> None:
        """A cast whose mask is the square on the first frame."""
        mask = np.zeros((HIGH, WIDE), dtype=np.uint8)
        x, y = WAY[0]
        mask[y : y + SIZE, x : x + SIZE] = 255
        asset = keep_asset(grey_png(mask), photo)
        document = recipe_document(name="Glow")
        parts = [{"kind": "picture", "id": "m", "asset": asset.model_dump()}]
        document["casts"][0]["mask"] = {"parts": parts}
        self.save(photo, document)

    def begin(self, kind: str, photos: list[Photo], **more: Any) -> dict[str, Any]:
        body = {"kind": kind, "photos": [p.id for p in photos], **more}
        answer = self.send("post", f"/shoots/{self.shoot.id}/batches", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        begun = answer.json()
        self.assertEqual(begun["job"]["state"], "done", begun)
        return self.told(begun["batch"])

    def told(self, batch: str) -> dict[str, Any]:
        return dict(self.client.get(f"/api/batches/{batch}").json())

    def recipe(self, photo: Photo) -> dict[str, Any]:
        return dict(self.client.get(f"/api/photos/{photo.id}/recipe").json())

    def picture(self, batch: dict[str, Any], photo: Photo, **words: object) -> np.ndarray:
        address = f"/api/batches/{batch['id']}/photos/{photo.id}/picture"
        answer = self.client.get(address, words)
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return cv2.imdecode(np.frombuffer(answer.content, np.uint8), cv2.IMREAD_GRAYSCALE)


class Following(BatchCase):
    def setUp(self) -> None:
        super().setUp()
        self.rows = self.frames()
        self.masked(self.rows[0])
        self.batch = self.begin("follow", self.rows, source=self.rows[0].id)

    def test_each_frame_is_proposed_and_nothing_is_saved(self) -> None:
        first, *others = self.batch["proposals"]
        self.assertFalse(first["proposed"])
        for proposal in others:
            self.assertTrue(proposal["proposed"])
            self.assertFalse(proposal["check"])
            self.assertLess(proposal["after"], proposal["before"])
        self.assertEqual([p.revision for p in Photo.objects.all()], [1, 0, 0])

    def test_a_mask_is_shown_where_its_thing_is(self) -> None:
        cast = self.batch["proposals"][2]["casts"][0]["id"]
        matte = self.picture(self.batch, self.rows[2], show="matte", cast=cast, edge=WIDE)
        x, y = WAY[2]
        there = np.zeros(matte.shape, dtype=bool)
        there[y : y + SIZE, x : x + SIZE] = True
        inside = matte > 127
        self.assertGreater((inside & there).sum() / (inside | there).sum(), 0.85)

    def test_taking_all_is_one_step_each_and_the_whole_can_be_taken_back(self) -> None:
        address = f"/batches/{self.batch['id']}"
        taken = self.send("post", f"{address}/take", {}).json()
        self.assertEqual((taken["photos"], taken["left"]), (2, []))
        state = self.recipe(self.rows[2])
        self.assertEqual(state["revision"], 1)
        (cast,) = state["recipe"]["casts"]
        source = self.recipe(self.rows[0])["recipe"]["casts"][0]
        self.assertEqual(cast["link"]["id"], source["id"])
        self.assertTrue(all(p["taken"] for p in taken["batch"]["proposals"][1:]))
        # One is worked on meanwhile; it stays as it is.
        self.save(self.rows[1], recipe_document(), 1)
        back = self.send("post", f"{address}/take-back", {}).json()
        self.assertEqual(back["photos"], 1)
        self.assertIn("worked on since", back["left"][0])
        self.assertEqual(self.recipe(self.rows[2])["recipe"]["casts"], [])
        self.assertTrue(self.recipe(self.rows[2])["can_redo"])
        # And it can be taken again.
        again = self.send("post", f"{address}/take", {}).json()
        self.assertEqual(again["photos"], 1)
        self.assertEqual(len(self.recipe(self.rows[2])["recipe"]["casts"]), 1)

    def test_some_are_taken_and_those_that_moved_on_are_told(self) -> None:
        self.save(self.rows[1], recipe_document())
        address = f"/batches/{self.batch['id']}/take"
        taken = self.send("post", address, {"photos": [self.rows[1].id]}).json()
        self.assertEqual(taken["photos"], 0)
        self.assertIn("changed elsewhere", taken["left"][0])
        self.assertEqual(self.recipe(self.rows[2])["revision"], 0)

    def test_a_correction_is_a_key_that_the_others_go_by(self) -> None:
        last, middle = self.rows[2], self.rows[1]
        cast = self.batch["proposals"][2]["casts"][0]["id"]
        x, y = (v / WIDE for v in WAY[2])
        edge = SIZE / WIDE
        # The lower half is not meant.
        strokes = [
            {
                "size": edge / 2,
                "feather": 0.0,
                "erase": True,
                "points": [[[x, y + edge * 0.75], 1.0], [[x + edge, y + edge * 0.75], 1.0]],
            }
        ]
        address = f"/batches/{self.batch['id']}"
        body = {"cast": cast, "strokes": strokes}
        answer = self.send("post", f"{address}/photos/{last.id}/correct", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        corrected = answer.json()["proposals"][2]
        self.assertTrue(corrected["key"])
        before = self.picture(self.batch, middle, show="matte", cast=self.cast_on(1), edge=WIDE)
        self.assertEqual(self.send("post", f"{address}/again", {}).json()["state"], "done")
        self.batch = self.told(self.batch["id"])
        self.assertEqual([p["key"] for p in self.batch["proposals"]], [True, False, True])
        self.assertEqual(self.batch["proposals"][2]["stamp"], corrected["stamp"])
        after = self.picture(self.batch, middle, show="matte", cast=self.cast_on(1), edge=WIDE)
        self.assertLess(after.astype(float).sum(), before.astype(float).sum())
        # Let go, it is followed like the rest.
        self.send("post", f"{address}/photos/{last.id}/let-go", {})
        self.send("post", f"{address}/again", {})
        whole = self.told(self.batch["id"])["proposals"][2]
        self.assertFalse(whole["key"])
        self.assertNotEqual(whole["stamp"], corrected["stamp"])

    def cast_on(self, place: int) -> str:
        return str(self.batch["proposals"][place]["casts"][0]["id"])

    @long_tier
    def test_following_again_replaces_what_came_and_keeps_what_was_touched_up(self) -> None:
        self.send("post", f"/batches/{self.batch['id']}/take", {})
        again = self.begin("follow", self.rows, source=self.rows[0].id)
        self.assertEqual([len(p["casts"]) for p in again["proposals"][1:]], [1, 1])
        self.assertEqual([p["key"] for p in again["proposals"]], [True, False, False])
        # Touched up on the photo itself, it is a key.
        document = self.recipe(self.rows[2])["recipe"]
        document["casts"][0]["mask"]["parts"][0]["strength"] = 0.5
        self.save(self.rows[2], document, 1)
        again = self.begin("follow", self.rows, source=self.rows[0].id)
        self.assertEqual([p["key"] for p in again["proposals"]], [True, False, True])

    def test_what_cannot_be_followed_says_so_and_is_off(self) -> None:
        path = self.folder / "elsewhere.png"
        path.write_bytes(
            png_bytes(np.clip(texture((HIGH, WIDE), 9, (60, 150, 60)), 0, 255).astype("u1"))
        )
        other, _ = add_photo(self.shoot, path, path.name)
        batch = self.begin("follow", [*self.rows, other], source=self.rows[0].id)
        proposal = batch["proposals"][3]
        self.assertTrue(proposal["check"])
        self.assertIn("Not followed", proposal["note"])
        self.assertEqual([c["on"] for c in proposal["casts"]], [False])
        self.send("post", f"/batches/{batch['id']}/take", {"photos": [other.id]})
        card = self.client.get(f"/api/photos/{other.id}/card").json()
        self.assertEqual(card["state"], "check")
        self.assertEqual(ToCheck.objects.get().photo_id, other.id)


class Carrying(BatchCase):
    def test_casts_are_carried_with_shapes_that_stay(self) -> None:
        one, two = self.photo(), self.photo(seed=8)
        self.save(one, recipe_document(name="Glow"))
        batch = self.begin("carry", [one, two], source=one.id)
        (proposal,) = batch["proposals"]
        self.assertTrue(proposal["check"])
        self.assertIn("Shapes keep their place", proposal["note"])
        row = Proposal.objects.get()
        (pair,) = row.recipe.casts[0].pairs
        assert pair.reference is not None
        # The sample is found again by its material; the reference stays the first photo's.
        self.assertIsNotNone(pair.tainted.at)
        self.assertIsNone(pair.reference.at)

    def test_the_figure_is_the_strongest_new_cast_s(self) -> None:
        photo = self.photo()
        weak, strong = recipe_document()["casts"][0], recipe_document()["casts"][0]
        weak = weak | {"id": "w", "pairs": [dict(weak["pairs"][0])]}
        weak["pairs"][0]["tainted"] = weak["pairs"][0]["tainted"] | {"rgb": [0.31, 0.295, 0.29]}
        recipe = Recipe.model_validate(recipe_document() | {"casts": [weak, strong]})
        each = [propose._figure(photo, propose.Draft(recipe, (i,)))[0] or 0.0 for i in ("w", "a")]
        both = propose._figure(photo, propose.Draft(recipe, ("w", "a")))[0]
        self.assertLess(each[0], each[1])
        self.assertEqual(both, each[1])

    def test_a_photo_without_casts_has_nothing_to_carry(self) -> None:
        one, two = self.photo(), self.photo(seed=8)
        for kind in ("carry", "follow"):
            body = {"kind": kind, "photos": [one.id, two.id], "source": one.id}
            answer = self.send("post", f"/shoots/{self.shoot.id}/batches", body)
            self.refused(answer, 422, "has casts")
        self.save(one, recipe_document())
        body = {"kind": "carry", "photos": [one.id], "source": one.id}
        answer = self.send("post", f"/shoots/{self.shoot.id}/batches", body)
        self.refused(answer, 422, "more photos")
        self.assertEqual(Batch.objects.count(), 0)


class Adopting(BatchCase):
    def test_what_was_found_is_adopted_as_far_as_it_is_sure(self) -> None:
        photo = self.rows = self.frames()[0]
        batch = self.begin("adopt", [photo], least=1.0)
        (proposal,) = batch["proposals"]
        self.assertFalse(proposal["proposed"])
        self.assertTrue(proposal["note"])

    def test_one_that_fails_keeps_none_of_the_others(self) -> None:
        rows = self.frames()
        with mock.patch("batches.services.propose.look", side_effect=_failing):
            batch = self.begin("adopt", rows)
        self.assertEqual([p["note"] for p in batch["proposals"]], ["it is away"] * 3)


def _failing(*_: object) -> None:
    from nubilis.errors import PhotoError

    raise PhotoError("it is away")


class Whose(BatchCase):
    def test_other_people_s_batches_are_not_there(self) -> None:
        rows = self.frames()
        self.masked(rows[0])
        batch = self.begin("follow", rows, source=rows[0].id)
        self.client.force_login(self.other)
        address = f"/batches/{batch['id']}"
        self.assertEqual(self.client.get(f"/api{address}").status_code, 404)
        for verb in ("take", "take-back", "again"):
            self.assertEqual(self.send("post", f"{address}/{verb}", {}).status_code, 404)
        picture = f"/api{address}/photos/{rows[1].id}/picture"
        self.assertEqual(self.client.get(picture).status_code, 404)
        body = {"cast": "a", "strokes": [{"size": 0.1, "points": [[[0.1, 0.1], 1.0]]}]}
        for verb in ("correct", "let-go"):
            answer = self.send("post", f"{address}/photos/{rows[1].id}/{verb}", body)
            self.assertEqual(answer.status_code, 404)
        answer = self.send(
            "post", f"/shoots/{self.shoot.id}/batches", {"kind": "adopt", "photos": [rows[0].id]}
        )
        self.assertEqual(answer.status_code, 404)

    def test_a_job_whose_batch_is_gone_ends(self) -> None:
        rows = self.frames()
        self.masked(rows[0])
        batch = self.begin("follow", rows, source=rows[0].id)
        Batch.objects.all().delete()
        job = Job.objects.get(kind="treat")
        Job.objects.filter(id=job.id).update(state="failed")
        again = self.client.post(f"/api/jobs/{job.id}/take-up").json()
        self.assertEqual(again["state"], "failed")
        self.assertTrue(batch)


class DeliveringASet(BatchCase):
    def test_several_files_come_in_one(self) -> None:
        one, two = self.photo(), self.photo(seed=8)
        body = {"photos": [one.id, two.id], "order": {"file_format": "png"}}
        job = self.send("post", f"/shoots/{self.shoot.id}/deliveries", body).json()
        self.assertEqual((job["state"], job["files"]), ("done", 2), json.dumps(job))
        answer = self.client.get(f"/api/jobs/{job['id']}/files.zip")
        data = b"".join(answer)  # type: ignore[arg-type]
        with ZipFile(io.BytesIO(data)) as found:
            self.assertIsNone(found.testzip())
            self.assertEqual(found.namelist(), ["wall-nubilis.png", "wall-nubilis-2.png"])
        states = self.client.get(f"/api/shoots/{self.shoot.id}/cards").json()
        self.assertEqual([c["state"] for c in states], ["delivered", "delivered"])
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"/api/jobs/{job['id']}/files.zip").status_code, 404)
