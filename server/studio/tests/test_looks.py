"""Looking over HTTP: told step by step, kept, sharpened by words, and shown on the contact sheet."""

import io
import json
from typing import Any

import numpy as np
from PIL import Image

from config.tests.cases import ServerCase, close_content, png_bytes
from nubilis.recipe.document import VERSION
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo
from shoots.store import asset_path, original_path
from shoots.thumbnails import thumbnail_path
from studio.models import KeptSurvey

EMPTY = {"format": "nubilis-recipe", "version": VERSION, "casts": []}


def lit_stage(h: int = 160, w: int = 240) -> np.ndarray:
    """Muted paints, each at many places; an amber light from the left."""
    rng = np.random.default_rng(4)
    palette = rng.uniform(90, 180, (14, 1)) * rng.uniform(0.9, 1.12, (14, 3))
    tiles = palette[rng.integers(0, 14, (h // 8, w // 8))]
    codes = np.kron(tiles, np.ones((8, 8, 1))) * (1 + rng.normal(0, 0.01, (h, w, 1)))
    amount = np.clip(1.3 - np.linspace(0.0, 2.6, w), 0.0, 1.0)[None, :, None]
    return np.asarray(codes * (1 + amount * np.array([0.22, 0.02, -0.3])) + 0.5, dtype=np.uint8)


class LookCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.stage()

    def stage(self, shoot: Shoot | None = None, codes: np.ndarray | None = None) -> Photo:
        path = self.folder / "stage.png"
        path.write_bytes(png_bytes(lit_stage() if codes is None else codes))
        return add_photo(shoot or self.shoot, path, "stage.png")[0]

    def lines(self, recipe: dict[str, Any] = EMPTY, **said: Any) -> list[dict[str, Any]]:
        response = self.send(
            "post", f"/photos/{self.row.id}/look", {"recipe": recipe, "said": said}
        )
        self.assertEqual(response.status_code, 200)
        return [json.loads(line) for line in b"".join(response.streaming_content).splitlines()]

    def look(self, recipe: dict[str, Any] = EMPTY, **said: Any) -> dict[str, Any]:
        last: dict[str, Any] = self.lines(recipe, **said)[-1]["survey"]
        return last

    def adopted(self, finding: dict[str, Any]) -> dict[str, Any]:
        """The cast that a finding becomes."""
        path = f"/photos/{self.row.id}/findings/{finding['id']}/adopt"
        answer = self.send("post", path, {})
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        return dict(answer.json())

    def told(self, what: str, recipe: dict[str, Any]) -> Any:
        return self.send("post", f"/photos/{self.row.id}/{what}", {"recipe": recipe}).json()

    def kept(self) -> Any:
        return self.client.get(f"/api/photos/{self.row.id}/look").json()["survey"]


class Looks(LookCase):
    def test_progress_is_told_and_rises_to_the_answer(self) -> None:
        *steps, last = self.lines()
        shares = [s["done"] for s in steps]
        self.assertEqual(shares, sorted(shares))
        self.assertGreaterEqual(len(shares), 3)
        finding = last["survey"]["findings"][0]
        self.assertGreater(finding["cast"][2], 3.0)  # towards yellow
        self.assertIn(finding["sure"], ("possible", "likely"))

    def test_what_was_seen_is_kept(self) -> None:
        self.assertIsNone(self.kept())
        seen = self.look()
        self.assertEqual(self.kept(), seen)

    def test_a_lost_photo_of_the_shoot_lends_nothing(self) -> None:
        alone = self.look()
        lost = self.stage(codes=lit_stage()[::-1].copy())
        for path in (original_path(lost.content_hash), thumbnail_path(lost.content_hash)):
            path.unlink()
        seen = self.look()
        self.assertEqual(seen["others"], 0)
        self.assertEqual(seen["findings"], alone["findings"])

    def test_stopping_keeps_nothing(self) -> None:
        response = self.send("post", f"/photos/{self.row.id}/look", {"recipe": EMPTY, "said": {}})
        self.addCleanup(close_content, response)
        self.assertIn(b"done", next(iter(response.streaming_content)))
        self.assertIsNone(self.kept())

    def test_an_adopted_finding_is_a_cast_that_saves_and_neutralises(self) -> None:
        finding = self.look()["findings"][0]
        recipe = EMPTY | {"casts": [self.adopted(finding)]}
        body = {"revision": 0, "recipe": recipe}
        saved = self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        (cast,) = self.told("proof", recipe)["proof"]["casts"]
        self.assertLess(cast["after"], 0.6 * cast["before"])
        again = self.look(recipe)["findings"]
        self.assertNotIn(finding["tainted"], [f["tainted"] for f in again])

    def test_a_finding_keeps_its_name_and_its_mask_stays_out_of_the_survey(self) -> None:
        first = self.look()
        again = self.look(places=[first["findings"][0]["tainted"]])
        self.assertEqual(again["findings"][0]["id"], first["findings"][0]["id"])
        self.assertNotIn("mask", first["findings"][0])
        cast = self.adopted(again["findings"][0])
        self.assertEqual(cast["finding"], first["findings"][0]["id"])
        (part,) = cast["mask"]["parts"]
        self.assertEqual((part["asset"]["width"], part["asset"]["height"]), (240, 160))
        self.assertTrue(asset_path(part["asset"]["sha256"]).is_file())

    def test_what_is_not_among_the_found_cannot_be_adopted(self) -> None:
        path = f"/photos/{self.row.id}/findings/finding-0/adopt"
        self.refused(self.send("post", path, {}), 404, "look again")
        finding = self.look()["findings"][0]
        self.client.force_login(self.other)
        path = f"/photos/{self.row.id}/findings/{finding['id']}/adopt"
        self.refused(self.send("post", path, {}), 404, "not yours")

    def test_the_field_shrinks_as_its_cast_is_taken_off(self) -> None:
        recipe = EMPTY | {"casts": [self.adopted(self.look()["findings"][0])]}
        field = self.told("field", recipe)
        self.assertGreater(field["before"], 1.0)
        self.assertLess(field["now"], 0.8 * field["before"])
        colourful = []
        for when in ("before", "now"):
            size, region = [240, 160], [0, 0, 240, 160]
            body = {"recipe": recipe, "size": size, "region": region}
            body["figure"] = {"key": "field", "when": when}
            answer = self.send("post", f"/photos/{self.row.id}/picture", body)
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            codes = np.asarray(Image.open(io.BytesIO(answer.content))).astype(int)
            colourful.append(np.ptp(codes, axis=2).mean())
        self.assertLess(colourful[1], colourful[0])

    def test_a_dismissed_finding_stays_away(self) -> None:
        finding = self.look()["findings"][0]
        dismissed = {"id": "d", "shift": finding["shift"], "box": finding["box"]}
        again = self.look(EMPTY | {"dismissed": [dismissed]})["findings"]
        self.assertNotIn(finding["towards"], [f["towards"] for f in again])

    def test_words_lead_the_look(self) -> None:
        opposite = [-v for v in self.look()["findings"][0]["shift"]]
        told = self.look(direction=opposite)
        for finding in told["findings"]:
            self.assertLess(finding["cast"][2], 0.0)
        clicked = self.look(places=[[0.1, 0.3]])["findings"]
        self.assertEqual(len(clicked), 1)
        self.assertLess(clicked[0]["box"][0], 0.2)
        neutral = self.look(neutral=[0.05, 0.3])
        self.assertEqual(neutral["said"]["neutral"], [0.05, 0.3])
        for finding in neutral["findings"]:
            self.assertGreater(finding["cast"][2], 0.0)

    def test_a_cast_s_pairs_count_as_a_word(self) -> None:
        cast = self.adopted(self.look()["findings"][0])
        led = self.look(EMPTY | {"casts": [cast]}, pair_of=cast["id"])["findings"]
        self.assertEqual(len(led), 1)
        self.assertGreater(led[0]["cast"][2], 3.0)

    def test_the_map_shows_the_cast_where_it_lies(self) -> None:
        self.look()
        body = {"recipe": EMPTY, "size": [240, 160], "region": [0, 0, 240, 160], "show": "map"}
        response = self.send("post", f"/photos/{self.row.id}/picture", body)
        codes = np.asarray(Image.open(io.BytesIO(response.content))).astype(float)
        warmth = codes[..., 0] - codes[..., 2]
        self.assertGreater(warmth[:, :60].mean(), 20.0)
        self.assertLess(abs(warmth[:, -60:].mean()), 8.0)
        part = self.send(
            "post", f"/photos/{self.row.id}/picture", body | {"region": [0, 40, 60, 120]}
        )
        cut = np.asarray(Image.open(io.BytesIO(part.content))).astype(float)
        self.assertLess(np.abs(cut - codes[40:120, :60]).mean(), 4.0)

    def test_a_place_outside_is_refused_in_words(self) -> None:
        last = self.lines(neutral=[1.5, 0.1])[-1]
        self.assertIn("outside", last["detail"])

    def test_other_people_s_photos_are_not_there(self) -> None:
        self.client.force_login(self.other)
        self.refused(
            self.send("post", f"/photos/{self.row.id}/look", {"recipe": EMPTY}), 404, "not yours"
        )

    def test_a_look_of_an_earlier_program_counts_as_none(self) -> None:
        KeptSurvey.objects.create(photo=self.row, document='{"findings": 3}')
        self.assertIsNone(self.kept())

    def test_grey_photos_show_nothing_and_no_error(self) -> None:
        self.row = self.stage(codes=np.full((60, 90, 3), 128, dtype=np.uint8))
        seen = self.look()
        self.assertEqual((seen["findings"], seen["directions"]), ([], []))


class TheShoot(LookCase):
    def test_neighbours_lend_their_palette(self) -> None:
        self.assertEqual(self.look()["others"], 0)
        self.stage(codes=lit_stage()[:, ::-1])
        self.assertEqual(self.look()["others"], 1)

    def test_photos_that_were_judged_speak_as_they_were_left(self) -> None:
        neighbour = self.stage(codes=lit_stage()[:, ::-1])
        self.stage(codes=lit_stage()[::-1])
        before = self.look()
        self.assertEqual(before["others"], 2)
        adopted = self.adopted(before["findings"][0])
        recipe = EMPTY | {"answered": True, "casts": [adopted | {"mask": {"parts": []}}]}
        saved = {"revision": 0, "recipe": recipe}
        self.assertEqual(self.send("put", f"/photos/{neighbour.id}/recipe", saved).status_code, 200)
        after = self.look()
        self.assertEqual(after["others"], 2)
        self.assertNotEqual(
            [f["confidence"] for f in before["findings"]],
            [f["confidence"] for f in after["findings"]],
        )

    def test_the_base_holds_for_the_neighbours_too(self) -> None:
        self.stage(codes=lit_stage()[:, ::-1])
        plain = self.look()["findings"][0]
        cooler = self.look(EMPTY | {"base": {"temperature": 5000}})["findings"][0]
        self.assertEqual(plain["towards"], cooler["towards"])

    def test_the_sheet_shows_dials_of_what_was_found(self) -> None:
        def dials() -> list[dict[str, Any]]:
            listed: list[dict[str, Any]] = self.client.get(
                f"/api/photos/{self.row.id}/card"
            ).json()["dials"]
            return listed

        self.assertEqual(dials(), [])
        finding = self.look()["findings"][0]
        (dial,) = dials()[:1]
        self.assertTrue(dial["found"])
        self.assertEqual(dial["offset_before"], finding["cast"][1:])
        recipe = EMPTY | {"casts": [self.adopted(finding)]}
        body = {"revision": 0, "recipe": recipe}
        self.send("put", f"/photos/{self.row.id}/recipe", body)
        after = [d for d in dials() if d["offset_before"] != finding["cast"][1:]]
        self.assertEqual(len([d for d in after if not d["found"]]), 1)
        self.assertNotIn(finding["cast"][1:], [d["offset_before"] for d in dials() if d["found"]])


class Question(LookCase):
    def test_kept_under_names_that_last_and_listed_until_it_is_answered(self) -> None:
        survey = self.look()
        self.assertEqual(survey["choices"], [])
        path = f"/shoots/{self.shoot.id}/questions"
        self.assertEqual(self.client.get(f"/api{path}").json(), {"photos": []})
        kept = KeptSurvey.objects.get(photo=self.row)
        asking = survey | {
            "choices": [{"id": "choice-1", "findings": ["finding-x"], "says": "less orange"}]
        }
        KeptSurvey.objects.filter(id=kept.id).update(document=json.dumps(asking))
        self.assertEqual(self.client.get(f"/api{path}").json(), {"photos": [self.row.id]})
        saved = {"revision": 0, "recipe": EMPTY | {"answered": True}}
        self.assertEqual(self.send("put", f"/photos/{self.row.id}/recipe", saved).status_code, 200)
        self.assertEqual(self.client.get(f"/api{path}").json(), {"photos": []})
        self.client.force_login(self.other)
        self.refused(self.client.get(f"/api{path}"), 404, "not")
