"""The bench under the hand: brush, pen, colour key, views, amount, zoom, keyboard."""

import re

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import PATIENCE, BrowserCase, WorkScreen, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, DOWN_THE_SHIRT, SHIRT


class Bench(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.screen = self.go_to("Curtain call")
        self.photo_id = Photo.objects.get(title="Curtain call").id

    def masked(self) -> WorkScreen:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.stroke(*DOWN_THE_SHIRT)
        self.screen.wait_proved()
        return self.screen

    def view(self, name: str) -> None:
        with self.page.expect_response(re.compile("/picture$")):
            self.page.get_by_role("radio", name=name).click()

    @long_tier
    def test_ways_of_showing_the_mask(self) -> None:
        screen = self.masked()
        self.view("matte")
        self.until(lambda: np.testing.assert_allclose(screen.pixel(355, 460), 255, atol=6))
        np.testing.assert_allclose(screen.pixel(900, 300), 0, atol=4)
        self.view("only masked")
        # The red curtain, outside the mask.
        self.until(lambda: self.assertLess(np.ptp(screen.pixel(150, 100)), 6))
        self.view("hatch")
        self.page.get_by_role("radio", name="result").press("w")
        expect(self.page.get_by_role("radio", name="outline")).to_be_checked()
        self.page.get_by_role("radio", name="result").press("w")
        expect(self.page.get_by_role("radio", name="matte")).to_be_checked()

    @long_tier
    def test_erasing_takes_the_mask_away(self) -> None:
        screen = self.masked()
        self.page.get_by_role("button", name="Erase").click()
        screen.stroke(*DOWN_THE_SHIRT)
        self.view("matte")
        self.until(lambda: self.assertLess(screen.pixel(900, 300).max(), 5))
        self.assertLess(screen.pixel(355, 460).max(), 60)
        strokes = saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"][0]["strokes"]
        self.assertEqual([s["erase"] for s in strokes], [False, True])

    @long_tier
    def test_a_pen_s_pressure_is_kept(self) -> None:
        screen = self.screen
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        for kind, x, pressure in (("down", 350, 0.25), ("move", 360, 0.5), ("up", 360, 0.0)):
            px, py = screen.at(x, 450)
            screen.photo.dispatch_event(
                f"pointer{kind}",
                {"clientX": px, "clientY": py, "pointerType": "pen", "pressure": pressure,
                 "pointerId": 1, "button": 0, "bubbles": True},
            )  # fmt: skip
        screen.wait_saved()
        points = saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"][0]["strokes"][0]["points"]
        self.assertEqual([p[1] for p in points], [0.25, 0.5])

    def test_a_colour_key_without_a_sample_takes_the_colour_that_is_clicked(self) -> None:
        screen = self.screen
        self.page.get_by_role("button", name="New cast").click()
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Colour key", exact=True).click()
        expect(self.page.get_by_text("Click or drag over colours.")).to_be_visible()
        with self.page.expect_response("**/key"):
            screen.click(*SHIRT)
        screen.wait_saved()
        (cast,) = saved_recipe(self.photo_id)["casts"]
        (key,) = cast["mask"]["parts"]
        self.assertEqual((key["kind"], len(key["taken"]), cast["pairs"]), ("colour-key", 1, []))

    @long_tier
    def test_a_colour_key_narrows_the_mask(self) -> None:
        screen = self.masked()
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Colour key").click()
        screen.wait_saved()
        expect(self.page.get_by_role("button", name="intersects")).to_be_visible()
        self.view("matte")
        self.until(lambda: self.assertGreater(screen.pixel(*SHIRT).min(), 200))
        self.assertLess(screen.pixel(420, 460).max(), 60)
        self.page.get_by_role("slider", name="Hue, core to").press("ArrowRight")
        screen.wait_saved()
        box = self.page.get_by_role("slider", name="Luminance, lower fade")
        before = float(box.get_attribute("aria-valuenow") or 0)
        bounds = box.bounding_box()
        assert bounds is not None
        self.page.mouse.move(bounds["x"] + 5, bounds["y"] + 10)
        self.page.mouse.down()
        self.page.mouse.move(bounds["x"] - 35, bounds["y"] + 10, steps=4)
        self.page.mouse.up()
        screen.wait_saved()
        self.assertLess(float(box.get_attribute("aria-valuenow") or 0), before - 5)
        self.page.get_by_label("Saturation, core to, number").fill("40")
        self.page.keyboard.press("Enter")
        screen.wait_saved()
        key = saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"][1]
        self.assertEqual((key["join"], key["saturation"]["core"][1]), ("intersect", 40))
        self.page.get_by_role("button", name="Sample the key").click()
        with self.page.expect_response("**/key"):
            screen.click(150, 300)
        screen.wait_saved()
        key = saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"][1]
        self.assertGreater(key["saturation"]["core"][0], 30)

    @long_tier
    def test_parts_are_joined_inverted_and_deleted(self) -> None:
        screen = self.masked()
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Whole photo").click()
        screen.wait_saved()
        for choice in ("is taken away from it", "Inverted"):
            self.page.get_by_title("What this part does").click()
            self.page.get_by_text(choice).click()
            screen.wait_saved()
            self.page.keyboard.press("Escape")
        part = saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"][1]
        self.assertEqual((part["join"], part["invert"]), ("subtract", True))
        self.page.get_by_title("What this part does").click()
        self.page.get_by_role("menuitem", name="Delete this part").click()
        screen.wait_saved()
        self.assertEqual(len(saved_recipe(self.photo_id)["casts"][0]["mask"]["parts"]), 1)

    def test_amount_by_number_by_handle_and_back_to_rest(self) -> None:
        screen = self.masked()
        full = screen.distances()[1]
        field = self.page.get_by_label("Amount, number")
        field.fill("0")
        field.press("Enter")
        screen.wait_saved()
        row = self.page.get_by_role("row", name="Distance to reference")
        before = screen.distances()[0]
        expect(row).to_contain_text(f"{before:.1f} → {before:.1f}", timeout=PATIENCE)
        slider = self.page.get_by_role("slider", name="Amount", exact=True)
        for _ in range(3):
            slider.press("ArrowRight")
        screen.wait_saved()
        expect(field).to_have_value("3 %")
        slider.dblclick()
        screen.wait_saved()
        expect(field).to_have_value("100 %")
        expect(row).to_contain_text(f"→ {full:.1f}", timeout=PATIENCE)
        self.assertEqual(saved_recipe(self.photo_id)["casts"][0]["remedies"][0]["amount"], 1.0)

    @long_tier
    def test_a_kept_colour_and_removed_samples(self) -> None:
        screen = self.masked()
        self.page.get_by_role("button", name="Keep").click()
        screen.click(200, 300)
        expect(self.page.get_by_text("must stay")).to_be_visible()
        expect(self.page.get_by_role("row", name="Kept colours")).to_contain_text("held")
        self.page.get_by_role("button", name="Remove kept colour 3").click()
        expect(self.page.get_by_text("must stay")).to_have_count(0)
        self.page.get_by_role("button", name="Remove pair 1").click()
        expect(self.page.get_by_text("Needs a pair of samples")).to_be_visible()
        screen.wait_saved()

    def test_casts_are_named_switched_and_deleted(self) -> None:
        screen = self.masked()
        treated = screen.pixel(*SHIRT)
        self.page.get_by_role("button", name="Rename").click()
        self.page.get_by_label("Name of cast A").fill("Glow on the shirt")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Glow on the shirt")).to_be_visible()
        self.page.get_by_label("Casts").get_by_role("button", name="Switch off").click()
        screen.wait_saved()
        self.assertGreater(np.ptp(screen.pixel(*SHIRT)), 1.5 * np.ptp(treated))
        self.page.get_by_role("button", name="New cast").click()
        expect(self.page.get_by_label("Casts").get_by_role("article")).to_have_count(2)
        self.page.get_by_role("button", name="Delete").click()
        expect(self.page.get_by_label("Casts").get_by_role("article")).to_have_count(1)
        screen.wait_saved()
        self.assertEqual(saved_recipe(self.photo_id)["casts"][0]["name"], "Glow on the shirt")

    def figures(self, readout: str) -> list[float]:
        """L, a, b of the untouched photo."""
        return [float(n) for n in re.findall(r"-?\d+\.\d", readout)[:3]]

    def test_zoom_at_the_pointer_pan_and_fit(self) -> None:
        screen = self.screen
        zoom = self.page.get_by_test_id("zoom")
        fitted = zoom.inner_text()
        self.page.mouse.move(*screen.at(740, 400))
        readout = self.page.get_by_test_id("readout")
        expect(readout).to_contain_text("before")
        figures = self.figures(readout.inner_text())
        self.page.mouse.wheel(0, -900)
        expect(zoom).not_to_have_text(fitted)
        screen.wait_painted()
        # A hair's breadth, so that the readout answers anew for the same place.
        x, y = screen.at(740, 400)
        self.page.mouse.move(x + 0.2, y)
        self.until(
            lambda: np.testing.assert_allclose(
                self.figures(readout.inner_text()), figures, atol=1.5
            )
        )
        self.page.keyboard.press("9")
        expect(zoom).to_have_text("100 %")
        self.page.keyboard.down("Space")
        self.page.mouse.down()
        self.page.mouse.move(x - 200, y, steps=4)
        self.page.mouse.up()
        self.page.keyboard.up("Space")
        self.assertEqual(self.page.get_by_text("needs a reference").count(), 0)  # it did not sample
        self.page.keyboard.press("0")
        expect(zoom).to_have_text(fitted)

    @long_tier
    def test_the_keyboard_alone(self) -> None:
        screen, page = self.screen, self.page
        screen.photo.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_be_visible()
        for _ in range(6):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_have_count(0)
        page.keyboard.press("p")
        for _ in range(6):
            page.keyboard.press("Shift+ArrowLeft")
        page.keyboard.press("Enter")
        screen.wait_saved()
        recipe = saved_recipe(self.photo_id)["casts"][0]
        self.assertEqual(len(recipe["mask"]["parts"][0]["strokes"]), 1)
        self.assertAlmostEqual(recipe["pairs"][0]["tainted"]["at"][0], 0.5, places=2)
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("Keys and figures")
        page.get_by_label("Single keys work").uncheck()
        self.close_dialog()
        page.keyboard.press("t")
        tainted = page.get_by_role("button", name="Tainted", exact=True)
        expect(tainted).to_have_attribute("aria-pressed", "false")
