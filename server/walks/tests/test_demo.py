"""The whole walk over the demo shoot: from signing in to a delivered file."""

import numpy as np
from django.conf import settings
from playwright.sync_api import expect

from core.tests.effort import long_tier
from nubilis.photo.read import read_photo
from walks.tests.browser import PATIENCE, BrowserCase

SHIRT, CLEAN_SHIRT = (365, 424), (468, 527)
DOWN_THE_SHIRT = [(350, 330), (355, 420), (355, 520), (345, 640)]


class DemoWalk(BrowserCase):
    photos = None

    def test_from_sign_in_to_a_delivered_file(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        untouched = screen.pixel(*SHIRT)
        screen.page.mouse.move(*screen.at(*SHIRT))
        loupe = screen.page.get_by_test_id("loupe")
        expect(loupe).to_contain_text("L")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        screen.stroke(*DOWN_THE_SHIRT)
        screen.wait_proved()
        expect(screen.page.get_by_role("button", name="Red cast")).to_be_visible()
        treated = screen.pixel(*SHIRT)
        self.assertLess(np.ptp(treated), 0.6 * np.ptp(untouched))

        screen.page.keyboard.down("u")
        expect(screen.page.get_by_text("Untouched", exact=True)).to_be_visible()
        self.until(lambda: np.testing.assert_allclose(screen.pixel(*SHIRT), untouched, atol=2))
        screen.page.keyboard.up("u")
        self.until(lambda: np.testing.assert_allclose(screen.pixel(*SHIRT), treated, atol=2))

        before, now = screen.distances()
        screen.page.reload()
        screen = type(screen)(self.page)
        self.assertEqual(screen.distances(), (before, now))
        np.testing.assert_allclose(screen.pixel(*SHIRT), treated, atol=2)
        self.check_delivery(screen)

    def check_delivery(self, screen) -> None:  # type: ignore[no-untyped-def]
        original = read_photo(settings.ROOT / "demo/photos/d1-curtain-spill.png")
        truth = read_photo(settings.ROOT / "bench/scenes/d1-curtain-spill/clean.png").codes
        spot = np.s_[SHIRT[1] - 12 : SHIRT[1] + 12, SHIRT[0] - 8 : SHIRT[0] + 8]
        for label, name, bits in (
            ("PNG, 8 bit", "d1-curtain-spill-nubilis.png", 8),
            ("TIFF, 16 bit", "d1-curtain-spill-nubilis.tif", 16),
        ):
            download, photo = screen.deliver(label)
            self.assertEqual((download.suggested_filename, photo.bits), (name, bits))
            codes = (photo.codes // (257 if bits == 16 else 1)).astype(int)
            np.testing.assert_array_equal(codes[:, 700:], original.codes[:, 700:])
            off = [
                np.abs(c[spot].astype(int) - truth[spot]).mean() for c in (original.codes, codes)
            ]
            self.assertLess(off[1], 0.6 * off[0])

    @long_tier
    def test_undo_and_redo_survive_a_reload(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        screen.stroke(*DOWN_THE_SHIRT)
        screen.page.reload()
        screen = type(screen)(self.page)
        expect(screen.page.get_by_text("1 treated")).to_be_visible()
        screen.page.keyboard.press("Control+z")
        expect(screen.page.get_by_text("Needs a mask")).to_be_visible()
        screen.page.get_by_role("button", name="Undo").click()
        expect(screen.page.get_by_text("needs a reference")).to_be_visible()
        screen.page.reload()
        screen = type(screen)(self.page)
        for _ in range(2):  # at once: the second must wait for the first
            screen.page.keyboard.press("Control+Shift+z")
        expect(screen.page.get_by_text("1 treated")).to_be_visible()
        expect(screen.page.get_by_role("button", name="Redo")).to_be_disabled()

    @long_tier
    def test_the_contact_sheet_shows_the_dial(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        screen.sample_pair(SHIRT, CLEAN_SHIRT)
        screen.stroke(*DOWN_THE_SHIRT)
        screen.page.get_by_role("link", name="Nubilis").click()
        card = screen.page.get_by_role("article").filter(has_text="Curtain call")
        expect(card).to_contain_text("→", timeout=PATIENCE)

    @long_tier
    def test_paging_through_the_shoot(self) -> None:
        self.open_demo()
        screen = self.open_photo("Curtain call")
        screen.page.get_by_role("link", name="Next photo").click()
        expect(
            screen.page.get_by_role("heading", name="Repair day at the workshop")
        ).to_be_visible()
        expect(screen.page.get_by_text("2 of 9")).to_be_visible()
        screen.page.go_back()
        expect(screen.page.get_by_role("heading", name="Curtain call")).to_be_visible()
