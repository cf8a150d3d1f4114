"""axe finds nothing to say about any main view, by day and by night."""

from typing import Any

from django.conf import settings
from playwright.sync_api import expect

from core.tests.effort import long_tier
from walks.tests.browser import BrowserCase
from walks.tests.test_demo import CLEAN_SHIRT, SHIRT

AXE = settings.WEB_DIST.parent / "node_modules/axe-core/axe.min.js"


class Accessibility(BrowserCase):
    photos = None

    def findings(self) -> list[str]:
        self.page.evaluate(AXE.read_text())
        told: dict[str, Any] = self.page.evaluate(
            "axe.run(document, {resultTypes: ['violations']})"
        )
        return [
            f"{v['id']}: {node['target']} {node['html'][:140]}"
            for v in told["violations"]
            for node in v["nodes"]
        ]

    def is_clean(self, view: str) -> None:
        with self.subTest(view):
            self.assertEqual(self.findings(), [])

    def test_sign_in_and_the_shoot(self) -> None:
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Open the demo shoot")).to_be_visible()
        self.is_clean("sign-in")
        self.open_demo()
        self.is_clean("contact sheet")
        self.page.get_by_role("button", name="Choose Curtain call").click()
        self.is_clean("photos chosen")
        self.page.get_by_role("button", name="Treat what was found").click()
        expect(self.page.get_by_role("dialog")).to_be_visible()
        self.is_clean("how to treat")
        self.close_dialog()
        self.page.get_by_role("button", name="Agree on a colour").click()
        expect(self.page.get_by_text("1 photo", exact=True)).to_be_visible()
        self.is_clean("agreeing, before anything is chosen")
        self.page.get_by_role("button", name="Mid grey").click()
        expect(self.page.get_by_text("found in")).to_be_visible()
        self.is_clean("agreeing")
        self.page.go_back()
        self.page.get_by_role("button", name="Choose Moonlit pierrot").click()
        self.page.get_by_role("button", name="Choose Curtain call").click(modifiers=["Control"])
        self.page.get_by_role("button", name="Treat as Moonlit pierrot").click()
        self.page.get_by_role("button", name="Propose").click()
        expect(self.page.get_by_role("button", name="Take all 1")).to_be_visible()
        self.is_clean("what is proposed")
        self.page.go_back()
        expect(self.page.get_by_role("button", name="Choose Curtain call")).to_be_visible()
        self.page.get_by_role("button", name="New shoot").click()
        self.page.get_by_role("dialog").get_by_role("textbox").fill("Not begun")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("No photos yet")).to_be_visible()
        self.is_clean("a shoot without photos")
        self.page.get_by_role("link", name="References").click()
        expect(self.page.get_by_role("heading", name="References")).to_be_visible()
        self.is_clean("references")
        self.page.goto(f"{self.live_server_url}/guide")
        expect(self.page.get_by_role("heading", name="Guide")).to_be_visible()
        self.is_clean("guide")

    @long_tier
    def test_a_proof_sheet(self) -> None:
        self.open_demo()
        page = self.page
        page.get_by_role("button", name="Proof sheet").click()
        page.get_by_role("button", name="Prove the rest").click()
        expect(page.get_by_role("link", name="Read")).to_be_visible()
        self.is_clean("the shoot's proof sheets")
        page.goto(page.get_by_role("link", name="Read").evaluate("link => link.href"))
        expect(page.get_by_role("heading", name="Moonlit pierrot")).to_be_visible()
        self.is_clean("proof sheet")

    def test_the_work_screen(self) -> None:
        page = self.page
        self.open_demo()
        screen = self.open_photo("Curtain call")
        self.is_clean("nothing diagnosed")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.is_clean("a cast and its brush")
        page.get_by_role("button", name="Add part").click()
        page.get_by_role("menuitem", name="Colour key of the tainted samples").click()
        screen.wait_saved()
        self.is_clean("a colour key")
        for name in ("Compare", "Versions", "History"):
            page.get_by_role("button", name=name).click()
            expect(page.get_by_role("dialog", name=name)).to_be_visible()
            self.is_clean(name)
            self.close_dialog()
        page.keyboard.press("y")
        self.is_clean("a split")
        page.get_by_role("button", name="Compare").click()
        page.get_by_role("radio", name="Side by side").click()
        self.close_dialog()
        expect(page.get_by_role("img", name="Untouched, beside the photo")).to_be_visible()
        self.is_clean("side by side")
        page.keyboard.press("y")
        page.keyboard.press("g")
        page.get_by_test_id("all-figures").get_by_role("row", name="Masked").get_by_role(
            "button"
        ).click()
        expect(page.get_by_test_id("figure-legend")).to_be_visible()
        self.is_clean("all figures")
        page.keyboard.press("g")
        page.get_by_role("button", name="Sheets").click()
        page.get_by_role("menuitem", name="What cast A touches").click()
        expect(page.get_by_role("table")).to_be_visible()
        self.is_clean("what a cast touches")
        self.close_dialog()
        page.get_by_role("article").get_by_role("button", name="Copy").click()
        expect(page.get_by_role("dialog")).to_be_visible()
        self.is_clean("copying a cast")
        self.close_dialog()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_be_visible()
        self.is_clean("keys and figures")
        self.close_dialog()
        page.get_by_role("button", name="Deliver").click()
        expect(page.get_by_role("dialog")).to_be_visible()
        self.is_clean("deliver")
        self.close_dialog()
        page.get_by_role("button", name="Base").click()
        self.is_clean("base")

    @long_tier
    def test_the_work_screen_at_night(self) -> None:
        self.open_demo()
        self.page.evaluate("localStorage.setItem('nubilis-room', JSON.stringify({room: 'night'}))")
        self.page.reload()
        expect(self.page.get_by_role("article")).to_have_count(9)
        screen = self.open_photo("Curtain call")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.is_clean("night bench")
        self.page.keyboard.press("g")
        figures = self.page.get_by_test_id("all-figures")
        expect(figures.get_by_role("row", name="Finder's field")).to_be_visible()
        self.is_clean("all figures at night")
