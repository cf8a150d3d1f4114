"""Two states of a photo looked at together, versions, and the history: pixel by pixel on the screen."""

import csv
import re
from pathlib import Path

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from walks.tests.browser import saved_recipe
from walks.tests.treated import LIT, TreatedCase


class Compare(TreatedCase):
    def setUp(self) -> None:
        super().setUp()
        self.page.wait_for_load_state("networkidle")  # the untouched photo is there to be held up
        self.page.mouse.move(640, 20)
        self.now = self.screen.seen(*LIT)
        self.page.keyboard.down("u")
        self.until(lambda: self.assertGreater(float(self.away_from(self.now).max()), 15))
        self.before = self.screen.seen(*LIT)
        self.page.keyboard.up("u")
        self.shows(self.now)

    def choose(self, mode: str, first: str | None = None, second: str | None = None) -> None:
        page = self.page
        page.get_by_role("button", name="Compare").click()
        dialog = page.get_by_role("dialog", name="Compare")
        dialog.get_by_role("radio", name=mode).click()
        for label, name in (("First state", first), ("Second state", second)):
            if name:
                dialog.get_by_label(label).select_option(label=name)
        self.close_dialog()

    def wait_layer(self, side: str) -> None:
        self.page.wait_for_function(
            """(id) => { const layer = document.querySelector(`[data-testid="${id}"]`);
               return layer && layer.dataset.ready === layer.dataset.wanted; }""",
            arg=f"compare-{side}",
        )

    def away_from(self, wanted: np.ndarray) -> np.ndarray:
        return np.abs(self.screen.seen(*LIT) - wanted)

    def shows(self, wanted: np.ndarray) -> None:
        """The place in the glow, as it was read before; soon."""
        self.until(lambda: self.assertLess(float(self.away_from(wanted).max()), 6))

    def test_a_split_shows_either_side_and_is_dragged_and_turned(self) -> None:
        page, screen = self.page, self.screen
        page.keyboard.press("j")
        self.wait_layer("untouched")
        self.shows(self.before)  # left of the middle
        page.get_by_role("button", name=re.compile("^Divider")).focus()
        for _ in range(25):
            page.keyboard.press("ArrowLeft")
        self.shows(self.now)
        knob = page.get_by_role("button", name=re.compile("^Divider")).bounding_box()
        assert knob is not None
        page.mouse.move(knob["x"] + 12, knob["y"] + 12)
        page.mouse.down()
        page.mouse.move(*screen.at(LIT[0], 250), steps=5)  # now above the place
        page.mouse.up()
        for _ in range(18):
            page.keyboard.press("Shift+ArrowRight")  # 90 degrees: before above, now below
        page.mouse.move(640, 20)
        self.shows(self.now)
        for _ in range(36):
            page.keyboard.press("Shift+ArrowRight")  # and round
        self.shows(self.before)
        page.keyboard.press("j")
        self.shows(self.now)

    @long_tier
    def test_side_by_side_under_one_zoom(self) -> None:
        page, screen = self.page, self.screen
        self.choose("Side by side")
        self.wait_layer("untouched")
        pane = page.get_by_role("img", name="Untouched, beside the photo")
        left, right = pane.bounding_box(), screen.photo.bounding_box()
        assert left is not None and right is not None
        self.assertAlmostEqual(left["width"], right["width"], delta=2)
        page.keyboard.press("9")
        self.wait_layer("untouched")
        middle = left["width"] / 2, left["height"] / 2

        def alike() -> None:  # nothing is masked in the middle of the photo
            one, two = (
                screen.seen_at(box["x"] + middle[0], box["y"] + middle[1]) for box in (left, right)
            )
            np.testing.assert_allclose(one, two, atol=6)

        self.until(alike)
        was = screen.seen_at(right["x"] + middle[0], right["y"] + middle[1])
        page.mouse.move(left["x"] + middle[0], left["y"] + middle[1])
        page.mouse.down()
        page.mouse.move(left["x"] + middle[0] + 150, left["y"] + middle[1], steps=4)
        page.mouse.up()

        def moved() -> None:
            now = screen.seen_at(right["x"] + middle[0], right["y"] + middle[1])
            self.assertGreater(float(np.abs(now - was).max()), 6)

        self.until(moved)
        self.until(alike)

    @long_tier
    def test_before_is_there_in_the_next_frame(self) -> None:
        """Both pictures are decoded before a switch: nothing is fetched, nothing flickers."""
        frames = """async (press) => {
            const canvas = document.querySelector('[role=application] canvas');
            const { width, height } = canvas;
            const read = () => canvas.getContext('2d').getImageData(0, 0, width, height).data.join();
            const was = read();
            document.body.dispatchEvent(new KeyboardEvent(press, { key: 'u', bubbles: true }));
            await new Promise(requestAnimationFrame);
            return read() !== was; }"""
        asked: list[str] = []
        self.page.on("request", lambda request: asked.append(request.url))
        for press in ("keydown", "keyup") * 2:
            self.assertTrue(self.page.evaluate(frames, press), press)
        self.assertEqual(asked, [])

    @long_tier
    def test_blinking_shows_both_in_turn(self) -> None:
        self.choose("Blink")
        self.wait_layer("untouched")
        seen = []
        for _ in range(12):
            seen.append(self.screen.seen(*LIT))
            self.page.wait_for_timeout(230)
        for wanted in (self.now, self.before):
            self.assertTrue(any(np.abs(s - wanted).max() < 6 for s in seen), seen)

    @long_tier
    def test_one_cast_alone_is_compared(self) -> None:
        self.choose("Split", "Without cast A", "Cast A alone")
        self.wait_layer("without")
        self.wait_layer("alone")
        self.shows(self.before)
        self.page.get_by_role("button", name=re.compile("^Divider")).focus()
        for _ in range(25):
            self.page.keyboard.press("ArrowLeft")
        self.shows(self.now)

    def keep(self, name: str) -> None:
        self.page.get_by_role("button", name="Versions").click()
        dialog = self.page.get_by_role("dialog", name="Versions")
        dialog.get_by_label("Name of the version").fill(name)
        dialog.get_by_role("button", name="Keep", exact=True).click()
        expect(dialog.get_by_label(f"Name of {name}")).to_be_visible()
        self.close_dialog()

    def set_amount(self, percent: str) -> None:
        amount = self.page.get_by_label("Amount, number")
        amount.fill(percent)
        amount.press("Enter")
        self.screen.wait_saved()
        self.page.mouse.move(640, 20)
        amount.blur()

    @long_tier
    def test_versions_are_flipped_through_and_gone_back_to(self) -> None:
        page, screen = self.page, self.screen
        self.keep("Full")
        self.set_amount("0")
        self.shows(self.before)
        page.keyboard.press(".")
        expect(page.get_by_text("Version: Full")).to_be_visible()
        self.shows(self.now)
        page.keyboard.press(".")
        expect(page.get_by_text("Version: Full")).to_have_count(0)
        self.shows(self.before)
        page.get_by_role("button", name="Versions").click()
        dialog = page.get_by_role("dialog", name="Versions")
        expect(dialog).to_contain_text("neutralise amount 100 % → 0 %")
        dialog.get_by_role("button", name="Work on from it").click()
        screen.wait_saved()
        self.close_dialog()
        self.shows(self.now)
        page.get_by_role("button", name="Undo").click()
        self.shows(self.before)

    @long_tier
    def test_a_name_that_is_not_kept_is_not_lost(self) -> None:
        page = self.page
        page.route("**/versions", lambda route: route.fulfill(status=500, body="{}"))
        page.get_by_role("button", name="Versions").click()
        dialog = page.get_by_role("dialog", name="Versions")
        name = dialog.get_by_label("Name of the version")
        name.fill("Once more")
        name.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("500")
        expect(name).to_have_value("Once more")
        page.unroute("**/versions")
        name.press("Enter")
        expect(dialog.get_by_label("Name of Once more")).to_be_visible()
        expect(name).to_have_value("")

    def test_the_history_is_read_and_gone_back_in_after_a_reload(self) -> None:
        page = self.page
        self.set_amount("40")
        page.reload()
        self.screen.wait_painted()
        page.get_by_role("button", name="History").click()
        steps = page.get_by_role("dialog", name="History").get_by_role("listitem")
        expect(steps.first).to_contain_text("Cast A: neutralise amount 100 % → 40 %")
        expect(steps.nth(1)).to_contain_text("mask painted")
        steps.nth(1).get_by_role("button").click()
        expect(page.get_by_label("Amount, number")).to_have_value(re.compile("^100"))
        self.assertEqual(saved_recipe(self.row.id)["casts"][0]["remedies"][0]["amount"], 1.0)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Amount, number")).to_have_value(re.compile("^40"))

    @long_tier
    def test_a_deleted_cast_comes_back_whole(self) -> None:
        page, screen = self.page, self.screen
        screen.wait_saved()
        whole = saved_recipe(self.row.id)
        page.get_by_role("button", name="Delete").click()
        screen.wait_saved()
        self.assertEqual(saved_recipe(self.row.id)["casts"], [])
        page.reload()
        expect(page.get_by_test_id("save-state")).to_have_text("Saved")
        page.get_by_role("button", name="Undo").click()
        screen.wait_saved()
        expect(page.get_by_text("Red cast").first).to_be_visible()
        self.assertEqual(saved_recipe(self.row.id), whole)

    @long_tier
    def test_what_a_cast_touches_is_drawn_and_listed(self) -> None:
        page = self.page
        page.get_by_role("button", name="Sheets").click()
        page.get_by_role("menuitem", name="What cast A touches").click()
        dialog = page.get_by_role("dialog", name="What cast A touches")
        drawing = dialog.get_by_role("img", name="Colours before and after")
        expect(drawing.locator("rect").first).to_be_visible()
        self.assertGreater(drawing.locator("circle").count(), 40)
        rows = dialog.get_by_role("row")
        expect(rows.nth(1)).to_contain_text("%")
        told = self.asked("touches", cast=saved_recipe(self.row.id)["casts"][0]["id"])
        first = told["colours"][0]
        cells = rows.nth(1).get_by_role("cell")
        expect(cells.nth(1)).to_have_text(f"{first['share'] * 100:.0f} %")
        expect(cells.nth(3)).to_have_text(f"{first['would_move']:.1f}")
        # The red curtain lies outside the mask, and would lose its colour without it.
        self.assertTrue(any(c["would_move"] > 5 and c["moved"] < 1 for c in told["colours"]))

    @long_tier
    def test_the_proof_sheet_says_what_the_screen_says(self) -> None:
        page = self.page
        before, now = self.screen.distances()
        page.get_by_role("button", name="Sheets").click()
        with page.context.expect_page() as opened:
            page.get_by_role("menuitem", name="Proof sheet, to read").click()
        sheet = opened.value
        expect(sheet.get_by_role("heading", name="Proof: Curtain call")).to_be_visible()
        row = sheet.get_by_role("row", name="Distance to reference")
        told = row.get_by_role("cell").first.inner_text().split(" → ")
        for text, value in zip(told, (before, now), strict=True):
            self.assertAlmostEqual(float(text), value, delta=0.06)
        for name in ("as it came", "now"):
            picture = sheet.get_by_role("img", name=f"Curtain call {name}")
            self.assertGreater(picture.evaluate("p => p.naturalWidth"), 400)
        page.bring_to_front()
        page.get_by_role("button", name="Sheets").click()
        with page.expect_download() as info:
            page.get_by_role("menuitem", name="Figures as CSV").click()
        rows = list(csv.DictReader(Path(info.value.path()).read_text().splitlines()))
        noise = next(r for r in rows if r["figure"] == "Noise")
        self.assertGreater(float(noise["now"]), 0.0)
