"""Finding casts in the browser: look, hover, be led, adopt, dismiss, look again, stop; one photo or all."""

import re
import time
from threading import Event
from typing import Any
from unittest import mock

import numpy as np
from playwright.sync_api import Locator, Route, expect

from core.tests.effort import long_tier
from jobs.kinds import KINDS, Work
from jobs.models import Job
from jobs.progress import Progress
from shoots.models import Photo
from studio.models import KeptSurvey
from studio.services.whole_shoot import look_at_one
from walks.tests.browser import PATIENCE, BrowserCase, WorkScreen, saved_recipe
from walks.tests.test_demo import SHIRT

COUNT = re.compile(r"^Finding [A-Z]:")


class FinderCase(BrowserCase):
    photos = None

    def setUp(self) -> None:
        super().setUp()
        self.open_demo()

    def findings(self) -> Locator:
        return self.page.get_by_role("article", name=COUNT)

    def look(self) -> None:
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_role("button", name="Look again")).to_be_visible()

    def opened(self, title: str = "Curtain call") -> WorkScreen:
        self.photo_id = Photo.objects.get(title=title).id
        return self.open_photo(title)


class Findings(FinderCase):
    def test_from_an_opened_photo_to_a_neutralised_cast_in_two_clicks(self) -> None:
        screen = self.opened()
        before = screen.pixel(*SHIRT)
        self.look()  # one
        card = self.findings().first
        expect(card).to_contain_text(re.compile("Likely|Possible"))
        expect(card).to_contain_text(re.compile("towards (red|orange)"))
        card.get_by_role("button", name="Adopt").click()  # two
        screen.wait_saved()
        screen.wait_proved_better()
        was, now = screen.distances()
        self.assertLess(now, 0.7 * was)  # at a modest amount
        after = screen.pixel(*SHIRT)
        self.assertLess(np.ptp(after), np.ptp(before))
        (cast,) = saved_recipe(self.photo_id)["casts"]
        self.assertGreaterEqual(len(cast["pairs"]), 1)
        self.assertLess(cast["remedies"][0]["amount"], 1.0)
        self.page.get_by_label("Amount, number").fill("100")
        self.page.keyboard.press("Enter")
        screen.wait_saved()
        self.assertLess(np.ptp(screen.pixel(*SHIRT)), np.ptp(after))

    @long_tier
    def test_hovering_shows_the_region_and_its_source(self) -> None:
        self.opened()
        self.look()
        region = self.page.get_by_test_id("finding-region")
        expect(region).to_have_count(0)
        self.findings().first.hover()
        expect(region).to_be_visible()
        path = region.locator("path").first.get_attribute("d") or ""
        self.assertGreater(path.count("L"), 8)
        expect(self.page.get_by_text("source?")).to_be_visible()
        expect(self.page.get_by_text("tainted", exact=True)).to_be_visible()
        self.page.mouse.move(640, 20)
        expect(region).to_have_count(0)

    @long_tier
    def test_the_result_is_kept(self) -> None:
        self.opened()
        self.look()
        reason = self.findings().first.get_by_title("towards").inner_text()
        self.page.reload()
        WorkScreen(self.page)
        expect(self.findings().first.get_by_title("towards")).to_have_text(reason)

    @long_tier
    def test_the_map_is_grey_but_where_light_adds_colour(self) -> None:
        screen = self.opened()
        self.look()
        with self.page.expect_response(re.compile("/picture$")):
            self.page.get_by_role("button", name="map").click()
        screen.wait_painted()
        self.assertGreater(np.ptp(screen.pixel(355, 440)), 25)
        self.assertLess(np.ptp(screen.pixel(1150, 200)), 12)
        self.page.get_by_role("application").press("m")
        expect(self.page.get_by_role("button", name="map")).to_have_attribute(
            "aria-pressed", "false"
        )


@long_tier
class Words(FinderCase):
    def test_a_direction_leads_and_is_taken_back(self) -> None:
        self.opened()
        self.look()
        chips = self.page.get_by_role("group", name="Possible directions").get_by_role("button")
        red = chips.filter(has_text=re.compile("red|orange"))
        red.click()
        expect(red).to_have_attribute("aria-pressed", "true")
        expect(self.findings()).to_have_count(1)
        expect(self.findings().first).to_contain_text(re.compile("Red|Orange|Pink"))
        other = chips.filter(has_not_text=re.compile("red|orange")).first
        name = other.inner_text().strip()
        other.click()
        expect(other).to_have_attribute("aria-pressed", "true")
        said = KeptSurvey.objects.get(photo=self.photo_id).document
        self.assertIn('"direction":[', said)
        self.page.get_by_role("button", name="Forget").click()
        expect(chips.filter(has_text=name)).to_have_attribute("aria-pressed", "false")
        self.assertIn('"direction":null', KeptSurvey.objects.get(photo=self.photo_id).document)

    def test_showing_a_taint_finds_what_lies_there(self) -> None:
        screen = self.opened("Moonlit pierrot")
        self.page.get_by_role("button", name="Delete").click()
        self.look()
        self.page.get_by_role("button", name="Show a taint").click()
        screen.click(880, 480)
        expect(self.page.get_by_role("button", name="Forget")).to_be_visible()
        expect(self.findings()).to_have_count(1)
        expect(self.findings().first).to_contain_text(re.compile("Magenta|Pink|Violet"))

    def test_showing_a_grey_and_a_cast_s_own_pair_are_words_too(self) -> None:
        screen = self.opened()
        self.look()
        self.page.get_by_role("button", name="Show a grey").click()
        screen.click(*SHIRT)
        expect(self.page.get_by_role("button", name="Forget")).to_be_visible()
        expect(self.findings()).to_have_count(1)
        self.findings().first.get_by_role("button", name="Adopt").click()
        screen.wait_saved()
        self.page.get_by_role("button", name="As in A").click()
        expect(self.page.get_by_role("button", name="As in A")).to_have_attribute(
            "aria-pressed", "true"
        )

    def test_what_was_dismissed_stays_away_until_that_is_undone(self) -> None:
        screen = self.opened()
        self.look()
        expect(self.findings()).to_have_count(1)
        self.findings().first.get_by_role("button", name="Dismiss").click()
        expect(self.findings().filter(has_text="Red")).to_have_count(0)
        screen.wait_saved()
        self.page.get_by_role("button", name="Look again").click()
        expect(self.page.get_by_role("progressbar")).to_have_count(0)
        expect(self.findings().filter(has_text="Red")).to_have_count(0)
        self.assertEqual(len(saved_recipe(self.photo_id)["dismissed"]), 1)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.findings().filter(has_text="Red")).to_have_count(1)

    def test_undoing_an_adoption_shows_the_finding_again(self) -> None:
        screen = self.opened()
        self.look()
        self.findings().first.get_by_role("button", name="Adopt").click()
        screen.wait_saved()
        expect(self.findings().filter(has_text="Red")).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.findings().filter(has_text="Red")).to_have_count(1)

    def test_a_photo_without_casts_says_just_that(self) -> None:
        self.opened("Company portrait in the paint store")
        self.look()
        expect(self.findings()).to_have_count(0)
        expect(self.page.get_by_text("Nothing was found.")).to_be_visible()


class Stopping(FinderCase):
    def hold(self) -> None:
        """Requests to look get no answer."""
        self.page.route(re.compile("/look$"), self._unanswered)

    @staticmethod
    def _unanswered(route: Route) -> None:
        if route.request.method == "GET":
            route.continue_()

    @long_tier
    def test_a_look_can_be_stopped(self) -> None:
        self.opened()
        self.hold()
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_role("status").get_by_text("Looking")).to_be_visible()
        self.page.get_by_role("button", name="Cancel").click()
        expect(self.page.get_by_role("button", name="Look for casts")).to_be_visible()
        self.assertFalse(KeptSurvey.objects.exists())

    def begun(self, work: Work) -> None:
        """A look at the whole shoot, done by something else than the finder."""
        patched = mock.patch.dict(KINDS, {"look": work})
        patched.start()
        self.addCleanup(patched.stop)
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_text("Looking at 1 of 9")).to_be_visible()

    @long_tier
    def test_a_shoot_s_look_can_be_stopped(self) -> None:
        def endless(job: Job, progress: Progress) -> dict[str, Any]:
            while True:
                progress.tell(0.1)
                time.sleep(0.05)

        self.begun(endless)
        self.page.get_by_role("button", name="Cancel").click()
        expect(self.page.get_by_role("button", name="Look for casts")).to_be_visible()
        self.assertEqual(Job.objects.get(parent=None).state, Job.State.CANCELLED)

    @long_tier
    def test_leaving_the_page_does_not_stop_a_shoot_s_look(self) -> None:
        seen, go_on = Event(), Event()

        def held(job: Job, progress: Progress) -> dict[str, Any]:
            seen.set()
            go_on.wait()
            return look_at_one(job, progress)

        self.addCleanup(go_on.set)
        self.begun(held)
        seen.wait()
        address = self.page.url
        self.page.goto("about:blank")
        go_on.set()
        self.until(lambda: self.assertEqual(Job.objects.get(parent=None).state, Job.State.DONE))
        self.assertEqual(KeptSurvey.objects.count(), 9)
        self.page.goto(address)
        card = self.page.get_by_role("article").filter(has_text="Curtain call")
        expect(card.get_by_text("found").first).to_be_visible()

    @long_tier
    def test_what_was_left_off_is_offered_again(self) -> None:
        photos = list(self.shoot.photos.values_list("id", flat=True))
        common = {"owner": self.shoot.owner, "kind": "look", "shoot": self.shoot}
        whole = Job.objects.create(
            **common, arguments={"photos": photos}, total=9, done=6, state=Job.State.INTERRUPTED
        )
        for i, photo in enumerate(photos):
            state = Job.State.DONE if i < 6 else Job.State.INTERRUPTED
            Job.objects.create(**common, parent=whole, place=i, photo_id=photo, state=state)
        self.page.reload()
        expect(self.page.get_by_role("alert")).to_contain_text("interrupted")
        self.page.get_by_role("button", name="Look at the other 3").click()
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.until(lambda: self.assertEqual(KeptSurvey.objects.count(), 3))
        looked = {k.photo_id for k in KeptSurvey.objects.all()}
        self.assertEqual(looked, set(photos[6:]))


@long_tier
class TheWholeShoot(FinderCase):
    def test_every_tainted_photo_gets_its_dials_and_the_clean_ones_none(self) -> None:
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_text("of 9")).to_be_visible()
        again = self.page.get_by_role("button", name="Look for casts")
        expect(again).to_be_visible(timeout=4 * PATIENCE)
        self.assertEqual(KeptSurvey.objects.count(), 9)
        for title in ("Curtain call", "Front-row snapshot", "Garden show", "Pond-side matinee"):
            card = self.page.get_by_role("article").filter(has_text=title)
            told = card.get_by_text("found").or_(card.get_by_text("asks"))
            expect(told.first).to_be_visible()
        for title in ("Company portrait", "The plaster room"):
            card = self.page.get_by_role("article").filter(has_text=title)
            expect(card.get_by_text("found")).to_have_count(0)
        screen = self.open_photo("Front-row snapshot")
        expect(self.findings().first).to_be_visible()
        screen.wait_painted()
