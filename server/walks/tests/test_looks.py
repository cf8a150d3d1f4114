"""A look laid over a photo, skin saved from it, and colours taken out as a table for another photo."""

import numpy as np
from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from nubilis.look.cube import read_cube
from nubilis.mask.combine import Mask
from nubilis.mask.whole import Whole
from nubilis.recipe.document import Cast, Recipe
from nubilis.remedy.shift import Shift
from studio.services.people import people_in
from studio.services.save_recipe import save_recipe
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_real_work import hue

SNAPSHOT, GARDEN = "Front-row snapshot", "Garden show under the lime tree"
FACE, HILL, LIPS = (800, 560), (300, 420), (778, 573)


class Looks(BrowserCase):
    photos = (SNAPSHOT, GARDEN)

    def open_looks(self, title: str, kept: int = 0) -> None:
        self.screen = self.go_to(title)
        self.row = self.shoot.photos.get(title=title)
        self.page.get_by_role("button", name="Look none laid").click()
        # Each with its small picture: nothing is asked for any more when a test ends.
        expect(self.page.get_by_role("list", name="Looks").locator("img")).to_have_count(8 + kept)

    def tile(self, name: str) -> Locator:
        found = self.page.get_by_role("list", name="Looks").get_by_role("listitem")
        return found.filter(has_text=name).get_by_role("button").first

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

    @long_tier
    def test_skin_is_restored_and_lips_are_kept_once_people_are_known(self) -> None:
        people_in(self.shoot.photos.get(title=SNAPSHOT))
        self.open_looks(SNAPSHOT)
        face, lips, hill = (self.screen.pixel(*p) for p in (FACE, LIPS, HILL))
        self.lay("Plaster")
        self.assertLess(np.ptp(self.screen.pixel(*LIPS)), 6.0)
        effects = self.page.get_by_role("list", name="What it does")
        expect(effects).to_contain_text("Lips moved")
        effects.get_by_role("button", name="Save skin").click()
        expect(self.page.get_by_text("Skin saved")).to_be_visible()
        self.page.get_by_role("button", name="Look Plaster").click()
        effects.get_by_role("button", name="Save lips").click()
        expect(self.page.get_by_text("Lips saved")).to_be_visible()
        self.screen.wait_saved()
        now = self.screen.pixel(*LIPS)
        self.assertLess(abs(hue(now) - hue(lips)), 8.0)
        self.assertGreater(np.ptp(now), 0.8 * np.ptp(lips))
        self.assertGreater(np.ptp(self.screen.pixel(*FACE)), 0.4 * np.ptp(face))
        self.assertLess(np.ptp(self.screen.pixel(*HILL)), 0.6 * np.ptp(hill))

    @long_tier
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

    @long_tier
    def test_colours_go_out_as_a_table_and_over_another_photo(self) -> None:
        """The other photo's colours are what the look itself makes of them."""
        self.open_looks(SNAPSHOT)
        self.lay("Tin thunder")
        with self.page.expect_download() as downloads:
            self.page.get_by_role("button", name="Save as .cube").click()
        path = self.folder / "tin.cube"
        downloads.value.save_as(path)
        self.assertEqual(read_cube(path.read_bytes()).size, 33)
        expect(self.page.get_by_role("status").filter(has_text="ΔE to the engine")).to_be_visible()
        self.open_looks(GARDEN)
        places = ((95, 190), (620, 130), (960, 640))
        self.lay("Tin thunder")
        wanted = [self.screen.pixel(*p) for p in places]
        self.page.get_by_label("A .cube table").set_input_files(path)
        expect(self.page.get_by_role("button", name="Look a treatment")).to_be_visible()
        self.screen.wait_saved()
        for place, colour in zip(places, wanted, strict=True):
            np.testing.assert_allclose(self.screen.pixel(*place), colour, atol=2.0)

    @long_tier
    def test_a_cast_s_colours_are_kept_as_a_look_used_elsewhere_and_forgotten(self) -> None:
        self.begin_pale()
        self.page.get_by_role("button", name="Look none laid").click()
        self.page.get_by_label("Of what").select_option(label="A Pale")
        self.page.get_by_role("button", name="Keep as a look").click()
        expect(
            self.page.get_by_role("status").filter(has_text="Kept among the looks")
        ).to_be_visible()
        self.open_looks(SNAPSHOT, kept=1)
        hill = self.screen.pixel(*HILL)
        self.lay("Pale")
        laid = self.screen.pixel(*HILL)
        self.assertLess(np.ptp(laid), 0.5 * np.ptp(hill))
        self.tile("Pale").hover()
        self.page.get_by_role("button", name="Forget Pale").click()
        expect(self.tile("Pale")).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_role("button", name="Look Pale")).to_be_visible()
        self.screen.wait_painted()
        np.testing.assert_allclose(self.screen.pixel(*HILL), laid, atol=1.0)

    def begin_pale(self) -> None:
        """Colours taken back by a cast over the whole photo."""
        row = self.shoot.photos.get(title=GARDEN)
        pale = Shift(id="s", saturation=-0.8)
        cast = Cast(id="g", name="Pale", mask=Mask(parts=(Whole(id="w"),)), remedies=(pale,))
        save_recipe(row, 0, Recipe(casts=(cast,)), row.shoot.owner)
        self.screen = self.go_to(GARDEN)

    @long_tier
    def test_a_place_and_where_a_cast_is_are_saved_and_cards_are_dragged(self) -> None:
        self.begin_pale()
        lit, booth = self.screen.pixel(95, 190), self.screen.pixel(620, 130)
        self.open_looks(GARDEN)
        self.lay("Plaster")
        self.page.get_by_role("button", name="where A is").click()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(620, 130), booth, atol=8.0)
        self.page.get_by_role("button", name="Undo").click()
        self.screen.wait_saved()
        self.page.get_by_role("button", name="Look Plaster").click()
        self.page.get_by_role("button", name="a place", exact=True).click()
        self.screen.click(95, 190)
        self.screen.wait_saved()
        leaves = self.screen.pixel(95, 190)
        self.assertGreater(np.ptp(leaves), 0.5 * np.ptp(lit))
        self.assertLess(np.ptp(self.screen.pixel(620, 130)), 8.0)
        row = self.shoot.photos.get(title=GARDEN)
        order = [(c["name"], c["after_look"]) for c in saved_recipe(row.id)["casts"]]
        self.assertEqual(order, [("Pale", False), ("Place saved", True)])
        # A new cast goes where the selected one is.
        self.page.get_by_role("button", name="New cast").last.click()
        self.screen.wait_saved()
        self.assertTrue(saved_recipe(row.id)["casts"][-1]["after_look"])
        self.page.get_by_role("button", name="Undo").click()
        self.screen.wait_saved()

        # Carried across the look.
        rail = self.page.get_by_role("complementary", name="Casts")
        pale = rail.get_by_role("button", name="A Pale")
        pale.drag_to(rail.get_by_role("button", name="B Place saved"))
        self.screen.wait_saved()
        order = [(c["name"], c["after_look"]) for c in saved_recipe(row.id)["casts"]]
        self.assertEqual(order, [("Pale", True), ("Place saved", True)])
        rail.get_by_role("button", name="B Place saved").press("Alt+ArrowUp")
        self.screen.wait_saved()
        order = [c["name"] for c in saved_recipe(row.id)["casts"]]
        self.assertEqual(order, ["Place saved", "Pale"])

    @long_tier
    def test_a_broken_table_is_told_in_one_line(self) -> None:
        self.open_looks(SNAPSHOT)
        path = self.folder / "broken.cube"
        path.write_text("LUT_3D_SIZE 3\n0 0 0\n")
        self.page.get_by_label("A .cube table").set_input_files(path)
        expect(self.page.get_by_role("alert").filter(has_text="asks for 27")).to_be_visible()
