"""Every way to say what a colour is and what it should be."""

import json
import re
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, DOWN_THE_SHIRT, SHIRT

CHEEK, FAR_CHEEK = (385, 290), (845, 265)


class SamplingCase(BrowserCase):
    photos = (
        "Curtain call",
        "Repair day at the workshop",
        "Company portrait in the paint store",
    )

    def setUp(self) -> None:
        super().setUp()
        self.screen = self.go_to("Curtain call")
        self.photo_id = Photo.objects.get(title="Curtain call").id

    def cast(self, photo_id: int | None = None) -> dict[str, Any]:
        self.screen.wait_saved()
        return dict(saved_recipe(photo_id or self.photo_id)["casts"][0])

    def pair(self, photo_id: int | None = None) -> dict[str, Any]:
        return dict(self.cast(photo_id)["pairs"][-1])

    def changed(self, earlier: dict[str, Any]) -> dict[str, Any]:
        """The last pair, once it is another than it was."""
        self.until(lambda: self.assertNotEqual(self.pair(), earlier))
        return self.pair()

    def tainted(self) -> None:
        """A tainted sample that waits for its reference."""
        self.screen.click(*SHIRT)
        expect(self.page.get_by_text("needs a reference")).to_be_visible()

    def details(self, name: str) -> Locator:
        self.page.get_by_role("button", name=f"{name}, its values").click()
        return self.page.get_by_role("dialog")

    def from_elsewhere(self) -> Locator:
        self.page.get_by_role("button", name="Reference from elsewhere").click()
        return self.page.get_by_role("dialog")


class Sampling(SamplingCase):
    @long_tier
    def test_further_clicks_are_averaged_into_the_sample(self) -> None:
        self.tainted()
        before = self.pair()
        alone = before["tainted"]
        self.page.keyboard.down("Shift")
        self.screen.click(60, 300)  # the curtain
        self.page.keyboard.up("Shift")
        expect(self.page.get_by_text("needs a reference")).to_have_count(1)
        both = self.changed(before)["tainted"]
        self.assertEqual(both["at"], alone["at"])
        self.assertEqual(len(both["further"]), 1)
        self.assertGreater(both["count"], 1.7 * alone["count"])
        self.assertGreater(both["rgb"][0] / both["rgb"][2], 1.2 * alone["rgb"][0] / alone["rgb"][2])
        self.details("Sample 1, before and now")
        expect(self.page.get_by_text("2 places")).to_be_visible()

    @long_tier
    def test_a_sample_is_dragged_and_nudged_and_deleted_by_key(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        before = self.pair()
        self.page.keyboard.press("Escape")
        tag = self.page.get_by_role("button", name="Sample 2: drag it")
        box = tag.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 60, y - 40, steps=6)
        self.page.mouse.up()
        pair = self.changed(before)
        moved = pair["reference"]
        self.assertGreater(moved["at"][0], before["reference"]["at"][0] + 0.05)
        self.assertNotEqual(moved["rgb"], before["reference"]["rgb"])
        tag.focus()
        self.page.keyboard.press("ArrowLeft")
        nudged = self.changed(pair)["reference"]
        self.assertAlmostEqual(nudged["at"][0], moved["at"][0] - 1 / 1200, places=5)
        tag.focus()
        self.page.keyboard.press("Delete")
        expect(self.page.get_by_text("needs a reference")).to_be_visible()
        self.assertIsNone(self.pair()["reference"])

    @long_tier
    def test_a_guess_is_corrected_and_skin_is_looked_at_on_its_line(self) -> None:
        self.screen.click(*CHEEK)
        expect(self.page.get_by_text("needs a reference")).to_be_visible()
        self.screen.click(*FAR_CHEEK)
        expect(self.page.get_by_text(re.compile(r"Skin \d+° → \d+°\s+off line"))).to_be_visible()
        expect(self.page.get_by_role("radio", name="×4")).to_be_checked()
        expect(self.page.get_by_test_id("skin")).to_contain_text("as picked")
        details = self.details("Reference of sample 1")
        expect(details.get_by_role("term").filter(has_text="CIELAB D50")).to_be_visible()
        details.get_by_label("Kind of surface").select_option("Foliage")
        expect(self.page.get_by_text("off line")).to_have_count(0)
        self.close_dialog()
        self.assertEqual(self.pair()["reference"]["kind"], "foliage")

    @long_tier
    def test_a_reference_is_typed_in_any_space(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        before = self.pair()
        details = self.details("Reference of sample 1")
        details.get_by_label("Values to type").select_option("A grey under a light")
        kelvin = details.get_by_label("Reference K, number")
        kelvin.fill("3200")
        kelvin.press("Enter")
        warm = self.changed(before)
        self.assertGreater(warm["reference"]["rgb"][0], 1.5 * warm["reference"]["rgb"][2])
        details.get_by_label("Values to type").select_option("The photo's RGB")
        blue = details.get_by_label("Reference B, number")
        blue.fill("250")
        blue.press("Enter")
        cold = self.changed(warm)
        self.assertGreater(cold["reference"]["rgb"][2], 2 * warm["reference"]["rgb"][2])

    @long_tier
    def test_a_lighter_reference_can_be_levelled(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        expect(self.page.get_by_text(re.compile(r"\d+ L\* lighter"))).to_be_visible()
        level = self.page.get_by_role("button", name="Level", exact=True)
        level.click()
        expect(level).to_have_attribute("aria-pressed", "true")
        self.assertTrue(self.pair()["level"])

    @long_tier
    def test_a_pair_that_contradicts_the_others_is_left_out_until_it_is_wanted(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.sample_pair((365, 424), (468, 527))
        self.screen.sample_pair((352, 560), (60, 300))  # the curtain is another paint
        expect(self.page.get_by_text("Contradicts the other pairs")).to_be_visible()
        self.page.get_by_role("button", name="Use it").click()
        expect(self.page.get_by_text("Points another way: a second pass")).to_be_visible()
        self.assertTrue(self.pair()["second"])
        self.page.get_by_role("button", name="Leave out").click()
        expect(self.page.get_by_text("Contradicts the other pairs")).to_be_visible()

    @long_tier
    def test_a_match_tells_which_pair_contradicts_and_removes_it(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.sample_pair((365, 424), (468, 527))
        self.screen.sample_pair((352, 560), (60, 300))
        self.screen.stroke(*DOWN_THE_SHIRT)
        self.screen.add_remedy("Match")
        told = self.page.get_by_text(re.compile(r"Sample 5 contradicts 1 and 3"))
        expect(told).to_be_visible()
        expect(self.page.get_by_text(re.compile(r"match leaves \d"))).to_have_count(3)
        self.page.get_by_role("button", name="Remove it").click()
        expect(told).to_have_count(0)
        self.assertEqual(len(self.cast()["pairs"]), 2)

    @long_tier
    def test_a_kept_colour_holds_whatever_is_done_around_it(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.page.get_by_role("button", name="Keep", exact=True).click()
        self.screen.click(*CHEEK)
        expect(self.page.get_by_text(re.compile(r"held \d"))).to_be_visible()
        cheek, hair = self.screen.pixel(*CHEEK), self.screen.pixel(404, 168)
        self.screen.add_remedy("Shift")
        self.page.get_by_label("Hue, number").fill("90")
        self.page.keyboard.press("Enter")
        self.page.keyboard.press("p")
        self.screen.stroke((385, 150), (385, 320))
        np.testing.assert_allclose(self.screen.pixel(*CHEEK), cheek, atol=2.0)
        self.assertGreater(np.abs(self.screen.pixel(404, 168) - hair).max(), 6)
        expect(self.page.get_by_text(re.compile(r"^held \d"))).to_be_visible()

    @long_tier
    def test_dragging_on_the_photo_turns_a_shift_and_other_amounts(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.stroke(*DOWN_THE_SHIRT)
        drag = self.page.get_by_role("button", name="Drag on photo")
        drag.click()
        self.page.mouse.move(700, 300)
        self.page.mouse.down()
        self.page.mouse.move(600, 300, steps=5)
        expect(self.page.get_by_text("Amount 60 %")).to_be_visible()
        self.page.mouse.up()
        self.assertAlmostEqual(self.cast()["remedies"][0]["amount"], 0.6)
        self.screen.add_remedy("Shift")
        self.page.mouse.move(700, 300)
        self.page.mouse.down()
        self.page.mouse.move(750, 260, steps=5)
        expect(self.page.get_by_text("Hue +20°, saturation +16 %")).to_be_visible()
        self.page.mouse.up()
        self.screen.photo.focus()
        self.page.keyboard.press("Shift+ArrowUp")
        expect(self.page.get_by_label("Luminance, number")).to_have_value("2 %")
        shift = self.cast()["remedies"][1]
        self.assertEqual((shift["hue"], shift["saturation"], shift["luminance"]), (20, 0.16, 0.02))
        undo = self.page.get_by_role("button", name="Undo")
        undo.click()
        expect(self.page.get_by_label("Luminance, number")).to_have_value("0 %")

    @long_tier
    def test_the_same_place_as_the_photo_came(self) -> None:
        self.tainted()
        dialog = self.from_elsewhere()
        expect(dialog.get_by_role("button", name="The place as it came")).to_be_disabled()
        self.close_dialog()
        self.page.get_by_role("button", name="Base").click()
        self.page.get_by_label("Temperature, number").fill("4500")
        self.page.keyboard.press("Enter")
        self.screen.wait_saved()
        self.page.get_by_role("button", name="Needs a pair").click()
        came = self.cast()["pairs"][0]["tainted"]["rgb"]
        self.from_elsewhere().get_by_role("button", name="The place as it came").click()
        expect(self.page.get_by_text("as it came", exact=True)).to_be_visible()
        reference = self.pair()["reference"]
        self.assertEqual((reference["origin"], reference["at"]), ("original", None))
        np.testing.assert_allclose(reference["rgb"], came, rtol=1e-5)

    @long_tier
    def test_another_photo_lies_beside_and_is_clicked(self) -> None:
        self.tainted()
        self.from_elsewhere().get_by_role("button", name="Another photo beside").click()
        beside = self.page.get_by_role("region", name="Another photo of the shoot")
        beside.get_by_label("Photo beside", exact=True).select_option(
            "Company portrait in the paint store"
        )
        there = beside.get_by_role("application", name="Company portrait")
        expect(there).to_be_visible()
        self.page.wait_for_timeout(500)
        box = there.bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5
        self.page.mouse.move(x, y)
        expect(beside.locator("p span").first).to_be_visible()
        self.page.mouse.wheel(0, -400)
        self.page.mouse.click(x, y)
        expect(self.page.get_by_title("Company portrait in the paint store").first).to_be_visible()
        self.assertEqual(self.pair()["reference"]["origin"], "photo")
        there.focus()
        self.page.keyboard.press("Shift+ArrowRight")
        first = self.pair()
        self.page.keyboard.press("Enter")
        self.assertNotEqual(self.changed(first)["reference"]["rgb"], first["reference"]["rgb"])
        beside.get_by_role("button", name="Close the photo beside").click()
        expect(beside).to_have_count(0)


class Library(SamplingCase):
    def test_a_colour_is_kept_on_one_photo_and_taken_on_another(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        details = self.details("Reference of sample 1")
        details.get_by_label("Name in the library").fill("White shirt")
        details.get_by_label("Group in the library").select_option("Materials")
        details.get_by_role("button", name="Keep").click()
        expect(details.get_by_text("White shirt is in the library")).to_be_visible()
        self.close_dialog()
        kept = self.pair()["reference"]["rgb"]
        self.page.get_by_role("link", name="Next photo").click()
        expect(self.page.get_by_role("heading", name="Repair day")).to_be_visible()
        self.screen = type(self.screen)(self.page)
        self.screen.click(300, 420)
        expect(self.page.get_by_text("needs a reference")).to_be_visible()
        self.from_elsewhere().get_by_role("button", name="White shirt").click()
        expect(self.page.get_by_text("needs a reference")).to_have_count(0)
        other = Photo.objects.get(title="Repair day at the workshop").id
        pair = self.pair(other)
        self.assertEqual((pair["reference"]["name"], pair["level"]), ("White shirt", True))
        np.testing.assert_allclose(pair["reference"]["rgb"], kept, atol=2e-3)

    @long_tier
    def test_the_screen_keeps_changes_removes_and_exchanges_colours(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/references")
        expect(page.get_by_text("Skin 9 of 9")).to_be_visible()
        page.get_by_role("button", name="New colour").click()
        form = page.get_by_role("form", name="New colour")
        form.get_by_label("Name").fill("Velvet")
        for field, value in (("L*", "35"), ("a*", "48"), ("b*", "26")):
            form.get_by_label(f"New colour {field}, number").fill(value)
            page.keyboard.press("Tab")
        form.get_by_role("button", name="Keep it for every shoot").click()
        card = page.get_by_role("article", name="Velvet")
        expect(card.get_by_text("35.0 48.0 26.0")).to_be_visible()
        with page.expect_download() as taken:
            page.get_by_role("button", name="Export").click()
            page.get_by_role("menuitem", name="CSV").click()
        table = Path(taken.value.path()).read_text()
        self.assertIn("Velvet,material,35.0,48.0,26.0,", table)
        card.get_by_label("Name of Velvet").fill("Red velvet")
        page.keyboard.press("Enter")
        renamed = page.get_by_role("article", name="Red velvet")
        renamed.get_by_label("Shoot of Red velvet").select_option(index=1)
        page.get_by_label("Kept for").select_option(index=1)
        expect(renamed).to_be_visible()
        renamed.get_by_role("button", name="Remove Red velvet").click()
        expect(renamed).to_have_count(0)
        page.get_by_role("button", name="Put it back").click()
        expect(renamed).to_be_visible()
        page.get_by_label("Kept for").select_option(index=0)
        table += "Broken,paint,1,2,3,\n"
        file = self.folder / "colours.csv"
        file.write_text(table)
        chooser = page.get_by_label("References to import")
        chooser.set_input_files(file)
        expect(page.get_by_role("alert")).to_contain_text(re.compile(r"line \d+: group"))
        good = {"format": "nubilis-references", "version": 1, "references": [
            {"name": "Card", "group": "neutral", "lab": [60, 0, 1]},
        ]}  # fmt: skip
        file = self.folder / "colours.json"
        file.write_text(json.dumps(good))
        chooser.set_input_files(file)
        expect(page.get_by_text("1 added")).to_be_visible()
        expect(page.get_by_role("article", name="Card")).to_be_visible()

    @long_tier
    def test_by_keyboard_alone(self) -> None:
        page = self.page
        self.screen.photo.focus()
        page.keyboard.press("t")
        for _ in range(20):
            page.keyboard.press("Shift+ArrowLeft" if _ < 4 else "ArrowDown")
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_be_visible()
        page.get_by_role("button", name="Reference from elsewhere").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Mid grey")).to_be_visible()
        page.get_by_role("button", name="Mid grey").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_have_count(0)
        self.close_dialog()
        self.screen.photo.focus()
        page.keyboard.press("p")
        page.keyboard.press("Enter")
        self.screen.wait_saved()
        page.get_by_label("Amount, number").focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Tab")
        cast = self.cast()
        self.assertEqual(cast["pairs"][0]["reference"]["name"], "Mid grey")
        self.assertEqual(len(cast["mask"]["parts"][0]["strokes"]), 1)
        self.assertLess(cast["remedies"][0]["amount"], 1.0)
