"""One colour over a shoot, and what a shoot remembers."""

from typing import Any
from unittest import mock

import numpy as np

from config.tests.cases import ServerCase, glowing_wall, png_bytes, recipe_document
from nubilis.find.finding import Told
from nubilis.recipe.document import Dismissed
from shoots.models import Photo
from shoots.services.add_photo import add_photo
from studio.services.memory import known_objects


class Agreeing(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.rows = [self.photo(seed=s) for s in (7, 8, 9)]

    def agreed(self, **chosen: Any) -> dict[str, Any]:
        body = {"photos": [p.id for p in self.rows], "chosen": chosen}
        job = self.send("post", f"/shoots/{self.shoot.id}/agree", body).json()
        self.assertEqual(job["state"], "done", job)
        return dict(self.client.get(f"/api/jobs/{job['id']}/agreement").json())

    def test_a_clicked_colour_is_found_in_every_photo(self) -> None:
        told = self.agreed(photo=self.rows[0].id, at=[0.8, 0.3])
        self.assertEqual([r["photo"] for r in told["rows"]], [p.id for p in self.rows])
        for row in told["rows"]:
            self.assertLess(row["before"]["distance"], 2.0)
            self.assertFalse(row["off"])

    def test_a_colour_of_the_library_too(self) -> None:
        told = self.agreed(lab=[62.0, 0.0, 0.0])
        self.assertTrue(all(r["at"] for r in told["rows"]))
        nowhere = self.agreed(lab=[50.0, 60.0, -70.0])
        self.assertEqual([r["at"] for r in nowhere["rows"]], [None] * 3)

    def test_a_place_at_the_rim_is_read_there(self) -> None:
        """What is averaged round it ends with the photo."""
        wanted = {"wanted": [0.3, 0.3, 0.3]}
        photo = self.rows[0]
        rim, near = (
            self.send("post", f"/photos/{photo.id}/standing", wanted | {"at": at}).json()["before"]
            for at in ([0.001, 0.001], [0.03, 0.03])
        )
        for one, other in zip(rim["lab"], near["lab"], strict=True):
            self.assertAlmostEqual(one, other, delta=1.5)

    def test_an_outlier_is_brought_level_by_an_ordinary_cast(self) -> None:
        told = self.agreed(photo=self.rows[0].id, at=[0.8, 0.3])
        photo, glow = self.rows[1], [0.15, 0.3]
        body = {"at": glow, "wanted": told["chosen"]}
        before = self.send("post", f"/photos/{photo.id}/standing", body).json()
        self.assertTrue(before["off"])
        answer = self.send("post", f"/photos/{photo.id}/level", body | {"name": "the wall"})
        self.assertEqual(answer.status_code, 200, answer.content)
        now = answer.json()["standing"]
        self.assertLess(now["now"]["distance"], 0.5 * before["now"]["distance"])
        self.assertEqual(now["before"]["distance"], before["before"]["distance"])
        state = answer.json()["state"]
        self.assertEqual(state["revision"], 1)
        self.assertEqual(state["recipe"]["casts"][0]["name"], "Level with the wall")

    def test_places_said_by_hand_count(self) -> None:
        body = {
            "photos": [p.id for p in self.rows],
            "chosen": {"photo": self.rows[0].id, "at": [0.8, 0.3]},
            "said": {self.rows[2].id: [0.15, 0.3]},
        }
        job = self.send("post", f"/shoots/{self.shoot.id}/agree", body).json()
        told = self.client.get(f"/api/jobs/{job['id']}/agreement").json()
        self.assertTrue(told["rows"][2]["by_hand"])
        self.assertTrue(told["rows"][2]["off"])
        self.assertGreater(told["spread_before"], 1.0)

    def test_what_is_missing_or_another_s_is_refused(self) -> None:
        address = f"/shoots/{self.shoot.id}/agree"
        body = {"photos": [self.rows[0].id], "chosen": {}}
        self.refused(self.send("post", address, body), 422, "Choose a colour")
        body["chosen"] = {"photo": self.rows[1].id, "at": [0.1, 0.1]}
        self.refused(self.send("post", address, body), 422, "of one of these photos")
        far = body | {"chosen": {"lab": [5e7, 0.0, 0.0]}}
        self.refused(self.send("post", address, far), 422, "chosen.lab.0")
        self.client.force_login(self.other)
        self.assertEqual(self.send("post", address, body).status_code, 404)
        level = {"at": [0.1, 0.1], "wanted": [0.2, 0.2, 0.2], "name": "x"}
        for verb in ("standing", "level"):
            answer = self.send("post", f"/photos/{self.rows[0].id}/{verb}", level)
            self.assertEqual(answer.status_code, 404)


class Memory(ServerCase):
    def test_references_of_other_photos_are_offered(self) -> None:
        one, two, three = (self.photo(seed=s) for s in (7, 8, 9))
        for number, row in enumerate((one, two, three)):
            row.title = f"Wall {number}"
            row.save(update_fields=["title"])
        for photo in (one, two):
            body = {"revision": 0, "recipe": recipe_document()}
            self.send("put", f"/photos/{photo.id}/recipe", body)
        (known,) = self.client.get(f"/api/photos/{three.id}/materials").json()
        self.assertEqual(known["photos"], [one.title, two.title])
        self.assertEqual(known["kind"], "neutral")
        (known,) = self.client.get(f"/api/photos/{one.id}/materials").json()
        self.assertEqual(known["photos"], [two.title])

    def frame(self, shift: int) -> Photo:
        codes = np.roll(glowing_wall(200, 300, seed=3), shift, axis=1)
        codes[60:120, 100 + shift : 160 + shift] = (180, 60, 50)
        path = self.folder / "frame.png"
        path.write_bytes(png_bytes(codes))
        return add_photo(self.shoot, path, f"frame {shift}.png")[0]

    def test_an_object_that_was_dismissed_is_known_in_the_next_frame(self) -> None:
        one, two = self.frame(0), self.frame(6)
        elsewhere = self.photo()
        box = (0.34, 0.2, 0.52, 0.4)
        dismissed = Dismissed(id="x", shift=(0.2, 0.1), box=box)
        document = recipe_document() | {"casts": [], "dismissed": [dismissed.model_dump()]}
        body = {"revision": 0, "recipe": document}
        answer = self.send("put", f"/photos/{one.id}/recipe", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        finding = mock.Mock(spec=Told)
        finding.id, finding.shift, finding.box = "f", (0.19, 0.12), (0.36, 0.2, 0.54, 0.4)
        self.assertEqual(known_objects(two, [finding]), {"f": one.title})
        self.assertEqual(known_objects(elsewhere, [finding]), {})
        finding.shift = (-0.2, 0.1)
        self.assertEqual(known_objects(two, [finding]), {})
