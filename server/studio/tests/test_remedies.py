"""What the screen asks about remedies: grain, how colours look, warmth back, strokes that are copied."""

from typing import Any

from config.tests.cases import ServerCase, recipe_document
from shoots.models import Photo
from studio.services.save_recipe import current

STROKE = {"id": "s", "size": 0.1, "points": [[[0.2, 0.3], 1.0]], "tone": [0.3, 0.2, 0.1]}


def with_remedies(*remedies: dict[str, Any]) -> dict[str, Any]:
    document = recipe_document()
    document["casts"][0]["remedies"] += remedies
    return document


class Asked(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.photo()

    def ask(self, what: str, **body: Any) -> Any:
        return self.send("post", f"/photos/{self.row.id}/{what}", body)

    def test_the_grain_inside_and_around(self) -> None:
        calm = with_remedies(
            {"kind": "tone", "id": "t", "exposure": 1.0}, {"kind": "calm", "id": "c"}
        )
        told = self.ask("grain", recipe=calm, cast="a", remedy="c").json()
        self.assertGreater(told["inside"][0], 0.0)
        self.assertGreater(told["around"][0], 0.0)
        bare = recipe_document()
        bare["casts"][0]["mask"]["parts"] = []
        nothing = self.ask("grain", recipe=bare, cast="a", remedy="c").json()
        self.assertEqual(nothing, {"inside": None, "around": None})
        self.assertIsNone(self.ask("grain", recipe=calm, cast="z", remedy="c").json()["inside"])

    def test_colours_as_a_screen_shows_them(self) -> None:
        one, two = self.ask("seen", colours=[[0.2, 0.2, 0.2], [0.4, 0.1, 0.05]]).json()
        self.assertLess(max(one["display"]) - min(one["display"]), 2)
        self.assertGreater(two["display"][0], two["display"][2] + 60)
        self.refused(self.ask("seen", colours=[]), 422, "colours")
        self.client.force_login(self.other)
        self.refused(self.ask("seen", colours=[[0.1, 0.1, 0.1]]), 404, "not yours")

    def test_every_kind_saves_and_a_wrong_one_is_told_in_one_line(self) -> None:
        target = [0.2, 0.3, 0.1]
        kinds = with_remedies(
            {"kind": "recolour", "id": "1", "target": target},
            {"kind": "wash", "id": "2", "strokes": [STROKE]},
            {"kind": "glaze", "id": "3", "target": target},
            {"kind": "zones", "id": "4", "lights_red": 0.05},
            {"kind": "tone", "id": "5", "detail": 0.4},
            {"kind": "calm", "id": "6"},
        )
        saved = self.send("put", f"/photos/{self.row.id}/recipe", {"revision": 0, "recipe": kinds})
        self.assertEqual(saved.status_code, 200, saved.content[:300])
        for wrong, why in (
            ({"kind": "zones", "id": "z", "low": 0.8, "high": 0.5}, "crossover"),
            ({"kind": "wash", "id": "w", "strokes": [STROKE | {"stops": 1.0}]}, "not both"),
            ({"kind": "wash", "id": "w", "strokes": [STROKE, STROKE]}, "same id"),
            ({"kind": "recolour", "id": "r"}, "target"),
        ):
            body = {"revision": 1, "recipe": with_remedies(wrong)}
            self.refused(self.send("put", f"/photos/{self.row.id}/recipe", body), 422, why)

    def test_the_history_tells_a_wash_in_words(self) -> None:
        steps = [
            recipe_document(),
            with_remedies({"kind": "wash", "id": "w", "strokes": []}),
            with_remedies({"kind": "wash", "id": "w", "strokes": [STROKE]}),
            with_remedies({"kind": "wash", "id": "w", "strokes": [STROKE | {"opacity": 0.3}]}),
        ]
        for revision, recipe in enumerate(steps):
            body = {"revision": revision, "recipe": recipe}
            self.send("put", f"/photos/{self.row.id}/recipe", body)
        told = self.client.get(f"/api/photos/{self.row.id}/history").content.decode()
        for words in ("wash added", "washed", "wash, stroke changed"):
            self.assertIn(words, told)

    def test_strokes_come_along_only_when_asked_for(self) -> None:
        others = [self.photo(seed=i) for i in (8, 9)]
        washed = with_remedies({"kind": "wash", "id": "w", "strokes": [STROKE]})
        self.send("put", f"/photos/{self.row.id}/recipe", {"revision": 0, "recipe": washed})
        for other, strokes in zip(others, (False, True), strict=True):
            self.ask("copy", casts=["a"], to=[other.id], strokes=strokes)
            (cast,) = current(Photo.objects.get(id=other.id)).recipe.casts
            wash = cast.remedies[1]
            self.assertEqual(len(wash.strokes), int(strokes))  # type: ignore[union-attr]
