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
        cast = {"id": "c", "mask": {"parts": [part]}, "remedies": [SHIFT]}
        recipe = {"format": "nubilis-recipe", "version": VERSION, "casts": [cast]}
        body = {"revision": 0, "recipe": recipe}
        saved = self.send("put", f"/photos/{self.row.id}/recipe", body)
        self.assertEqual(saved.status_code, 200, saved.content[:300])
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
