"""The whole job without a pointer: from signing in to the delivered file."""

from pathlib import Path
from typing import Literal

import numpy as np
from playwright.sync_api import Locator, expect

from nubilis.photo.read import read_photo
from shoots.models import Photo
from shoots.store import original_path
from walks.tests.browser import BrowserCase, WorkScreen, saved_recipe

MOST_STOPS = 160
Role = Literal["button", "link"]


class Keyboard(BrowserCase):
    photos = None

    def tab_to(self, wanted: Locator) -> None:
        """Tab until it has the focus, and see that it shows."""
        focused = wanted.and_(self.page.locator(":focus"))
        for _ in range(MOST_STOPS):
            self.page.keyboard.press("Tab")
            if focused.count():
                style = "e => getComputedStyle(e).outlineStyle + getComputedStyle(e, '::after').boxShadow"
                self.assertNotEqual(focused.evaluate(style), "nonenone")
                return
        self.fail(f"{wanted} cannot be reached")

    def press(self, role: Role, name: str, key: str = "Enter") -> None:
        self.tab_to(self.page.get_by_role(role, name=name))
        self.page.keyboard.press(key)

    def go(self, *way: tuple[str, int]) -> None:
        """Arrow keys, each so many times."""
        for key, times in way:
            for _ in range(times):
                self.page.keyboard.press(key)

    def test_the_whole_job(self) -> None:
        page = self.page
        page.goto(self.live_server_url)
        self.press("button", "Open the demo shoot")
        expect(page.get_by_role("article")).to_have_count(9)
        self.press("link", "Open Curtain call")
        screen = WorkScreen(page)
        photo = Photo.objects.get(title="Curtain call")
        self.sample(screen)
        self.mask(screen)
        self.remedy(screen, photo)
        self.compare_and_prove(screen)
        self.keep_and_undo(screen, photo)
        self.deliver()

    def sample(self, screen: WorkScreen) -> None:
        """From the middle of the photo to the sleeve in the glow, and to its clean side."""
        page = self.page
        self.tab_to(screen.photo)
        left, top = screen.at(365, 424)
        middle = screen.at(599.5, 399.5)
        self.go(
            ("Alt+ArrowLeft", round(middle[0] - left)), ("Alt+ArrowDown", round(top - middle[1]))
        )
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_be_visible()
        right, down = (b - a for a, b in zip((left, top), screen.at(468, 527), strict=True))
        self.go(("Alt+ArrowRight", round(right)), ("Alt+ArrowDown", round(down)))
        page.keyboard.press("Enter")
        expect(page.get_by_text("needs a reference")).to_have_count(0)

    def mask(self, screen: WorkScreen) -> None:
        """Dabs along the sleeve, and a look at the matte."""
        page = self.page
        page.keyboard.press("p")
        back, up = (b - a for a, b in zip(screen.at(468, 527), screen.at(366, 340), strict=True))
        self.go(("Alt+ArrowLeft", round(-back)), ("Alt+ArrowUp", round(-up)))
        for _ in range(4):
            page.keyboard.press("Enter")
            self.go(("ArrowDown", 5))
        screen.wait_saved()
        page.keyboard.press("Escape")
        for view in ("hatch", "outline", "matte"):
            page.keyboard.press("w")
            expect(page.get_by_role("radio", name=view)).to_be_checked()
        self.go(("w", 2))
        expect(page.get_by_role("radio", name="result")).to_be_checked()

    def remedy(self, screen: WorkScreen, photo: Photo) -> None:
        self.tab_to(self.page.get_by_label("Amount, number"))
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type("90")
        self.page.keyboard.press("Enter")
        screen.wait_saved()
        (cast,) = saved_recipe(photo.id)["casts"]
        self.assertAlmostEqual(cast["remedies"][0]["amount"], 0.9)
        self.assertEqual(len(cast["mask"]["parts"][0]["strokes"]), 4)
        screen.wait_proved_better()

    def compare_and_prove(self, screen: WorkScreen) -> None:
        page = self.page
        page.keyboard.press("Tab")
        page.keyboard.press("j")
        expect(page.get_by_role("button", name="Divider: drag")).to_be_visible()
        self.press("button", "Divider: drag", "Shift+ArrowRight")
        page.keyboard.press("j")
        page.keyboard.press("g")
        figures = page.get_by_test_id("all-figures")
        expect(figures.get_by_role("row", name="Finder's field")).to_be_visible()
        self.tab_to(page.get_by_role("group", name="Figures"))
        page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("figure-legend")).to_contain_text("Distance to reference")
        page.keyboard.press("Escape")
        page.keyboard.press("g")
        screen.wait_painted()

    def keep_and_undo(self, screen: WorkScreen, photo: Photo) -> None:
        page = self.page
        self.press("button", "Versions")
        dialog = page.get_by_role("dialog", name="Versions")
        expect(dialog).to_be_visible()
        self.tab_to(dialog.get_by_label("Name of the version"))
        page.keyboard.type("By hand")
        self.press("button", "Keep")
        expect(dialog.get_by_label("Name of By hand")).to_be_visible()
        self.close_dialog()
        amount = page.get_by_label("Amount, number")
        for keys, shown, kept in (("Control+z", "100 %", 1.0), ("Control+Shift+z", "90 %", 0.9)):
            page.keyboard.press(keys)
            expect(amount).to_have_value(shown)
            screen.wait_saved()
            self.assertEqual(saved_recipe(photo.id)["casts"][0]["remedies"][0]["amount"], kept)

    def deliver(self) -> None:
        page = self.page
        self.press("button", "Deliver")
        expect(page.get_by_role("dialog", name="Deliver")).to_be_visible()
        with page.expect_download() as info:
            self.press("button", "Make the file")
        done, came = (read_photo(Path(p)).codes for p in (info.value.path(), self.original()))
        self.assertEqual(done.shape, came.shape)
        self.assertGreater(int(np.abs(done.astype(int) - came)[420:430, 362:370].max()), 10)
        np.testing.assert_array_equal(done[:, 900:], came[:, 900:])

    def original(self) -> Path:
        return original_path(Photo.objects.get(title="Curtain call").content_hash)
