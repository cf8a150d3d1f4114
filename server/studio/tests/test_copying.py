"""Casts carried over to other photos."""

from typing import Any

from config.tests.cases import ServerCase, recipe_document
from shoots.models import Photo, Shoot
from studio.services.save_recipe import current


class Copying(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.first, self.second, self.third = (self.photo(seed=i) for i in (1, 2, 3))
        body = {"revision": 0, "recipe": recipe_document(name="Glow")}
        self.assertEqual(self.send("put", f"/photos/{self.first.id}/recipe", body).status_code, 200)

    def copy(self, **more: Any) -> Any:
        body = {"casts": ["a"], "to": [self.second.id, self.third.id]} | more
        return self.send("post", f"/photos/{self.first.id}/copy", body)

    def casts(self, photo: Photo) -> Any:
        return current(Photo.objects.get(id=photo.id)).recipe.casts

    def test_each_photo_is_given_its_own_and_can_take_it_back(self) -> None:
        self.assertEqual(self.copy().json(), {"photos": 2, "casts": 1})
        (cast,) = self.casts(self.second)
        self.assertNotEqual(cast.id, "a")
        self.assertEqual(cast.name, "Glow")
        sample = cast.pairs[0].tainted
        self.assertEqual((sample.at, sample.origin, sample.name), (None, "photo", "wall"))
        self.assertEqual(cast.mask.parts[0].kind, "brush")
        undone = self.send("post", f"/photos/{self.second.id}/undo", {"revision": 1})
        self.assertEqual(undone.json()["recipe"]["casts"], [])
        self.assertEqual(len(self.casts(self.third)), 1)

    def test_the_mask_alone_and_all_casts_and_again(self) -> None:
        self.copy(mask_only=True)
        self.copy(casts=None)
        one, two = self.casts(self.second)
        self.assertEqual((len(one.pairs), len(two.pairs)), (0, 1))

    def test_the_treated_photo_shows_no_after_for_a_sample_of_another(self) -> None:
        self.copy()
        recipe = current(Photo.objects.get(id=self.second.id)).recipe.model_dump(mode="json")
        proof = self.send("post", f"/photos/{self.second.id}/proof", {"recipe": recipe}).json()
        pair = proof["casts"][0]["pairs"][0]
        self.assertIsNone(pair["after"])
        self.assertGreater(pair["before"], 3.0)
        self.assertGreater(proof["inside_mean"], 0.5)  # and yet it is treated

    def test_nothing_is_copied_when_something_is_wrong(self) -> None:
        self.refused(self.copy(casts=["b"]), 422, "no such cast")
        foreign = self.photo(Shoot.objects.create(owner=self.other, name="Theirs"), seed=4)
        self.refused(self.copy(to=[self.second.id, foreign.id]), 404, "not yours")
        self.assertEqual(self.casts(self.second), ())
