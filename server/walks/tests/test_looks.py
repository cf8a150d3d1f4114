"""A look laid over a photo, skin saved from it, and colours taken out as a table for another photo."""

import numpy as np
from playwright.sync_api import Locator, expect

from nubilis.look.cube import read_cube
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_real_work import hue

SNAPSHOT, GARDEN = "Front-row snapshot", "Garden show under the lime tree"
FACE, HILL = (800, 560), (300, 420)


class Looks(BrowserCase):
    photos = (SNAPSHOT, GARDEN)

    def open_looks(self, title: str) -> None:
        self.screen = self.go_to(title)
        self.row = self.shoot.photos.get(title=title)
        self.page.get_by_role("button", name="Look none laid").click()
        # Each with its small picture: nothing is asked for any more when a test ends.
        expect(self.page.get_by_role("list", name="Looks").locator("img")).to_have_count(8)

    def tile(self, name: str) -> Locator:
        return self.page.get_by_role("list", name="Looks").get_by_role("button", name=name)

    def lay(self, name: str) -> None:
        self.tile(name).click()
        expect(self.page.get_by_role("button", name=f"Look {name}")).to_be_visible()
        self.page.mouse.move(5, 5)
        self.screen.wait_saved()

    def test_a_look_is_tried_laid_and_skin_is_saved_from_it(self) -> None:
        self.open_looks(SNAPSHOT)
        face, hill = (self.screen.pixel(*p) for p in (FACE, HILL))
        self.tile("Plaster").hover()
        self.until(lambda: self.assertLess(np.ptp(self.screen.pixel(*HILL)), 6.0))
        self.page.mouse.move(5, 5)
        self.until(lambda: np.testing.assert_allclose(self.screen.pixel(*HILL), hill, atol=1.0))
        expect(self.page.get_by_role("button", name="Undo")).to_be_disabled()

        self.lay("Plaster")
        self.assertEqual(saved_recipe(self.row.id)["look"]["table"]["name"], "Plaster")
        self.assertLess(np.ptp(self.screen.pixel(*FACE)), 6.0)
        effects = self.page.get_by_role("list", name="What it does")
        expect(effects).to_contain_text("Skin moved")
        effects.get_by_role("button", name="Save skin").click()
        expect(self.page.get_by_text("Skin saved")).to_be_visible()
        self.screen.wait_saved()
        (cast,) = saved_recipe(self.row.id)["casts"]
        self.assertTrue(cast["after_look"])
        saved = self.screen.pixel(*FACE)
        self.assertLess(abs(hue(saved) - hue(face)), 18.0)  # where the key fades
        self.assertGreater(np.ptp(saved), 0.4 * np.ptp(face))
        self.assertLess(np.ptp(self.screen.pixel(*HILL)), 12.0)

        # Before the look there is nothing to bring back.
        self.page.get_by_role("button", name="↑ look").click()
        self.screen.wait_saved()
        self.assertLess(np.ptp(self.screen.pixel(*FACE)), 6.0)

    def test_strength_switch_and_taking_away(self) -> None:
        self.open_looks(SNAPSHOT)
        hill = self.screen.pixel(*HILL)
        self.lay("Plaster")
        field = self.page.get_by_label("Strength, number", exact=True)
        field.fill("50")
        field.press("Enter")
        self.screen.wait_saved()
        half = np.ptp(self.screen.pixel(*HILL))
        self.assertTrue(6.0 < half < 0.9 * np.ptp(hill), half)
        self.page.get_by_role("button", name="Switch off").click()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(*HILL), hill, atol=1.0)
        self.page.get_by_role("button", name="Take away").click()
        self.screen.wait_saved()
        self.assertIsNone(saved_recipe(self.row.id)["look"])

    def test_colours_go_out_as_a_table_and_over_another_photo(self) -> None:
        self.open_looks(SNAPSHOT)
        self.lay("Tin thunder")
        with self.page.expect_download() as downloads:
            self.page.get_by_role("button", name="Save as .cube").click()
        path = self.folder / "tin.cube"
        downloads.value.save_as(path)
        self.assertEqual(read_cube(path.read_bytes()).size, 33)
        expect(self.page.get_by_role("status").filter(has_text="ΔE to the engine")).to_be_visible()
        self.open_looks(GARDEN)
        leaves = self.screen.pixel(95, 190)
        self.page.get_by_label("A .cube table").set_input_files(path)
        expect(self.page.get_by_role("button", name="Look a treatment")).to_be_visible()
        self.screen.wait_saved()
        self.assertLess(np.ptp(self.screen.pixel(95, 190)), 0.7 * np.ptp(leaves))

    def test_a_broken_table_is_told_in_one_line(self) -> None:
        self.open_looks(SNAPSHOT)
        path = self.folder / "broken.cube"
        path.write_text("LUT_3D_SIZE 3\n0 0 0\n")
        self.page.get_by_label("A .cube table").set_input_files(path)
        expect(self.page.get_by_role("alert").filter(has_text="asks for 27")).to_be_visible()
