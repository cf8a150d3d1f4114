"""Scopes, skin and base settings in the browser."""

import re

import numpy as np
from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, DOWN_THE_SHIRT, SHIRT

FACE = (865, 430)
WALL = (1150, 200)


class InstrumentCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.screen = self.go_to("Curtain call")
        self.photo_id = Photo.objects.get(title="Curtain call").id

    def scope(self) -> Locator:
        return self.page.get_by_test_id("scope")

    def drawn(self) -> tuple[str, str]:
        """The colours now, and the outline of those before."""
        expect(self.scope().locator("img")).to_be_visible()
        self.page.wait_for_load_state("networkidle")
        outline = self.scope().locator("path.earlier").first.get_attribute("d") or ""
        return self.scope().locator("img").get_attribute("src") or "", outline

    def choose(self, name: str) -> None:
        with self.page.expect_response(re.compile("/scopes$")):
            self.page.get_by_role("radio", name=name, exact=True).click()
        self.page.wait_for_load_state("networkidle")


class Scopes(InstrumentCase):
    @long_tier
    def test_a_mask_s_scope_follows_the_amount(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.stroke(*DOWN_THE_SHIRT)
        self.screen.wait_proved()
        self.choose("mask")
        strong, outline = self.drawn()
        with self.page.expect_response(re.compile("/scopes$")):
            self.page.get_by_label("Amount, number").fill("20")
            self.page.keyboard.press("Enter")
        weak, same = self.drawn()
        self.assertNotEqual(strong, weak)
        self.assertEqual(outline, same)
        self.assertGreater(outline.count("L"), 3)

    @long_tier
    def test_zoom_and_the_a_b_plane_with_the_samples(self) -> None:
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        near = self.drawn()
        self.choose("×4")
        self.assertNotEqual(near, self.drawn())
        self.page.get_by_role("radio", name="a–b").click()
        expect(self.scope().locator("circle.hollow")).to_have_count(1)
        expect(self.scope().locator("circle.filled")).to_have_count(1)
        self.page.get_by_role("radio", name="Pairs").click()
        expect(self.page.get_by_role("img", name="Samples relative")).to_be_visible()

    @long_tier
    def test_a_rectangle_is_read_while_it_is_dragged(self) -> None:
        self.page.get_by_role("radio", name="Levels").click()
        lightness = self.scope().get_by_role("img", name="Lightness").locator("path").first
        expect(lightness).to_be_visible()
        whole = lightness.get_attribute("d") or ""
        self.page.get_by_role("radio", name="box").click()
        self.page.mouse.move(*self.screen.at(60, 60))
        self.page.mouse.down()
        self.page.mouse.move(*self.screen.at(160, 300), steps=4)
        expect(self.page.get_by_test_id("scope-box")).to_be_visible()
        expect(lightness).not_to_have_attribute("d", whole)
        self.page.mouse.up()
        self.page.wait_for_load_state("networkidle")
        curtain = lightness.get_attribute("d")
        self.page.mouse.move(*self.screen.at(1100, 100))
        self.page.mouse.down()
        self.page.mouse.move(*self.screen.at(1180, 260), steps=4)
        self.page.mouse.up()
        expect(lightness).not_to_have_attribute("d", curtain or "")

    @long_tier
    def test_skin_is_found_or_picked_and_read_against_the_line(self) -> None:
        reading = self.page.get_by_test_id("skin")
        expect(reading).to_contain_text("Skin")
        expect(reading).to_contain_text("natural skins")
        reading.get_by_role("button", name="Pick").click()
        self.screen.click(*FACE)
        expect(reading).to_contain_text("as picked")
        reading.get_by_role("button", name="Forget").click()
        expect(reading).not_to_contain_text("as picked")


class BaseSettings(InstrumentCase):
    def setUp(self) -> None:
        super().setUp()
        self.page.get_by_role("button", name="Base").click()

    def set(self, label: str, value: str) -> None:
        self.page.get_by_label(f"{label}, number").fill(value)
        self.page.keyboard.press("Enter")
        self.screen.wait_saved()

    def base(self) -> dict[str, float]:
        return dict(saved_recipe(self.photo_id)["base"])

    @long_tier
    def test_opening_the_base_changes_nothing(self) -> None:
        expect(self.page.get_by_role("slider", name="Temperature")).to_be_visible()
        expect(self.page.get_by_role("button", name="Base as it came")).to_be_visible()
        expect(self.page.get_by_role("button", name="Undo")).to_be_disabled()

    def test_light_and_tone_show_at_once_and_undo(self) -> None:
        before = self.screen.pixel(*WALL)
        self.set("Temperature", "4500")
        cooler = self.screen.pixel(*WALL)
        self.assertLess(cooler[0] - cooler[2], before[0] - before[2] - 15)
        self.set("Exposure", "1")
        self.assertGreater(self.screen.pixel(*WALL).mean(), cooler.mean() + 25)
        self.assertEqual(self.base()["temperature"], 4500)
        self.page.get_by_role("button", name="Undo").click()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("button", name="Base as it came")).to_be_visible()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(*WALL), before, atol=2)

    @long_tier
    def test_a_slider_moves_it_by_keyboard(self) -> None:
        self.page.get_by_role("slider", name="Contrast").press("ArrowRight")
        self.screen.wait_saved()
        self.assertAlmostEqual(self.base()["contrast"], 0.01)

    def test_a_picked_neutral_becomes_neutral(self) -> None:
        self.page.get_by_role("button", name="Pick a neutral").click()
        self.screen.click(*SHIRT)
        expect(self.page.get_by_role("button", name="Base as it came")).to_have_count(0)
        self.screen.wait_saved()
        self.assertLess(self.base()["temperature"], 6300)
        self.assertLess(np.ptp(self.screen.pixel(*SHIRT)), 6)

    @long_tier
    def test_switched_off_it_is_the_photo_as_it_came(self) -> None:
        before = self.screen.pixel(*WALL)
        self.set("Saturation", "-100")
        self.assertLess(np.ptp(self.screen.pixel(300, 300)), 4)
        self.page.get_by_role("button", name="Switch off").click()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(*WALL), before, atol=2)
        expect(self.page.get_by_role("button", name="Base off")).to_be_visible()
        self.page.get_by_role("button", name="As it came").click()
        self.screen.wait_saved()
        self.assertEqual(self.base()["saturation"], 0)

    @long_tier
    def test_casts_hold_on_the_settled_photo(self) -> None:
        self.set("Exposure", "0.4")
        self.page.get_by_role("button", name="New cast").click()
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.stroke(*DOWN_THE_SHIRT)
        self.screen.wait_proved()
        before, after = self.screen.distances()
        self.page.get_by_role("button", name="Base").click()
        self.set("Temperature", "5200")
        self.page.get_by_role("button", name=re.compile("^[A-Z] ?.*cast")).first.click()
        self.screen.wait_proved()
        self.assertLess(abs(self.screen.distances()[1] - after), 1.5)
        self.assertGreater(before, 5.0)
