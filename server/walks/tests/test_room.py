"""Room on the bench: the station in use takes it, the others fold; a handle; only the photo; portraits."""

import numpy as np
from playwright.sync_api import Locator, expect

from config.tests.cases import png_bytes
from core.tests.effort import long_tier
from shoots.services.add_photo import add_photo
from walks.tests.browser import WorkScreen
from walks.tests.treated import TreatedCase


class Room(TreatedCase):
    def setUp(self) -> None:
        super().setUp()
        self.page.set_viewport_size({"width": 1280, "height": 800})
        self.screen.wait_painted()

    def wide(self, title: str) -> Locator:
        """A station that is open."""
        return self.page.get_by_role("region", name=title)

    def folded(self, title: str) -> Locator:
        return self.page.get_by_role("button", name=title).filter(
            has=self.page.get_by_role("heading")
        )

    def test_one_is_open_and_the_others_tell_what_they_hold(self) -> None:
        self.page.keyboard.press("3")
        expect(self.wide("Remedy")).to_be_visible()
        for title, held in (("Sample", "1 pair"), ("Mask", "brush"), ("Proof", "to reference")):
            expect(self.folded(title)).to_contain_text(held)
        self.folded("Mask").click()
        expect(self.wide("Mask").get_by_role("button", name="Paint")).to_be_visible()
        expect(self.folded("Remedy")).to_contain_text("neutralise 100 %")
        # A tool brings its station along.
        self.page.keyboard.press("t")
        expect(self.wide("Sample")).to_be_visible()
        box = self.wide("Sample").bounding_box()
        assert box is not None
        self.assertGreater(box["width"], 700)

    @long_tier
    def test_the_folded_proof_says_what_looks_overdone(self) -> None:
        self.page.keyboard.press("3")
        expect(self.folded("Proof")).to_contain_text("nothing overdone")
        field = self.page.get_by_label("Amount, number", exact=True)
        field.fill("150")
        field.press("Enter")
        expect(self.folded("Proof")).to_contain_text("to look at")
        self.folded("Proof").click()
        expect(self.page.get_by_role("list", name="Concerns")).to_be_visible()

    @long_tier
    def test_a_wide_screen_shows_all_four(self) -> None:
        self.page.set_viewport_size({"width": 1920, "height": 1080})
        for title in ("Sample", "Mask", "Remedy", "Proof"):
            expect(self.wide(title)).to_be_visible()

    @long_tier
    def test_the_handle_sets_a_height_that_is_remembered(self) -> None:
        handle = self.page.get_by_role("separator", name="Height of the bench")
        box = handle.bounding_box()
        assert box is not None
        before = int(handle.get_attribute("aria-valuenow") or 0)
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x, y - 80, steps=4)
        self.page.mouse.up()
        expect(handle).to_have_attribute("aria-valuenow", str(before + 80))
        handle.press("ArrowDown")
        expect(handle).to_have_attribute("aria-valuenow", str(before + 70))
        self.page.reload()
        expect(handle).to_have_attribute("aria-valuenow", str(before + 70))

    def test_one_key_leaves_nothing_but_the_photo(self) -> None:
        self.page.keyboard.press("o")
        expect(self.page.get_by_role("button", name="Deliver")).to_have_count(0)
        box = self.screen.photo.bounding_box()
        assert box is not None
        self.assertEqual((box["width"], box["height"]), (1280, 800))
        self.screen.wait_painted()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("button", name="Deliver")).to_be_visible()

    @long_tier
    def test_beside_a_portrait_the_bench_is_a_strip_and_one_sheet(self) -> None:
        path = self.folder / "tall.png"
        codes = np.random.default_rng(1).integers(60, 200, (300, 200, 3), dtype=np.uint8)
        path.write_bytes(png_bytes(np.repeat(np.repeat(codes, 4, 0), 4, 1)))
        row = add_photo(self.shoot, path, "tall.png")[0]
        self.page.goto(f"{self.live_server_url}/photos/{row.id}")
        screen = WorkScreen(self.page)
        box = screen.photo.bounding_box()
        assert box is not None
        self.assertGreater(box["height"], 690)
        expect(self.wide("Sample")).to_be_visible()
        self.folded("Proof").click()
        expect(self.wide("Proof")).to_be_visible()
        expect(self.wide("Sample")).to_have_count(0)
        self.cast_rail_folds()

    def cast_rail_folds(self) -> None:
        rail = self.page.get_by_role("complementary", name="Casts")
        rail.get_by_role("button", name="New cast").click()
        rail.get_by_role("button", name="fold", exact=True).click()
        box = rail.bounding_box()
        assert box is not None
        self.assertLess(box["width"], 80)
        letter = rail.get_by_role("button", name="Cast A,")
        expect(letter).to_have_attribute("aria-pressed", "true")
        rail.get_by_role("button", name="Base").click()
        expect(letter).to_have_attribute("aria-pressed", "false")
        letter.click()
        expect(letter).to_have_attribute("aria-pressed", "true")
        rail.get_by_role("button", name="Casts").click()
        expect(rail.get_by_role("button", name="fold", exact=True)).to_be_visible()
