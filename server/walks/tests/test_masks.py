"""The mask bench: each shape drawn with the mouse, edited, joined, refined, taken out and in again."""

import re
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from nubilis.photo.pyramid import View
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.engines import engines
from walks.tests.browser import saved_recipe
from walks.tests.mask_bench import MaskBenchCase


class Shapes(MaskBenchCase):
    @long_tier
    def test_an_oval_is_drawn_turned_and_faded(self) -> None:
        self.add("Oval")
        self.drag((600, 400), (760, 480))
        (oval,) = self.parts(["oval"])
        np.testing.assert_allclose(oval["centre"], (0.5004, 0.3338), atol=0.003)
        np.testing.assert_allclose(oval["radii"], (160 / 1200, 80 / 1200), atol=0.004)
        handle = self.page.get_by_role("button", name="oval, width and turn")
        box = handle.bounding_box()
        assert box is not None
        self.page.mouse.move(box["x"] + 5, box["y"] + 5)
        self.page.mouse.down()
        self.page.mouse.move(*self.screen.at(600, 560), steps=6)
        self.page.mouse.up()
        self.screen.wait_saved()
        self.assertAlmostEqual(self.parts(["oval"])[0]["angle"], 90.0, delta=2.0)
        outside = self.page.get_by_label("Fade outside, number")
        outside.fill("0")
        outside.press("Enter")
        self.assertEqual(self.parts(["oval"])[0]["outside"], 0.0)
        self.assertEqual(float(self.mask()[400, 760]), 0.0)
        self.assertEqual(float(self.mask()[400, 600]), 1.0)

    @long_tier
    def test_a_ramp_and_a_lasso_join(self) -> None:
        self.add("Ramp")
        self.drag((300, 400), (900, 400))
        self.parts(["ramp"])
        self.assertAlmostEqual(float(self.mask()[400, 600]), 0.5, delta=0.02)
        self.add("Lasso")
        self.drag((200, 200), (500, 200), (500, 600), (200, 600), (200, 210))
        lasso = self.parts(["ramp", "path"])[1]
        self.assertLess(len(lasso["nodes"]), 20)
        self.page.get_by_role("button", name="adds").click()
        self.page.get_by_role("menuitemradio", name="only where both are").click()
        self.screen.wait_saved()
        mask = self.mask()
        self.assertEqual(float(mask[400, 700]), 0.0)
        self.assertGreater(float(mask[400, 320]), 0.9)

    def test_a_path_is_clicked_bent_and_changed_later(self) -> None:
        page = self.page
        self.add("Path")
        for point in ((300, 200), (700, 200)):
            self.screen.click(*point)
        self.drag((700, 600), (600, 640))
        self.screen.click(300, 200)  # its beginning closes it
        (path,) = self.parts(["path"])
        self.assertEqual(len(path["nodes"]), 3)
        self.assertIsNone(path["nodes"][0]["after"])
        self.assertIsNotNone(path["nodes"][2]["after"])
        page.get_by_role("button", name="path, point 1", exact=True).focus()
        page.keyboard.press("Shift+ArrowLeft")
        page.keyboard.press("Insert")
        page.get_by_role("button", name="path, point 2", exact=True).focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="path, handle after point 2")).to_be_visible()
        self.until(lambda: self.assertEqual(len(self.parts(["path"])[0]["nodes"]), 4))
        nodes = self.parts(["path"])[0]["nodes"]
        self.assertAlmostEqual(nodes[0]["at"][0], path["nodes"][0]["at"][0] - 10 / 1200, places=5)
        self.assertIsNotNone(nodes[1]["before"])
        page.get_by_role("button", name="path, point 2", exact=True).focus()
        page.keyboard.press("Delete")
        expect(page.get_by_role("button", name="path, point 4", exact=True)).to_have_count(0)
        page.get_by_label("Feather, number").fill("10")
        page.keyboard.press("Enter")
        self.assertAlmostEqual(self.parts(["path"])[0]["feather"], 0.1)

    @long_tier
    def test_a_press_on_the_outline_adds_a_point_there(self) -> None:
        self.add("Path")
        for point in ((300, 200), (700, 200), (700, 600), (300, 200)):
            self.screen.click(*point)
        self.parts(["path"])
        self.drag((500, 200), (520, 120))
        expect(self.page.get_by_role("button", name="path, point 4", exact=True)).to_be_visible()
        nodes = self.parts(["path"])[0]["nodes"]
        self.assertEqual(len(nodes), 4)
        np.testing.assert_allclose(nodes[1]["at"], (520 / 1200, 120 / 1200), atol=0.004)

    @long_tier
    def test_a_click_chooses_what_lies_there(self) -> None:
        for centre in ((400, 400), (800, 400)):
            self.add("Oval")
            self.drag(centre, (centre[0] + 90, centre[1] + 90))
        self.parts(["oval", "oval"])
        first, second = (
            self.page.get_by_role("button", name="Oval", exact=True).nth(i) for i in (0, 1)
        )
        expect(second).to_have_attribute("aria-pressed", "true")
        self.screen.click(380, 430)
        expect(first).to_have_attribute("aria-pressed", "true")
        self.screen.click(780, 430)
        expect(second).to_have_attribute("aria-pressed", "true")
        # With the keyboard as well.
        self.screen.photo.focus()
        self.page.mouse.move(*self.screen.at(380, 430))
        self.page.keyboard.press("Enter")
        expect(first).to_have_attribute("aria-pressed", "true")

    @long_tier
    def test_escape_leaves_an_unfinished_path_behind(self) -> None:
        self.add("Path")
        self.screen.click(300, 200)
        self.screen.click(700, 200)
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Whole photo").click()
        self.parts(["whole"])

    @long_tier
    def test_the_whole_is_refined_duplicated_and_turned_into_another_cast(self) -> None:
        page = self.page
        self.add("Oval")
        self.drag((600, 400), (700, 460))
        self.parts(["oval"])
        small = float(self.mask().mean())
        page.get_by_role("button", name="Refine").click()
        page.get_by_label("Grow, number").fill("3")
        page.keyboard.press("Enter")
        self.assertAlmostEqual(self.casts()[0]["mask"]["refine"]["grow"], 0.03)
        self.assertGreater(float(self.mask().mean()), 1.5 * small)
        page.get_by_role("button", name="Oval", exact=True).click()
        page.get_by_role("button", name="Part", exact=True).click()
        page.get_by_role("menuitem", name="Duplicate this part").click()
        self.parts(["oval", "oval"])
        page.get_by_role("button", name="adds").click()
        page.get_by_role("menuitem", name="New cast for all that is not masked").click()
        expect(page.get_by_role("button", name="New cast", exact=False).first).to_be_visible()
        self.until(lambda: self.assertEqual(len(self.casts()), 2))
        casts = self.casts()
        (rest,) = casts[1]["mask"]["parts"]
        self.assertEqual((rest["cast"], rest["invert"]), (casts[0]["id"], True))
        mine, others = (
            engines.get(self.row).mask(c.mask, View((1200, 800), (0, 0, 1200, 800)))
            for c in Recipe.model_validate(saved_recipe(self.row.id)).casts
        )
        np.testing.assert_allclose(mine + others, 1.0, atol=1e-6)

    @long_tier
    def test_a_ready_made_key(self) -> None:
        page = self.page
        page.get_by_role("button", name="Add part").click()
        page.get_by_role("menuitem", name="Ready-made key").hover()
        page.get_by_role("menuitem", name="Highlights").click()
        (key,) = self.parts(["colour-key"])
        self.assertFalse(key["hue"]["on"])
        self.assertTrue(key["luminance"]["on"])

    @long_tier
    def test_a_key_shows_what_lies_behind_its_handles_which_move_alone_or_together(self) -> None:
        page = self.page
        self.add("Colour key of the tainted samples")
        (key,) = self.parts(["colour-key"])
        photo, masked = (
            page.get_by_test_id("levels").nth(2).locator("path").nth(i) for i in (0, 1)
        )
        expect(photo).to_have_attribute("d", re.compile("^M0 20V.*Z$"))
        before = masked.get_attribute("d")

        def pull(handle: str, by: int, held: str | None = None) -> dict[str, Any]:
            box = page.get_by_role("slider", name=f"Luminance, {handle}", exact=True).bounding_box()
            assert box is not None
            x, y = box["x"] + 5, box["y"] + 10
            if held:
                page.keyboard.down(held)
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + by, y, steps=4)
            page.mouse.up()
            if held:
                page.keyboard.up(held)
            return dict(self.parts(["colour-key"])[0]["luminance"])

        first = key["luminance"]
        mirrored = pull("core from", -12, "Shift")
        self.assertLess(mirrored["core"][0], first["core"][0] - 2)
        self.assertGreater(mirrored["core"][1], first["core"][1] + 2)
        together = pull("lower fade", -10, "Alt")
        self.assertLess(together["core"][1], mirrored["core"][1] - 1)
        self.assertEqual(together["fade"], mirrored["fade"])
        alone = pull("upper fade", 15)
        self.assertGreater(alone["fade"][1], together["fade"][1] + 2)
        self.assertEqual(alone["core"], together["core"])
        expect(masked).not_to_have_attribute("d", before or "")
        page.get_by_test_id("levels").nth(2).dblclick(position={"x": 3, "y": 3})
        opened = self.parts(["colour-key"])[0]["luminance"]
        self.assertEqual(opened["core"], [0, 100])

    @long_tier
    def test_a_mask_goes_out_as_it_is_and_comes_in_as_a_part(self) -> None:
        page = self.page
        self.add("Oval")
        self.drag((600, 400), (760, 480))
        self.parts(["oval"])
        wanted = self.mask()
        page.get_by_role("button", name="Part", exact=True).click()
        page.get_by_role("menuitem", name="Save as a grey picture").hover()
        with page.expect_download() as info:
            page.get_by_role("menuitem", name="The mask, PNG 16 bit").click()
        self.assertTrue(info.value.suggested_filename.endswith("-mask.png"))
        data = Path(info.value.path()).read_bytes()
        np.testing.assert_allclose(imagecodecs.png_decode(data) / 65535.0, wanted, atol=2e-5)
        page.keyboard.press("Escape")
        page.get_by_label("Grey picture for the mask").set_input_files(
            {"name": "mask.png", "mimeType": "image/png", "buffer": data}
        )
        self.parts(["oval", "picture"])
        other = bytes(imagecodecs.png_encode(np.zeros((4, 4), np.uint8)))
        page.get_by_label("Grey picture for the mask").set_input_files(
            {"name": "other.png", "mimeType": "image/png", "buffer": other}
        )
        expect(page.get_by_role("alert")).to_contain_text(re.compile("4 x 4"))

    @long_tier
    def test_a_cast_is_copied_to_another_photo_where_its_key_finds_its_own(self) -> None:
        page = self.page
        self.add("Oval")
        self.drag((400, 400), (700, 700))
        self.add("Colour key of the tainted samples")
        self.parts(["oval", "colour-key"])
        page.get_by_role("button", name="Copy", exact=True).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Pond-side matinee").check()
        dialog.get_by_role("button", name="Copy", exact=True).click()
        expect(dialog.get_by_text("Copied to 1 photo.")).to_be_visible()
        dialog.get_by_role("button", name="Close").click()
        page.get_by_role("link", name="Nubilis").click()
        other = self.open_photo("Pond-side matinee")
        expect(page.get_by_role("button", name=re.compile("^.* A "))).to_have_count(1)
        expect(page.get_by_title("Curtain call").first).to_be_visible()
        page.get_by_role("radio", name="matte").click()
        other.wait_painted()
        here = Recipe.model_validate(saved_recipe(Photo.objects.get(title="Pond-side matinee").id))
        self.assertEqual([p.kind for p in here.casts[0].mask.parts], ["oval", "colour-key"])
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("Nothing diagnosed yet")).to_be_visible()
