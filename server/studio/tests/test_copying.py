"""Casts carried over to other photos."""

from typing import Any

from config.tests.cases import ServerCase, recipe_document
from shoots.models import Photo, Shoot
from studio.services.save_recipe import current


class Shared(ServerCase):
    """Three photos, the first with a cast."""

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


class Copying(Shared):
    def test_each_photo_is_given_its_own_and_can_take_it_back(self) -> None:
        told = self.copy().json()
        self.assertEqual((told["state"], told["changed"], told["casts"]), ("done", 2, 1))
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
        proof = self.send("post", f"/photos/{self.second.id}/proof", {"recipe": recipe}).json()[
            "proof"
        ]
        pair = proof["casts"][0]["pairs"][0]
        self.assertIsNone(pair["after"])
        self.assertGreater(pair["before"], 3.0)
        self.assertGreater(proof["inside"]["mean"], 0.5)  # and yet it is treated

    def test_nothing_is_copied_when_something_is_wrong(self) -> None:
        self.refused(self.copy(casts=["b"]), 422, "no such cast")
        foreign = self.photo(Shoot.objects.create(owner=self.other, name="Theirs"), seed=4)
        self.refused(self.copy(to=[self.second.id, foreign.id]), 404, "not yours")
        self.assertEqual(self.casts(self.second), ())

    def test_a_lent_mask_comes_with_its_cast_or_not_at_all(self) -> None:
        recipe = recipe_document()
        recipe["casts"].append(
            {"id": "b", "mask": {"parts": [{"kind": "lent", "id": "l", "cast": "a"}]}}
        )
        self.send("put", f"/photos/{self.first.id}/recipe", {"revision": 1, "recipe": recipe})
        self.refused(self.copy(casts=["b"]), 422, "copy all casts")
        self.copy(casts=None)
        one, two = self.casts(self.second)
        self.assertEqual(two.mask.parts[0].cast, one.id)


class Linked(Shared):
    def setUp(self) -> None:
        super().setUp()
        self.copy(to=[self.second.id, self.third.id])

    def save(self, photo: Photo, **remedy: Any) -> None:
        state = self.client.get(f"/api/photos/{photo.id}/recipe").json()
        state["recipe"]["casts"][0]["remedies"][0] |= remedy
        body = {"revision": state["revision"], "recipe": state["recipe"]}
        self.assertEqual(self.send("put", f"/photos/{photo.id}/recipe", body).status_code, 200)

    def carry(self, photo: Photo, cast: str) -> Any:
        return self.send("post", f"/photos/{photo.id}/carry-over", {"cast": cast})

    def amounts(self) -> list[float]:
        photos = (self.first, self.second, self.third)
        return [self.casts(p)[0].remedies[0].amount for p in photos]

    def test_changes_go_to_all_that_share_it_but_not_over_a_touch_up(self) -> None:
        self.save(self.third, amount=0.3)
        self.save(self.first, amount=0.8)
        self.assertEqual(self.carry(self.first, "a").json()["changed"], 2)
        self.assertEqual(self.amounts(), [0.8, 0.8, 0.3])
        undone = self.send("post", f"/photos/{self.second.id}/undo", {"revision": 2}).json()
        self.assertEqual(undone["recipe"]["casts"][0]["remedies"][0]["amount"], 1.0)

    def test_from_a_copy_as_well(self) -> None:
        self.save(self.second, amount=0.6)
        self.carry(self.second, self.casts(self.second)[0].id)
        self.assertEqual(self.amounts(), [0.6, 0.6, 0.6])

    def test_a_broken_link_is_left_alone(self) -> None:
        state = self.client.get(f"/api/photos/{self.second.id}/recipe").json()
        state["recipe"]["casts"][0] |= {"link": None, "id": "own"}
        body = {"revision": state["revision"], "recipe": state["recipe"]}
        self.send("put", f"/photos/{self.second.id}/recipe", body)
        told = self.send("post", f"/photos/{self.first.id}/links", {"cast": "a"}).json()
        self.assertEqual(told, {"photos": ["wall"]})
        self.save(self.first, amount=0.5)
        self.carry(self.first, "a")
        self.assertEqual(self.amounts(), [0.5, 1.0, 0.5])

    def test_what_is_not_there(self) -> None:
        self.refused(self.carry(self.first, "zz"), 422, "no such cast")
        told = self.send("post", f"/photos/{self.first.id}/links", {"cast": "zz"}).json()
        self.assertEqual(told, {"photos": []})
