"""Masks found in the photo, brushes, keys of one's own, and masks shared."""

import json
import re
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import saved_recipe
from walks.tests.mask_bench import MaskBenchCase

IN_BOX = (700, 650)  # the green box


class Found(MaskBenchCase):
    def loop(self, *points: tuple[float, float]) -> None:
        self.add("Object: draw loosely round it")
        self.drag(*points)

    def test_an_object_is_snapped_to_and_told_better(self) -> None:
        """The second puppet's cap: blue, before a grey wall."""
        self.loop((705, 55), (930, 60), (940, 200), (700, 205), (704, 60))
        (snap,) = self.parts(["snap"])
        self.assertGreater(len(snap["loop"]), 3)
        mask = self.mask()
        self.assertGreater(float(mask[120, 820]), 0.9)
        self.assertLess(float(mask[75, 712]), 0.1)  # inside the loop, and yet not it
        self.page.get_by_role("button", name="Not this").click()
        self.drag((780, 120), (860, 120))
        self.until(lambda: self.assertNotEqual(self.parts(["snap"])[0]["other"], []))
        self.assertLess(float(self.mask()[120, 820]), 0.1)
        self.page.get_by_role("button", name="Forget the last").click()
        self.screen.wait_saved()
        self.assertEqual(self.parts(["snap"])[0]["other"], [])

    @long_tier
    def test_a_scribble_is_enough(self) -> None:
        self.add("Object: scribble over it")
        self.drag((790, 120), (850, 125))
        (snap,) = self.parts(["snap"])
        self.assertEqual((len(snap["loop"]), len(snap["this"])), (0, 1))
        self.assertGreater(float(self.mask()[122, 820]), 0.9)

    @long_tier
    def test_what_is_similar_and_hangs_together(self) -> None:
        page = self.page
        self.add("Similar and hanging together")
        self.screen.click(*IN_BOX)
        self.parts(["similar"])
        first = self.mask()
        self.assertGreater(float(first[IN_BOX[1], IN_BOX[0]]), 0.9)
        self.assertLess(float(first.mean()), 0.1)
        page.keyboard.down("Shift")
        self.screen.click(150, 300)  # the curtain
        page.keyboard.up("Shift")
        self.until(lambda: self.assertEqual(len(self.parts(["similar"])[0]["seeds"]), 2))
        self.assertGreater(float(self.mask()[300, 150]), 0.9)
        page.get_by_label("Tolerance, number").fill("40")
        page.keyboard.press("Enter")
        self.assertEqual(self.parts(["similar"])[0]["tolerance"], 40)

    @long_tier
    def test_a_guess_says_that_it_is_one(self) -> None:
        self.add("Sky, as guessed")
        self.parts(["guess"])
        expect(self.page.get_by_text("A guess at the sky")).to_be_visible()


class Brushes(MaskBenchCase):
    def strokes(self, count: int) -> list[dict[str, Any]]:
        self.until(lambda: self.assertEqual(len(self.parts(["brush"])[0]["strokes"]), count))
        return list(self.parts(["brush"])[0]["strokes"])

    @long_tier
    def test_a_stroke_held_at_edges_grows_under_the_hand(self) -> None:
        page = self.page
        page.keyboard.press("p")
        page.get_by_role("button", name="Hold at edges").click()
        page.get_by_role("radio", name="matte").click()
        page.mouse.move(*self.screen.at(640, 650))
        page.mouse.down()
        page.mouse.move(*self.screen.at(700, 650), steps=6)
        # Before the pen lifts: the engine's own mask.
        self.until(lambda: self.assertGreater(float(self.screen.pixel(690, 655)[0]), 180))
        page.mouse.up()
        (stroke,) = self.strokes(1)
        self.assertTrue(stroke["edges"])
        mask = self.mask()
        self.assertGreater(float(mask[650, 670]), 0.8)
        self.assertLess(float(mask[600, 800]), 0.1)  # under the pen, and of another colour

    @long_tier
    def test_a_straight_line_with_shift(self) -> None:
        page = self.page
        page.keyboard.press("p")
        self.screen.stroke((300, 700))
        self.strokes(1)
        page.keyboard.down("Shift")
        self.screen.stroke((900, 700))
        page.keyboard.up("Shift")
        line = self.strokes(2)[1]
        self.assertEqual(len(line["points"]), 2)
        self.assertGreater(float(self.mask()[700, 600]), 0.9)

    @long_tier
    def test_flow_and_opacity_go_into_the_stroke(self) -> None:
        page = self.page
        page.keyboard.press("p")
        for name, value in (("Flow", "30"), ("Opacity", "50")):
            page.get_by_label(f"{name}, number").fill(value)
            page.keyboard.press("Enter")
        self.screen.stroke((300, 600), (500, 600), (300, 600), (500, 600))
        (stroke,) = self.strokes(1)
        self.assertEqual((stroke["flow"], stroke["opacity"]), (0.3, 0.5))
        self.assertGreater(float(self.mask()[600, 400]), 0.3 * 0.5 * 1.4)
        self.assertLessEqual(float(self.mask().max()), 0.5)


class Keys(MaskBenchCase):
    def key(self) -> dict[str, Any]:
        return self.parts(["colour-key"])[0]

    @long_tier
    def test_colours_are_collected_and_left_out(self) -> None:
        page = self.page
        self.add("Colour key of the tainted samples")
        self.key()
        page.get_by_role("button", name="Sample the key").click()
        self.drag((640, 600), (720, 620))
        self.until(lambda: self.assertGreater(len(self.key()["taken"]), 1))
        self.assertGreater(float(self.mask()[620, 700]), 0.5)
        page.keyboard.down("Alt")
        self.screen.click(*IN_BOX)
        page.keyboard.up("Alt")
        expect(page.get_by_text("1 left out")).to_be_visible()
        self.until(lambda: self.assertNotEqual(self.key()["left_out"], []))
        self.assertLess(float(self.mask()[IN_BOX[1], IN_BOX[0]]), 0.1)
        page.get_by_role("button", name="Take back in").click()
        expect(page.get_by_text("1 left out")).to_have_count(0)

    def own_keys(self) -> None:
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Own key").hover()

    @long_tier
    def test_a_key_is_kept_used_taken_out_and_deleted(self) -> None:
        page = self.page
        self.add("Colour key of the tainted samples")
        kept = self.key()
        self.own_keys()
        page.get_by_role("menuitem", name="Keep and manage").click()
        dialog = page.get_by_role("dialog", name="Own keys")
        dialog.get_by_label("Name of the key").fill("Shirt in red light")
        dialog.get_by_role("button", name="Keep", exact=True).click()
        expect(dialog.get_by_role("listitem")).to_have_text(re.compile("Shirt in red light"))
        with page.expect_download() as info:
            dialog.get_by_role("link", name="Take out").click()
        file = Path(info.value.path())
        self.assertEqual(json.loads(file.read_text())["keys"][0]["hue"], kept["hue"])
        dialog.get_by_role("button", name="Delete Shirt in red light").click()
        expect(dialog.get_by_text("None yet.")).to_be_visible()
        dialog.get_by_label("File of keys").set_input_files(
            {"name": "k.json", "mimeType": "application/json", "buffer": file.read_bytes()}
        )
        expect(dialog.get_by_text("1 added, 0 replaced.")).to_be_visible()
        dialog.get_by_label("File of keys").set_input_files(
            {"name": "k.json", "mimeType": "application/json", "buffer": b"{}"}
        )
        expect(dialog.get_by_text("not a file of Nubilis keys")).to_be_visible()
        dialog.get_by_role("button", name="Close").click()
        self.own_keys()
        page.get_by_role("menuitem", name="Shirt in red light").click()
        one, two = self.parts(["colour-key", "colour-key"])
        self.assertEqual(one["hue"], two["hue"])
        self.assertEqual(two["join"], "intersect")


@long_tier
class Views(MaskBenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.add("Oval")
        self.drag((600, 400), (760, 480))
        self.parts(["oval"])

    def change(self, place: tuple[int, int], was: np.ndarray) -> float:
        return float(np.abs(self.screen.pixel(*place) - was).max())

    def test_an_outline_alone_in_an_ink_of_one_s_own(self) -> None:
        page, screen = self.page, self.screen
        inside, rim = screen.pixel(600, 400), screen.pixel(760, 400)
        page.get_by_role("radio", name="outline").click()
        self.until(lambda: self.assertGreater(self.change((760, 400), rim), 10))
        np.testing.assert_allclose(screen.pixel(600, 400), inside, atol=3)
        page.get_by_role("radio", name="hatch").click()
        page.get_by_role("button", name="ink").click()
        page.get_by_label("A hue against the photo").uncheck()
        page.get_by_label("Opacity, number").last.fill("100")
        page.keyboard.press("Enter")
        self.until(lambda: self.assertGreater(self.change((600, 400), inside), 20))
        strong = self.change((600, 400), inside)
        page.get_by_label("Opacity, number").last.fill("10")
        page.keyboard.press("Enter")
        self.until(lambda: self.assertGreater(strong, 2 * self.change((600, 400), inside)))

    def test_the_matte_is_peeked_at_while_a_handle_moves(self) -> None:
        page, screen = self.page, self.screen
        box = page.get_by_role("button", name="oval, height").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 5, box["y"] + 5)
        page.mouse.down()
        page.mouse.move(box["x"] + 5, box["y"] + 25, steps=3)
        page.keyboard.down("Control")
        self.until(lambda: self.assertGreater(float(screen.pixel(600, 400).min()), 240))
        self.assertLess(float(screen.pixel(100, 100).max()), 15)
        page.keyboard.up("Control")
        page.mouse.up()
        self.until(lambda: self.assertGreater(float(screen.pixel(100, 100).max()), 60))

    def test_a_part_pointed_at_in_the_list_shows_where_it_is(self) -> None:
        page, screen = self.page, self.screen
        self.add("Oval")
        self.drag((200, 200), (260, 260))
        self.parts(["oval", "oval"])
        page.keyboard.press("Escape")
        rim = screen.pixel(760, 400)
        page.get_by_role("button", name="Oval", exact=True).first.hover()
        self.until(lambda: self.assertGreater(self.change((760, 400), rim), 10))
        page.mouse.move(640, 20)
        self.until(lambda: self.assertLess(self.change((760, 400), rim), 4))


@long_tier
class Shared(MaskBenchCase):
    def test_another_cast_s_mask_is_used(self) -> None:
        page = self.page
        self.add("Oval")
        self.drag((600, 400), (760, 480))
        self.parts(["oval"])
        page.get_by_role("button", name="New cast").last.click()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Add part").click()
        page.get_by_role("menuitem", name="Mask of another cast").hover()
        page.get_by_role("menuitem", name=re.compile("^A ")).click()
        expect(page.get_by_role("button", name="Mask of A")).to_be_visible()
        expect(page.get_by_text("The mask of that cast")).to_be_visible()
        self.screen.wait_saved()
        # What lends its mask is not deleted from under the other.
        page.get_by_role("button", name=re.compile("A .*pair")).click()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("Its mask is used by")
        self.assertEqual(len(self.casts()), 2)
        # Nor does the first use the second's, which would be a circle.
        page.get_by_role("button", name="Add part").click()
        expect(page.get_by_role("menuitem", name="Whole photo")).to_be_visible()
        expect(page.get_by_role("menuitem", name="Mask of another cast")).to_have_count(0)

    def test_copies_stay_linked_until_the_link_is_broken(self) -> None:
        page = self.page
        self.add("Oval")
        self.drag((600, 400), (760, 480))
        self.parts(["oval"])
        there = Photo.objects.get(title="Pond-side matinee")
        page.get_by_role("button", name="Copy", exact=True).click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label(there.title).check()
        dialog.get_by_role("button", name="Copy", exact=True).click()
        expect(dialog.get_by_text(f"Shared with {there.title}")).to_be_visible()
        dialog.get_by_role("button", name="Close").click()
        amount = page.get_by_label("Amount, number")
        amount.fill("55")
        amount.press("Enter")
        self.screen.wait_saved()
        page.get_by_role("button", name="Copy", exact=True).click()
        dialog.get_by_role("button", name="Carry changes over").click()
        expect(dialog.get_by_text("1 photo changed.")).to_be_visible()
        self.assertEqual(saved_recipe(there.id)["casts"][0]["remedies"][0]["amount"], 0.55)
        dialog.get_by_role("button", name="Break the link").click()
        expect(dialog.get_by_text(f"Shared with {there.title}")).to_have_count(0)
        dialog.get_by_role("button", name="Close").click()
        (cast,) = self.casts()
        self.assertNotEqual(cast["id"], saved_recipe(there.id)["casts"][0]["link"]["id"])
