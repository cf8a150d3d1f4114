"""Several remedies on one cast, and what the engine says when they are overdone."""

import re

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from walks.tests.browser import saved_recipe
from walks.tests.mask_bench import sample_shirt
from walks.tests.remedy_bench import RemedyCase
from walks.tests.test_demo import DOWN_THE_SHIRT, SHIRT


class Remedies(RemedyCase):
    def setUp(self) -> None:
        super().setUp()
        self.work_on("Curtain call")
        self.photo_id = self.row.id
        sample_shirt(self.row, [tuple(DOWN_THE_SHIRT)])
        self.open()
        self.screen.wait_proved()

    def test_a_shift_moves_the_hue_at_once_and_can_be_arranged_and_deleted(self) -> None:
        before = self.screen.pixel(*SHIRT)
        self.add("Shift")
        np.testing.assert_allclose(self.screen.pixel(*SHIRT), before, atol=1.5)
        self.set("Saturation", "100")
        self.set("Luminance", "20")
        self.assertGreater(self.screen.pixel(*SHIRT).mean(), before.mean() + 8)
        self.assertEqual(self.kinds(), ["neutralise", "shift"])
        self.choose("Shift").press("Alt+ArrowUp")
        self.screen.wait_saved()
        self.assertEqual(self.kinds(), ["shift", "neutralise"])
        self.delete("Shift")
        self.assertEqual(self.kinds(), ["neutralise"])
        np.testing.assert_allclose(self.screen.pixel(*SHIRT), before, atol=1.5)

    @long_tier
    def test_even_out_with_a_target_sampled_on_the_photo(self) -> None:
        self.add("Even out")
        self.set("Hue", "100")
        self.set("Saturation", "100")
        self.page.get_by_role("button", name="Sample target").click()
        self.screen.click(760, 120)  # the blue hat
        expect(self.page.get_by_role("button", name="Sample target")).to_have_attribute(
            "aria-pressed", "false"
        )
        self.screen.wait_saved()
        r, _, b = self.screen.pixel(*SHIRT)
        self.assertGreater(b, r + 25)
        self.assertEqual(self.kinds(), ["neutralise", "even-out"])

    @long_tier
    def test_restore_takes_back_and_match_uses_the_pairs(self) -> None:
        treated = self.screen.pixel(*SHIRT)
        self.add("Restore")
        restored = self.screen.pixel(*SHIRT)
        self.assertGreater(np.ptp(restored), np.ptp(treated) + 15)
        self.set("Amount", "0")
        np.testing.assert_allclose(self.screen.pixel(*SHIRT), treated, atol=1.5)
        self.delete("Restore")
        self.page.get_by_role("button", name="Neutralise: switch off").click()
        self.add("Match")
        self.screen.wait_saved()
        self.assertLess(np.ptp(self.screen.pixel(*SHIRT)), 0.6 * np.ptp(restored))

    @long_tier
    def test_going_past_the_reference_is_told_and_one_button_tames_it(self) -> None:
        self.set("Amount", "150")
        concerns = self.page.get_by_role("list", name="Concerns")
        past = concerns.get_by_text("gone past its reference")
        expect(past).to_be_visible()
        past.hover()
        expect(self.page.get_by_text("here", exact=True)).to_be_visible()
        concerns.get_by_role("button", name="Less").first.click()
        expect(past).to_have_count(0)
        self.screen.wait_saved()
        amount = saved_recipe(self.photo_id)["casts"][0]["remedies"][0]["amount"]
        self.assertTrue(0.7 < amount < 1.4, amount)

    @long_tier
    def test_a_drag_collects_an_average_and_the_pointer_tells_what_lies_there(self) -> None:
        more = self.page.get_by_test_id("readout-more")
        self.page.mouse.move(*self.screen.at(385, 290))
        expect(more).to_contain_text("May be: skin")
        self.page.mouse.move(*self.screen.at(1150, 200))
        expect(more).to_contain_text("May be: neutral")
        expect(more).to_contain_text(re.compile(r"\d{4,5} K, tint"))
        self.page.get_by_role("button", name="New cast").click()
        self.page.mouse.move(*self.screen.at(60, 300))
        self.page.mouse.down()
        self.page.mouse.move(*self.screen.at(1100, 300), steps=25)
        self.page.mouse.up()
        expect(self.page.get_by_text("needs a reference")).to_be_visible()
        self.screen.wait_saved()
        r, _, b = saved_recipe(self.photo_id)["casts"][1]["pairs"][0]["tainted"]["rgb"]
        self.assertLess(r, 3.5 * b)  # the curtain alone would be redder
        self.assertGreater(r, 1.05 * b)  # and the backdrop alone grey

    @long_tier
    def test_a_reference_can_be_typed(self) -> None:
        self.page.get_by_role("button", name="Reference of sample 1, its values").click()
        field = self.page.get_by_label("Reference b*, number")
        field.fill("-20")
        field.press("Enter")
        expect(self.page.get_by_text("made", exact=True)).to_be_visible()
        self.page.keyboard.press("Escape")
        self.screen.wait_saved()
        reference = saved_recipe(self.photo_id)["casts"][0]["pairs"][0]["reference"]
        self.assertIsNone(reference["at"])
        self.assertGreater(reference["rgb"][2], reference["rgb"][0])
        r, _, b = self.screen.pixel(*SHIRT)
        self.assertGreater(b, r)
