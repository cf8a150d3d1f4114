"""Nothing that was done is lost by leaving, by a session that ends, or by a step that is refused; and keys of
dialogues are theirs."""

import json
import re

from playwright.sync_api import Route, expect

from accounts.models import SignedIn
from shoots.models import Photo
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, SHIRT


class Leaving(BrowserCase):
    photos = ("Curtain call", "Front-row snapshot")

    def photo(self) -> Photo:
        return Photo.objects.get(title="Curtain call")

    def pairs(self) -> int:
        if not self.photo().revision:
            return 0
        return len(saved_recipe(self.photo().id)["casts"][0]["pairs"])

    def guarded(self) -> bool:
        """Whether closing the page would ask first."""
        return bool(
            self.page.evaluate(
                "() => !dispatchEvent(new Event('beforeunload', {cancelable: true}))"
            )
        )

    def test_steps_on_their_way_are_saved_on_another_page(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        self.page.route("**/recipe", lambda route: route.abort())
        screen.click(*SHIRT)
        expect(self.page.get_by_test_id("save-state")).to_have_text("Not saved, trying again")
        self.page.get_by_role("link", name="Nubilis").click()
        expect(self.page.get_by_role("button", name="Add photos")).to_be_visible()
        self.assertTrue(self.guarded())
        self.page.unroute("**/recipe")
        self.until(lambda: self.assertEqual(self.pairs(), 1))
        self.until(lambda: self.assertFalse(self.guarded()))

    def test_a_session_that_ended_is_begun_again_over_the_page(self) -> None:
        self.open_demo()
        self.open_photo("Curtain call")
        SignedIn.objects.all().delete()
        self.page.get_by_role("button", name="New cast", exact=True).click()
        dialog = self.page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("You were signed out")
        dialog.get_by_role("button", name="Sign in", exact=True).click()
        expect(dialog).to_have_count(0)
        self.until(lambda: self.assertEqual(self.photo().revision, 1))
        self.assertEqual(len(saved_recipe(self.photo().id)["casts"]), 1)

    def test_a_refused_step_is_told_and_does_not_block(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")

        def refuse(route: Route) -> None:
            told = json.dumps({"detail": "The place lies outside the photo."})
            route.fulfill(status=422, body=told, content_type="application/json")

        self.page.route("**/recipe", refuse, times=1)
        screen.click(*SHIRT)
        alert = self.page.get_by_role("alert").filter(has_text="Not saved: New cast A")
        expect(alert).to_contain_text("outside the photo")
        screen.click(*CLEAN_SHIRT)
        expect(alert).to_have_count(0)
        screen.wait_saved()
        self.assertEqual(self.pairs(), 1)
        # Alone, it can be done without.
        self.page.route("**/recipe", refuse, times=1)
        self.page.get_by_role("button", name="New cast", exact=True).click()
        alert = self.page.get_by_role("alert").filter(has_text="Not saved")
        alert.get_by_role("button", name="Drop this change").click()
        expect(alert).to_have_count(0)
        casts = self.page.get_by_role("complementary", name="Casts").get_by_role("article")
        expect(casts).to_have_count(1)
        self.assertFalse(self.guarded())

    def test_keys_of_menus_and_dialogues_are_not_the_photo_s(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        page = self.page
        page.get_by_role("button", name="Room", exact=True).click()
        expect(page.get_by_role("menu")).to_be_visible()
        page.keyboard.press("x")
        page.keyboard.press("Escape")
        expect(page.get_by_role("menu")).to_have_count(0)
        paint = page.get_by_role("button", name="Paint", exact=True)
        erase = page.get_by_role("button", name="Erase", exact=True)
        expect(erase).to_have_attribute("aria-pressed", "false")
        page.keyboard.press("x")
        expect(erase).to_have_attribute("aria-pressed", "true")
        # A tool that was clicked is not pressed again by Space, which moves the photo.
        paint.click()
        expect(paint).to_have_attribute("aria-pressed", "true")
        page.keyboard.down(" ")
        expect(page.get_by_role("application")).to_have_class(re.compile("cursor-grab"))
        page.keyboard.up(" ")
        expect(paint).to_have_attribute("aria-pressed", "true")
