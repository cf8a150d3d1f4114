"""People: faces and what belongs to them, on the demo's puppets; nobody real is shown."""

import os
import unittest
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from pathlib import Path
from unittest import mock

import numpy as np

from nubilis.arrays import Floats
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.errors import NubilisError, PlaceError
from nubilis.find.face import FaceSeen, faces_seen
from nubilis.find.face_words import sentence
from nubilis.find.look import look
from nubilis.mask.combine import Mask
from nubilis.mask.people import Feature
from nubilis.mask.people import People as PeoplePart
from nubilis.people.areas import part_of, person_at
from nubilis.people.canonical import HIGH, WIDE, Unwrapped
from nubilis.people.nets import ModelsMissing, net
from nubilis.people.people import People, look_for_people, people_of
from nubilis.people.places import _cell_at, same_skin
from nubilis.photo.picture import Photo
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import encode
from nubilis.proof.features import feature_planes, features_moved
from nubilis.proof.outcome import Outcome
from nubilis.recipe.asset import Bundle
from nubilis.recipe.document import Cast, Recipe
from nubilis.recipe.model import Place
from nubilis.remedy.shift import Shift

from .effort import long_tier
from .pictures import wall_photo

DEMO = Path(__file__).resolve().parents[2] / "demo/photos"
CURTAIN, WATER = "d1-curtain-spill", "d5-pond"
EDGE = 1200


@lru_cache(4)
def photo_of(name: str) -> Photo:
    return read_photo(DEMO / f"{name}.png")


@lru_cache(4)
def people_in(name: str) -> People:
    return look_for_people(Engine(photo_of(name)).sight())


def tinted(photo: Photo, gains: tuple[float, float, float], share: Floats | float = 1.0) -> Photo:
    """Light of another colour, all over or as far as a plane (h, w) says."""
    rgb = Engine(photo).untouched(View.fit(photo, max(photo.width, photo.height)))
    weight = np.broadcast_to(np.asarray(share, dtype=np.float32), rgb.shape[1:])
    light = np.array(gains, dtype=np.float32)[:, None, None] ** weight
    return Photo(encode((rgb * light).astype(np.float32), srgb()), srgb())


def face_of(name: str, who: int) -> Photo:
    """A face cut out of a photo, with a little around it."""
    photo = photo_of(name)
    x0, y0, x1, y1 = (v * EDGE for v in people_in(name).faces[who - 1].box)
    room = 0.5 * (x1 - x0)
    top, left = max(int(y0 - room), 0), max(int(x0 - room), 0)
    codes = photo.codes[top : int(y1 + room), left : int(x1 + room)]
    return Photo(np.ascontiguousarray(codes), srgb())


class Faces(unittest.TestCase):
    def test_they_are_found_from_the_left_to_the_right(self) -> None:
        found = people_in(CURTAIN)
        middles = [f.middle for f in found.faces]
        self.assertEqual(middles, sorted(middles))
        for (x, y), at in zip(middles, ((410, 275), (812, 262), (1030, 515)), strict=True):
            self.assertLess(np.hypot(x * EDGE - at[0], y * EDGE - at[1]), 40.0)

    @long_tier
    def test_casts_do_not_hide_them(self) -> None:
        for gains in ((0.6, 1.2, 0.6), (0.5, 1.0, 1.3), (1.4, 0.7, 1.3)):
            found = look_for_people(Engine(tinted(photo_of(CURTAIN), gains)).sight())
            self.assertGreaterEqual(len(found.faces), 2, gains)

    def test_small_ones_in_a_large_photo_are_read_from_the_photo_itself(self) -> None:
        small = photo_of(CURTAIN).codes
        codes = np.full((2400, 3600, 3), 110, dtype=np.uint8)
        codes[600:1400, 900:2100] = small
        found = look_for_people(Engine(Photo(codes, srgb())).sight())
        self.assertGreaterEqual(len(found.faces), 2)
        for one, two in zip(found.faces[:2], people_in(CURTAIN).faces, strict=False):
            off = np.abs(one.points * 3600.0 - (900.0, 600.0) - two.points * EDGE)
            self.assertLess(float(off.mean()), 5.0)

    @long_tier
    def test_many_at_once_find_the_same_from_the_first_time_on(self) -> None:
        net.cache_clear()
        with ThreadPoolExecutor(4) as pool:
            every = list(
                pool.map(lambda _: look_for_people(Engine(photo_of(CURTAIN)).sight()), range(4))
            )
        for one in every:
            np.testing.assert_array_equal(one.bodies, every[0].bodies)

    def test_a_wall_has_none_and_nothing_is_invented(self) -> None:
        engine = Engine(wall_photo())
        found = look_for_people(engine.sight())
        self.assertEqual(found.faces, ())
        for of in ("person", "lips"):
            with self.assertRaisesRegex(PlaceError, "no face is to be seen"):
                part_of(found, engine.sight(), of, None, Bundle().keep, "p")  # type: ignore[arg-type]

    def test_what_is_kept_is_the_same(self) -> None:
        found = people_in(CURTAIN)
        again = people_of(found.to_bytes())
        np.testing.assert_array_equal(again.bodies, found.bodies)
        for one, two in zip(again.faces, found.faces, strict=True):
            np.testing.assert_array_equal(one.points, two.points)
            self.assertEqual(one.box, two.box)
        with self.assertRaisesRegex(NubilisError, "damaged"):
            people_of(b"nothing")

    def test_a_missing_or_changed_network_is_one_line(self) -> None:
        net.cache_clear()
        self.addCleanup(net.cache_clear)
        with mock.patch.dict(os.environ, {"NUBILIS_MODELS": "/nowhere"}):
            with self.assertRaisesRegex(ModelsMissing, r"run ./nubilis setup$"):
                look_for_people(Engine(wall_photo()).sight())
            # The rest works: the finder does without.
            self.assertEqual(look(Engine(wall_photo())).choices, ())


class Areas(unittest.TestCase):
    """The second puppet from the left, in a white shirt before a grey wall."""

    engine: Engine
    assets: Bundle

    @classmethod
    def setUpClass(cls) -> None:
        cls.assets = Bundle()
        cls.engine = Engine(photo_of(CURTAIN), assets=cls.assets)

    def part(self, of: Feature, who: int | None = 2) -> PeoplePart:
        sight = self.engine.sight()
        return part_of(people_in(CURTAIN), sight, of, who, self.assets.keep, "p")

    def mask(self, part: PeoplePart, edge: int = EDGE) -> Floats:
        return self.engine.mask(Mask(parts=(part,)), View.fit(self.engine.photo, edge))

    def where(self, of: Feature, inside: list[Place], outside: list[Place]) -> None:
        mask = self.mask(self.part(of))
        for x, y in inside:
            self.assertGreater(mask[int(y), int(x)], 0.7, (of, x, y))
        for x, y in outside:
            self.assertLess(mask[int(y), int(x)], 0.2, (of, x, y))

    def test_each_feature_is_where_it_is(self) -> None:
        face, shirt, hand = (860.0, 280.0), (820.0, 520.0), (985.0, 300.0)
        lips, eye, wall, other = (810.0, 302.0), (835.0, 240.0), (640.0, 200.0), (400.0, 560.0)
        self.where("person", [face, shirt, hand, lips], [wall, other])
        self.where("skin", [face, hand], [shirt, wall, other, lips])
        self.where("lips", [lips], [face, shirt, eye])
        self.where("eyes", [eye], [face, lips, shirt])
        self.where("face", [face, lips, eye], [shirt, wall])
        self.assertLess(self.mask(self.part("brows"))[int(face[1]), int(face[0])], 0.2)
        self.assertGreater(self.mask(self.part("irises")).sum(), 20.0)
        with self.assertRaisesRegex(PlaceError, "no teeth are to be seen"):
            self.part("teeth")

    def test_of_all_of_them(self) -> None:
        single, every = (float(self.mask(self.part("lips", who)).sum()) for who in (2, None))
        self.assertGreater(every, 1.7 * single)

    def test_who_is_not_there_is_refused(self) -> None:
        with self.assertRaisesRegex(PlaceError, "no such person"):
            self.part("skin", 9)

    def test_the_same_at_every_size_and_in_a_region(self) -> None:
        for of in ("person", "skin", "lips"):
            part = self.part(of)  # type: ignore[arg-type]
            full = self.mask(part)
            small = self.mask(part, 600)
            halved = full.reshape(400, 2, 600, 2).mean(axis=(1, 3))
            self.assertLess(float(np.abs(halved - small).mean()), 0.01, of)
            view = View((EDGE, 800), (700, 150, 900, 400))
            np.testing.assert_allclose(
                self.engine.mask(Mask(parts=(part,)), view), full[150:400, 700:900], atol=2e-3
            )

    def test_an_old_recipe_gives_the_same_mask_whatever_finds_people_now(self) -> None:
        part = self.part("skin")
        before = self.mask(part)
        with mock.patch.dict(os.environ, {"NUBILIS_MODELS": "/nowhere"}):
            anew = Engine(photo_of(CURTAIN), assets=self.assets)
            after = anew.mask(Mask(parts=(part,)), View.fit(anew.photo, EDGE))
        np.testing.assert_array_equal(before, after)
        self.assertIn("mediapipe", part.model)

    def test_what_counts_as_sure_can_be_moved(self) -> None:
        part = self.part("skin")
        tight, loose = (
            float(self.mask(part.model_copy(update={"sure": s})).sum())
            for s in ((0.8, 0.9), (0.1, 0.2))
        )
        self.assertGreater(loose, 1.1 * tight)
        with self.assertRaises(ValueError):
            PeoplePart(**part.model_dump() | {"sure": (0.5, 0.5)})

    def test_who_is_at_a_place(self) -> None:
        people = people_in(CURTAIN)
        for x, y, who in ((860, 280, 2), (820, 520, 2), (400, 560, 1), (640, 100, None)):
            self.assertEqual(person_at(people, (x / EDGE, y / EDGE)), who, (x, y))

    def test_lips_and_eyes_that_a_fix_moves_are_told_until_they_are_kept(self) -> None:
        planes = feature_planes(self.engine, people_in(CURTAIN))
        face = self.part("face")
        cast = Cast(id="c", mask=Mask(parts=(face,)), remedies=(Shift(id="s", hue=40.0),))
        (moved,) = features_moved(Outcome(self.engine, Recipe(casts=(cast,))), planes)
        self.assertGreater(moved.lips, 3.0)
        kept = tuple(
            self.part(of).model_copy(update={"id": of, "join": "subtract"})
            for of in ("lips", "eyes")
        )
        keeping = cast.model_copy(update={"mask": Mask(parts=(face, *kept))})
        outcome = Outcome(self.engine, Recipe(casts=(keeping,)))
        self.assertEqual(features_moved(outcome, planes), ())


class Probed(unittest.TestCase):
    """The face as a probe: one half of a face in light of another colour."""

    def seen(self, photo: Photo) -> FaceSeen:
        engine = Engine(photo)
        rgb = engine.untouched(engine.analysis_view)
        (face,) = faces_seen(look_for_people(engine.sight()), rgb, (120, 120), 0.0)
        return face

    def half_lit(self, gains: tuple[float, float, float], side: int) -> Photo:
        face = face_of("d7-clean-colourful", 3)
        across = np.linspace(-1.0, 1.0, face.width, dtype=np.float32)
        return tinted(face, gains, 1.0 / (1.0 + np.exp(-6.0 * side * across))[None])

    def test_an_untouched_face_says_little(self) -> None:
        self.assertLess(self.seen(face_of("d7-clean-colourful", 3)).probe.score, 0.9)

    def test_direction_and_side_of_what_was_laid_on(self) -> None:
        for side, word in ((-1, "left"), (1, "right")):
            face = self.seen(self.half_lit((1.3, 1.0, 0.65), side))
            self.assertGreater(face.probe.score, 1.15)
            red_green, blue_yellow = face.probe.shift
            self.assertGreater(red_green, 0.0)
            self.assertGreater(blue_yellow, 0.0)
            self.assertIn(f"The {word} of face 1 turns", sentence(face))
            self.assertEqual(face.worst[0] < face.mirrored[0], word == "left")

    def test_a_finding_that_a_face_bears_out_says_so_and_refers_to_its_other_side(self) -> None:
        engine = Engine(photo_of(CURTAIN))
        seen = look(engine, people=people_in(CURTAIN))
        first = seen.findings[0]
        self.assertEqual(first.face, 1)
        self.assertIn("The left of face 1 turns", first.reason)
        self.assertIn("towards red against its right", first.reason)
        assert first.reference
        left, top, right, bottom = people_in(CURTAIN).faces[0].box
        for x, y in (first.tainted, first.reference):
            self.assertTrue(left < x < right and top < y < bottom)
        self.assertLess(first.tainted[0], first.reference[0])

    def test_which_side_is_right_is_asked_where_the_finder_has_it_the_other_way(self) -> None:
        photo = self.question()
        engine = Engine(photo)
        seen = look(engine, people=look_for_people(engine.sight()))
        sides = [c.says.split(": ")[1] for c in seen.choices]
        self.assertEqual(
            sorted(sides), ["the left of face 1 is right", "the right of face 1 is right"]
        )
        for choice in seen.choices:
            (found,) = seen.chosen(choice.id)
            self.assertTrue(found.alternative)
        # Without people the finder is on its own.
        self.assertEqual([c.says for c in look(engine).choices if "face" in c.says], [])

    def question(self) -> Photo:
        face = face_of("d7-clean-colourful", 2)
        across = np.linspace(-1.0, 1.0, face.width, dtype=np.float32)
        return tinted(face, (0.7, 1.0, 1.2), 1.0 / (1.0 + np.exp(6.0 * across))[None])


class Cells(unittest.TestCase):
    def test_a_place_is_that_of_the_cell_that_lies_there(self) -> None:
        ys, xs = np.mgrid[:HIGH, :WIDE].astype(np.float32)
        at = np.stack([200.0 + 2.0 * xs, 100.0 + 2.0 * ys], axis=-1)
        ok = np.ones((HIGH, WIDE), dtype=bool)
        plane = np.zeros((HIGH, WIDE), dtype=np.float32)
        seen = Unwrapped(np.zeros((HIGH, WIDE, 2), np.float32), plane, ok, at, 1000)
        face = mock.Mock(box=(0.2, 0.1, 0.2 + 2 * WIDE / 1000, 0.1 + 2 * HIGH / 1000))
        for cell in ((0, 0), (HIGH // 2, 3), (HIGH - 1, WIDE - 1)):
            self.assertEqual(_cell_at(face, seen, seen.place(cell)), cell)
        self.assertIsNone(_cell_at(face, seen, (0.9, 0.9)))
        ok[HIGH // 2, 3] = False
        near = _cell_at(face, seen, seen.place((HIGH // 2, 3)))
        assert near is not None
        self.assertEqual(abs(near[0] - HIGH // 2) + abs(near[1] - 3), 1)


class SameSkin(unittest.TestCase):
    def test_the_other_side_and_the_best_lit_place(self) -> None:
        engine = Engine(photo_of(WATER))
        rgb = engine.untouched(engine.analysis_view)
        people = people_in(WATER)
        face = people.faces[0]
        x0, y0, x1, y1 = face.box
        cheek = x0 + 0.28 * (x1 - x0), y0 + 0.62 * (y1 - y0)
        found = same_skin(people, rgb, cheek)
        assert found and found.other_side and found.best_lit
        self.assertEqual(found.who, 1)
        self.assertLess(abs(cheek[0] + found.other_side[0] - x0 - x1), 0.15 * (x1 - x0))
        self.assertLess(abs(cheek[1] - found.other_side[1]), 0.12 * (y1 - y0))
        self.assertIsNone(same_skin(people, rgb, (0.9, 0.6)))


if __name__ == "__main__":
    unittest.main()
