"""People over HTTP: looked for once, kept with the photo and gone with it; other people's are not there."""

from unittest import mock

from django.conf import settings

from config.tests.cases import ServerCase
from nubilis.people.nets import net
from nubilis.recipe.document import VERSION
from shoots.models import Photo
from shoots.services.add_photo import add_photo
from studio.models import KeptPeople
from studio.services import people as service
from studio.services.save_recipe import current

DEMO = settings.ROOT / "demo/photos"
SHIFT = {"id": "s", "kind": "shift", "hue": 40.0}


class People(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.add("d1-curtain-spill.png")

    def add(self, name: str) -> Photo:
        return add_photo(self.shoot, DEMO / name, name)[0]

    def part(self, of: str = "lips", who: int | None = 2, row: Photo | None = None) -> object:
        body = {"id": "p", "of": of, "who": who}
        return self.send("post", f"/photos/{(row or self.row).id}/people/part", body)

    def test_looked_for_once_and_gone_with_the_photo(self) -> None:
        faces = self.client.get(f"/api/photos/{self.row.id}/people").json()
        self.assertEqual([f["who"] for f in faces], [1, 2, 3])
        with mock.patch.object(service, "look_for_people", side_effect=AssertionError):
            again = self.client.get(f"/api/photos/{self.row.id}/people").json()
        self.assertEqual(again, faces)
        self.row.delete()
        self.assertFalse(KeptPeople.objects.exists())

    def test_a_part_is_made_saved_and_proved(self) -> None:
        part = self.part().json()
        self.assertEqual((part["kind"], part["of"], part["who"]), ("people", "lips", 2))
        self.saved_with(part)
        recipe = current(self.row).recipe.model_dump(mode="json")
        told = self.send("post", f"/photos/{self.row.id}/proof", {"recipe": recipe}).json()
        (moved,) = told["features"]
        self.assertGreater(moved["lips"], 1.0)
        self.assertEqual(moved["eyes"], 0.0)

    def test_who_is_at_a_place_and_where_else_the_skin_is(self) -> None:
        def at(what: str, x: float, y: float) -> object:
            body = {"at": [x / 1200, y / 1200]}
            return self.send("post", f"/photos/{self.row.id}/people/{what}", body).json()

        self.assertEqual(at("at", 860, 280), {"who": 2})
        self.assertEqual(at("at", 640, 100), {"who": None})
        self.assertIsNone(at("same-skin", 640, 100))
        places = at("same-skin", 780, 280)
        assert isinstance(places, dict)
        self.assertEqual(places["who"], 2)
        self.assertGreater(places["other_side"][0], 812 / 1200)

    def saved_with(self, part: object) -> None:
        cast = {"id": "c", "mask": {"parts": [part]}, "remedies": [SHIFT]}
        recipe = {"format": "nubilis-recipe", "version": VERSION, "casts": [cast]}
        body = {"revision": 0, "recipe": recipe}
        saved = self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        self.row.refresh_from_db()

    def test_copied_to_another_photo_its_own_people_are_masked_and_nobody_else_s(self) -> None:
        part = self.part("skin").json()  # type: ignore[attr-defined]
        self.saved_with(part)
        other, wall = self.add("d5-pond.png"), self.photo()
        body = {"to": [other.id, wall.id], "casts": None}
        copied = self.send("post", f"/photos/{self.row.id}/copy", body)
        self.assertEqual(copied.status_code, 200, copied.content[:300])
        for photo in (other, wall):
            photo.refresh_from_db()
        there, nowhere = (current(p).recipe.casts[0].mask.parts for p in (other, wall))
        self.assertEqual([(p.kind, p.who) for p in there], [("people", 2)])  # type: ignore[union-attr]
        self.assertNotEqual(there[0].asset.sha256, part["asset"]["sha256"])  # type: ignore[union-attr]
        self.assertEqual(nowhere, ())

    def test_the_same_skin_in_other_photos_whose_people_are_known(self) -> None:
        other = self.add("d7-clean-colourful.png")
        address = f"/api/photos/{self.row.id}/people/2/elsewhere"
        self.assertEqual(self.client.get(address).json(), [])
        self.client.get(f"/api/photos/{other.id}/people")
        (found,) = self.client.get(address).json()
        self.assertEqual((found["photo"], found["title"]), (other.id, other.title))
        self.assertLess(found["distance"], 10.0)
        lab = found["colour"]["lab"]
        self.assertTrue(lab[1] > 0 and lab[2] > 0, lab)

    def test_the_skin_of_each_face_is_told_before_and_now(self) -> None:
        self.saved_with(self.part("face").json())  # type: ignore[attr-defined]
        recipe = current(self.row).recipe.model_dump(mode="json")
        told = self.send("post", f"/photos/{self.row.id}/proof", {"recipe": recipe}).json()
        skins = {s["who"]: s for s in told["skins"]}
        self.assertEqual(sorted(skins), [1, 2, 3])
        self.assertGreater(skins[1]["before"]["sides"], 5.0)  # the curtain's side
        self.assertEqual(skins[1]["before"], skins[1]["now"])
        turned = abs(skins[2]["now"]["angle"] - skins[2]["before"]["angle"])
        self.assertGreater(turned, 15.0)

    def test_a_photo_without_people_says_so_in_one_line(self) -> None:
        wall = self.photo()
        self.assertEqual(self.client.get(f"/api/photos/{wall.id}/people").json(), [])
        self.refused(self.part(row=wall), 422, "no face is to be seen")  # type: ignore[arg-type]

    def test_without_the_networks_the_rest_works(self) -> None:
        with mock.patch.dict("os.environ", {"NUBILIS_MODELS": "/nowhere"}):
            net.cache_clear()
            self.addCleanup(net.cache_clear)
            answer = self.client.get(f"/api/photos/{self.row.id}/people")
            self.refused(answer, 422, "run ./nubilis setup")
            body = {"recipe": {"format": "nubilis-recipe", "version": VERSION, "casts": []}}
            look = self.send("post", f"/photos/{self.row.id}/look", body | {"said": {}})
            self.assertIn(b"survey", b"".join(look.streaming_content))

    def test_other_people_s_photos_are_not_there(self) -> None:
        self.client.force_login(self.other)
        self.refused(self.client.get(f"/api/photos/{self.row.id}/people"), 404, "not yours")
        self.refused(self.part(), 404, "not yours")  # type: ignore[arg-type]
