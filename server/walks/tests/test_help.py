"""Keys of one's own, and the guide."""

from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from walks.tests.browser import BrowserCase


class Keys(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.go_to("Curtain call")
        self.page.keyboard.press("Escape")

    def sheet(self) -> Locator:
        self.page.get_by_role("button", name="Keys and figures").click()
        return self.page.get_by_role("dialog", name="Keys and figures")

    def pressed(self, name: str, state: str) -> None:
        button = self.page.get_by_role("button", name=name, exact=True)
        expect(button).to_have_attribute("aria-pressed", state)

    def test_a_key_is_put_elsewhere_and_stays_there(self) -> None:
        page = self.page
        dialog = self.sheet()
        dialog.get_by_role("button", name="key of: Sample a tainted place").click()
        page.keyboard.press("q")
        expect(dialog.get_by_role("button", name="key of: Sample a tainted place")).to_have_text(
            "Q"
        )
        self.close_dialog()
        page.reload()
        self.pressed("Tainted", "true")  # a photo without casts begins with sampling
        page.keyboard.press("Escape")
        page.keyboard.press("t")
        self.pressed("Tainted", "false")
        page.keyboard.press("q")
        self.pressed("Tainted", "true")
        expect(page.get_by_title("Sample a tainted place (Q)")).to_be_visible()

    @long_tier
    def test_the_versions_hint_tells_the_key_as_it_is(self) -> None:
        self.sheet().get_by_role("button", name="key of: Next version").click()
        self.page.keyboard.press("v")
        self.close_dialog()
        self.page.get_by_role("button", name="Versions").click()
        dialog = self.page.get_by_role("dialog", name="Versions")
        dialog.get_by_label("Name of the version").fill("As it came")
        dialog.get_by_role("button", name="Keep", exact=True).click()
        expect(dialog).to_contain_text("The keys V and , flip through them")

    @long_tier
    def test_two_commands_change_keys(self) -> None:
        dialog = self.sheet()
        tainted = dialog.get_by_role("button", name="key of: Sample a tainted place")
        look = dialog.get_by_role("button", name="key of: Look for casts")
        tainted.click()
        self.page.keyboard.press("l")
        expect(tainted).to_have_text("L")
        expect(look).to_have_text("T")
        dialog.get_by_role("button", name="All keys back").click()
        expect(tainted).to_have_text("T")

    @long_tier
    def test_keys_of_the_controls_are_refused(self) -> None:
        dialog = self.sheet()
        fit = dialog.get_by_role("button", name="key of: Fit the photo")
        fit.click()
        self.page.keyboard.press("Enter")
        expect(dialog.get_by_role("status")).to_contain_text("cannot be one")
        self.page.keyboard.press("Escape")
        expect(fit).to_have_text("0")
        expect(dialog).to_be_visible()


class Guide(BrowserCase):
    def test_it_goes_through_the_job_with_pictures(self) -> None:
        page = self.page
        self.open_demo()
        page.get_by_role("link", name="Guide").click()
        contents = page.get_by_role("navigation", name="Contents")
        for link in contents.get_by_role("link").all():
            link.click()
            expect(page.locator(link.get_attribute("href") or "")).to_be_in_viewport()
        pictures = page.get_by_role("main").get_by_role("img").all()
        self.assertGreaterEqual(len(pictures), 7)
        for picture in pictures:
            self.assertGreater(picture.evaluate("p => p.naturalWidth"), 400)
