"""People in the browser: masked by clicks, lips kept, the mirrored reference, a question answered."""

from typing import Any

import numpy as np
from playwright.sync_api import expect

from config.tests.cases import png_bytes
from core.tests.effort import long_tier
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.mask.whole import Whole
from nubilis.people.people import look_for_people
from nubilis.photo.pyramid import View
from nubilis.photo.read import read_photo
from nubilis.photo.sampling import encode
from nubilis.remedy.shift import Shift
from shoots.models import Photo
from shoots.services.add_photo import add_photo
from shoots.store import original_path
from walks.tests.browser import saved_recipe
from walks.tests.mask_bench import MaskBenchCase
from walks.tests.remedy_bench import RemedyCase, begin
from walks.tests.test_choice import ChoiceCase
from walks.tests.test_real_work import apart

CURTAIN, COLOURFUL = "Curtain call", "Company portrait in the paint store"
FACE, HAND, SHIRT, LIPS, OTHER_FACE = (860, 280), (985, 300), (820, 520), (810, 302), (445, 300)


class Masked(MaskBenchCase):
    """The second of three faces."""

    def test_skin_of_one_of_three_by_two_clicks(self) -> None:
        self.add("Skin of a person: click")
        expect(self.page.get_by_role("button", name="Person 3, from the left")).to_be_visible()
        self.screen.click(*FACE)
        self.until(lambda: self.assertEqual(self.parts(["people"])[0]["who"], 2))
        mask = self.mask()
        for x, y in (FACE, HAND):
            self.assertGreater(float(mask[y, x]), 0.7, (x, y))
        for x, y in (SHIRT, LIPS, OTHER_FACE):
            self.assertLess(float(mask[y, x]), 0.2, (x, y))

    @long_tier
    def test_somebody_else_something_else_and_nobody(self) -> None:
        self.add("Lips, eyes, brows, teeth")
        self.page.get_by_label("Whose").select_option("2")
        self.until(lambda: self.assertEqual(self.parts(["people"])[0]["who"], 2))
        self.assertGreater(float(self.mask()[LIPS[1], LIPS[0]]), 0.7)
        self.page.get_by_label("What of a person").select_option("person")
        self.until(lambda: self.assertEqual(self.parts(["people"])[0]["of"], "person"))
        self.assertGreater(float(self.mask()[SHIRT[1], SHIRT[0]]), 0.7)
        self.page.get_by_label("What of a person").select_option("teeth")
        expect(
            self.page.get_by_role("alert").filter(has_text="no teeth are to be seen")
        ).to_be_visible()
        self.page.get_by_role("button", name="Click whose").click()
        self.screen.click(640, 100)
        expect(self.page.get_by_role("alert").filter(has_text="Nobody was found")).to_be_visible()

    @long_tier
    def test_the_subject_is_the_people(self) -> None:
        self.add("Subject, as guessed")
        (part,) = self.parts(["people"])
        self.assertEqual((part["of"], part["who"]), ("person", None))
        self.assertGreater(float(self.mask()[SHIRT[1], SHIRT[0]]), 0.7)


@long_tier
class Kept(RemedyCase):
    photos = (CURTAIN,)

    def test_lips_and_eyes_are_kept_by_one_choice(self) -> None:
        self.work_on(CURTAIN)
        begin(self.row, Whole(id="w"), remedies=(Shift(id="s", hue=60.0),))
        self.open()
        lips, shirt = self.screen.pixel(*LIPS), self.screen.pixel(640, 640)
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_role("button", name="Look again")).to_be_visible()
        self.set("Hue", "61")
        self.page.get_by_role("button", name="Keep lips and eyes").click()
        self.until(lambda: self.assertEqual(self.features(), [None, "lips", "eyes"]))
        self.until(lambda: self.assertGreater(apart(self.screen.pixel(*LIPS), lips), 20.0))
        np.testing.assert_allclose(self.screen.pixel(640, 640), shirt, atol=6.0)
        expect(self.page.get_by_role("button", name="Keep lips and eyes")).to_have_count(0)

    def features(self) -> list[str | None]:
        self.screen.wait_saved()
        parts = saved_recipe(self.row.id)["casts"][0]["mask"]["parts"]
        return [p.get("of") for p in parts]


@long_tier
class Referred(RemedyCase):
    photos = (CURTAIN,)

    def test_the_same_place_of_the_other_side_is_taken_as_reference(self) -> None:
        self.work_on(CURTAIN)
        self.screen = self.go_to(CURTAIN)
        self.page.get_by_role("button", name="New cast", exact=True).last.click()
        self.screen.click(368, 268)  # the red side of the first face
        offer = self.page.get_by_role("group", name="References on the same face")
        offer.get_by_role("button", name="The same place, other side").click()
        self.until(lambda: self.assertIsNotNone(self.pair()["reference"]))
        x, y = (v * 1200 for v in self.pair()["reference"]["at"])
        self.assertTrue(430 < x < 475 and 240 < y < 300, (x, y))
        expect(offer).to_have_count(0)

    def pair(self) -> dict[str, Any]:
        self.screen.wait_saved()
        return dict(saved_recipe(self.row.id)["casts"][0]["pairs"][0])


@long_tier
class Asked(ChoiceCase):
    photos = (COLOURFUL,)

    def setUp(self) -> None:
        super().setUp()
        self.row = self.half_lit(self.shoot.photos.get(title=COLOURFUL))
        self.shoot.photos.exclude(id=self.row.id).delete()

    def half_lit(self, row: Photo) -> Photo:
        """The second face of the photo, its left in a cooler light."""
        photo = read_photo(original_path(row.content_hash))
        engine = Engine(photo)
        x0, y0, x1, y1 = (v * photo.width for v in look_for_people(engine.sight()).faces[1].box)
        room = 0.5 * (x1 - x0)
        box = int(x0 - room), int(y0 - room), int(x1 + room), int(y1 + room)
        rgb = engine.untouched(View((photo.width, photo.height), box))
        across = np.linspace(-1.0, 1.0, rgb.shape[2], dtype=np.float32)
        share = (1.0 / (1.0 + np.exp(6.0 * across))).astype(np.float32)
        light = np.array((0.7, 1.0, 1.2), dtype=np.float32)[:, None, None] ** share
        path = self.folder / "face.png"
        path.write_bytes(png_bytes(encode((rgb * light).astype(np.float32), srgb())))
        return add_photo(self.shoot, path, "Half lit.png")[0]

    def test_which_side_is_right(self) -> None:
        screen = self.look(self.row.title)
        cheek = 0.25 * self.row.width, 0.6 * self.row.height
        before = screen.pixel(*cheek)
        self.put()
        answers = self.page.get_by_role("button", name="of face 1 is right")
        expect(answers).to_have_count(2)
        self.page.get_by_role("button", name="the right of face 1 is right").click()
        self.page.get_by_role("button", name="Take ").click()
        screen.wait_saved()
        (cast,) = saved_recipe(self.row.id)["casts"]
        tainted, reference = (cast["pairs"][0][k]["at"][0] for k in ("tainted", "reference"))
        self.assertLess(tainted, reference)
        now = screen.pixel(*cheek)
        self.assertGreater(now[0] / now[2], 1.03 * before[0] / before[2])  # less blue
