"""When things go wrong: two windows, a lost server, wrong words at the door, other people's photos."""

import time
from typing import Any
from unittest import mock

from playwright.sync_api import expect

from core.tests.effort import long_tier
from delivery.models import Delivery
from jobs.kinds import KINDS
from jobs.models import Job
from jobs.progress import Progress
from shoots.models import Photo
from walks.tests.browser import PATIENCE, BrowserCase, WorkScreen, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, SHIRT


class Trouble(BrowserCase):
    photos = None

    def two_windows(self) -> tuple[WorkScreen, WorkScreen]:
        """The first has saved; the second has then tried to."""
        self.open_demo()
        first = self.open_photo("Curtain call")
        page = self.page.context.new_page()
        page.goto(self.page.url)
        second = WorkScreen(page)
        first.sample_pair(SHIRT, CLEAN_SHIRT)
        second.click(150, 300)
        expect(page.get_by_text("changed in another window")).to_be_visible()
        return first, second

    def test_mine_on_top_keeps_theirs_one_undo_away(self) -> None:
        _, second = self.two_windows()
        second.page.get_by_role("button", name="Put mine on top").click()
        second.wait_saved()
        photo = Photo.objects.get(title="Curtain call")
        at = saved_recipe(photo.id)["casts"][0]["pairs"][0]["tainted"]["at"]
        self.assertAlmostEqual(at[0], 150 / 1200, places=2)
        with second.page.expect_response("**/undo"):
            second.page.get_by_role("button", name="Undo").click()
        at = saved_recipe(photo.id)["casts"][0]["pairs"][0]["tainted"]["at"]
        self.assertAlmostEqual(at[0], SHIRT[0] / 1200, places=2)

    @long_tier
    def test_theirs_keeps_mine_one_redo_away(self) -> None:
        _, second = self.two_windows()
        second.page.get_by_role("button", name="Take theirs").click()
        second.wait_saved()
        expect(second.page.get_by_role("button", name="Redo")).to_be_enabled()
        expect(second.page.get_by_text("needs a reference")).to_have_count(0)
        second.page.get_by_role("button", name="Redo").click()
        expect(second.page.get_by_text("needs a reference")).to_be_visible()

    def test_a_lost_server_is_waited_for(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        self.page.route("**/recipe", lambda route: route.abort())
        screen.click(*SHIRT)
        state = self.page.get_by_test_id("save-state")
        expect(state).to_have_text("Not saved, trying again")
        self.page.unroute("**/recipe")
        expect(state).to_have_text("Saved", timeout=PATIENCE)
        photo = Photo.objects.get(title="Curtain call")
        self.assertEqual(len(saved_recipe(photo.id)["casts"][0]["pairs"]), 1)

    def test_the_door(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/shoots/1")
        page.get_by_label("Name").fill("demo")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not match")
        page.get_by_label("Password").fill("quillwick")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("button", name="Room", exact=True)).to_be_visible()
        page.get_by_role("button", name="Room", exact=True).click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_label("Password")).to_be_visible()

    @long_tier
    def test_a_file_that_is_being_made_can_be_stopped(self) -> None:
        def endless(job: Job, progress: Progress) -> dict[str, Any]:
            while True:
                progress.tell(0.4)
                time.sleep(0.05)

        self.go_to("Curtain call")
        self.page.get_by_role("button", name="Deliver").click()
        dialog = self.page.get_by_role("dialog")
        with mock.patch.dict(KINDS, {"deliver": endless}):
            dialog.get_by_role("button", name="Make the file").click()
            expect(dialog.get_by_text("Making it")).to_be_visible()
            # The work goes on without the page, which finds it again.
            self.page.reload()
            self.page.get_by_role("button", name="Deliver").click()
            expect(dialog.get_by_text("Making it")).to_be_visible()
            dialog.get_by_role("button", name="Cancel").click()
            expect(dialog.get_by_role("button", name="Make the file")).to_be_visible()
        self.assertEqual(Job.objects.get().state, Job.State.CANCELLED)
        self.assertFalse(Delivery.objects.exists())

    @long_tier
    def test_what_is_not_there(self) -> None:
        self.open_demo()
        self.page.goto(f"{self.live_server_url}/photos/999999")
        expect(self.page.get_by_text("There is no such photo")).to_be_visible()
        self.page.get_by_role("link", name="To the contact sheet").click()
        expect(self.page.get_by_role("article")).to_have_count(9)

    @long_tier
    def test_day_and_night_are_remembered(self) -> None:
        self.open_demo()
        self.page.get_by_role("button", name="Room", exact=True).click()
        self.page.get_by_role("menuitemradio", name="Night bench").click()
        self.page.reload()
        expect(self.page.locator("html")).to_have_attribute("data-room", "night")
