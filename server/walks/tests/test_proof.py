"""The figures of the proof, their pixels on the photo, and the sheets of a photo and of a shoot."""

import re
from pathlib import Path

import numpy as np
from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.test_demo import SHIRT
from walks.tests.treated import LIT, TreatedCase

CURTAIN = (150, 300)  # strong colour that no mask reaches


class Proof(TreatedCase):
    photos = ("Curtain call", "Pond-side matinee", "Moonlit pierrot")

    def line(self, name: str) -> Locator:
        return self.page.get_by_test_id("all-figures").get_by_role("row", name=name).first

    def colour_at(self, place: tuple[int, int]) -> float:
        """How far from grey the screen is."""
        return float(np.ptp(self.screen.seen(*place)))

    def wait_colour(self, place: tuple[int, int], *, colourful: bool) -> None:
        self.until(lambda: self.assertEqual(self.colour_at(place) > 25, colourful))

    def test_all_figures_are_the_api_s(self) -> None:
        page = self.page
        page.get_by_role("button", name="All figures").click()
        told = self.asked("proof")["figures"]
        (cast,) = told["casts"].values()
        self.assertGreater(len(cast), 6)
        for figure in (*cast, *told["photo"]):
            cell = self.line(figure["name"]).get_by_role("cell")
            values = re.findall(r"[\d.]+", cell.inner_text())
            wanted = [v for v in (figure["before"], figure["now"]) if v is not None]
            for shown, value in zip(values, wanted, strict=True):
                self.assertAlmostEqual(float(shown), abs(value), delta=0.051)
        field = self.asked("field")
        expect(self.line("Finder's field").get_by_role("cell")).to_have_text(
            f"{field['before']:.1f} → {field['now']:.1f}"
        )
        page.get_by_role("button", name="Close all figures").click()
        expect(page.get_by_role("complementary", name="Instruments")).to_be_visible()

    @long_tier
    def test_a_figure_shows_its_pixels(self) -> None:
        page = self.page
        page.keyboard.press("g")
        self.line("Moved where tainted").get_by_role("button").click()
        legend = page.get_by_test_id("figure-legend")
        expect(legend).to_contain_text("Full ink: 10 ΔE2000")
        self.wait_colour(LIT, colourful=True)
        self.wait_colour(CURTAIN, colourful=False)  # the curtain is red, and its picture drained
        self.line("Outside the masks").get_by_role("button").click()
        self.wait_colour(LIT, colourful=False)
        page.keyboard.press("Escape")
        expect(legend).to_have_count(0)
        self.wait_colour(CURTAIN, colourful=True)

    @long_tier
    def test_a_figure_goes_with_its_cast(self) -> None:
        page = self.page
        page.keyboard.press("g")
        self.line("Masked").get_by_role("button").click()
        expect(page.get_by_test_id("figure-legend")).to_be_visible()
        page.get_by_role("button", name="Delete").click()
        expect(page.get_by_test_id("figure-legend")).to_have_count(0)
        self.screen.wait_saved()
        expect(page.get_by_role("alert")).to_have_count(0)

    @long_tier
    def test_what_is_told_twice_is_shown_before_and_now(self) -> None:
        page = self.page
        page.get_by_test_id("proof").get_by_role("row", name="Distance").get_by_role(
            "button"
        ).click()
        legend = page.get_by_test_id("figure-legend")
        expect(legend.get_by_role("radio", name="now")).to_be_checked()
        legend.get_by_role("radio", name="before").click()
        self.wait_colour(SHIRT, colourful=True)
        legend.get_by_role("radio", name="now").click()
        self.wait_colour(SHIRT, colourful=False)
        legend.get_by_role("button", name="Put the figure's pixels away").click()
        expect(legend).to_have_count(0)

    @long_tier
    def test_the_photo_s_sheet_as_pdf(self) -> None:
        self.page.get_by_role("button", name="Sheets").click()
        with self.page.expect_download() as info:
            self.page.get_by_role("menuitem", name="Proof sheet as PDF").click()
        self.assertTrue(Path(info.value.path()).read_bytes().startswith(b"%PDF-"))

    def test_the_shoot_s_sheets_are_made_and_read(self) -> None:
        page = self.page
        self.screen.wait_saved()
        page.get_by_role("link", name="Nubilis").click()
        page.get_by_role("button", name="Proof sheet").click()
        dialog = page.get_by_role("dialog", name="Proof sheets")
        expect(dialog).to_contain_text("2 photos of 2 still to be proved")
        dialog.get_by_role("button", name="Prove the rest").click()
        expect(dialog).to_contain_text("The proof of 2 photos")
        with page.context.expect_page() as opened:
            dialog.get_by_role("link", name="Read").click()
        sheet = opened.value
        for title in ("Curtain call", "Moonlit pierrot"):
            expect(sheet.get_by_role("heading", name=title, exact=True)).to_be_visible()
        distance = self.asked("proof")["proof"]["casts"][0]
        row = sheet.get_by_role("row", name="Distance to reference").first
        expect(row).to_contain_text(f"{distance['before']:.2f} → {distance['after']:.2f}")

    @long_tier
    def test_a_photo_that_cannot_be_proved_is_named_and_the_others_are(self) -> None:
        page = self.page
        self.screen.wait_saved()
        # Its original is gone.
        Photo.objects.filter(title="Moonlit pierrot").update(content_hash="0" * 64)
        page.get_by_role("link", name="Nubilis").click()
        page.get_by_role("button", name="Proof sheet").click()
        dialog = page.get_by_role("dialog", name="Proof sheets")
        dialog.get_by_role("button", name="Prove the rest").click()
        expect(dialog.get_by_role("alert")).to_contain_text("Moonlit pierrot: ")
        expect(dialog).to_contain_text("1 photo of 2 still to be proved")
