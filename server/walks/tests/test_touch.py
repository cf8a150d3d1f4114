"""Amounts by hand: pressed on the photo and dragged, typed, moved, taken away."""

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import BrowserCase, saved_recipe
from walks.tests.test_demo import CLEAN_SHIRT, DOWN_THE_SHIRT, SHIRT

PLACE = (355.0, 470.0)


class Touch(BrowserCase):
    photos = ("Curtain call",)

    def setUp(self) -> None:
        super().setUp()
        self.screen = self.go_to("Curtain call")
        self.photo_id = Photo.objects.get(title="Curtain call").id
        self.screen.sample_pair(SHIRT, CLEAN_SHIRT)
        self.screen.stroke(*DOWN_THE_SHIRT)
        self.screen.wait_proved()

    def take_up(self) -> None:
        self.page.get_by_role("button", name="Touch amounts").click()
        expect(self.page.get_by_text("drag sideways.").first).to_be_visible()
        self.screen.wait_painted()

    def touches(self) -> list[dict[str, object]]:
        return list(saved_recipe(self.photo_id)["casts"][0]["touches"])

    def drag(self, by: float) -> None:
        x, y = self.screen.at(*PLACE)
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + by, y, steps=5)
        expect(self.page.get_by_text("Taken off here:")).to_be_visible()
        self.page.mouse.up()
        self.screen.wait_saved()

    def test_what_is_taken_off_is_seen_and_follows_the_hand(self) -> None:
        screen, page = self.screen, self.page
        result = screen.pixel(*PLACE)
        self.take_up()
        red, _, blue = (float(v) for v in screen.pixel(*PLACE))
        self.assertGreater(red - blue, 12)  # the curtain's red on grey paper
        self.drag(80)
        (touch,) = self.touches()
        expect(page.get_by_label("Touch 1, number")).to_have_value(
            f"{100 * float(touch['amount']):.0f} %"  # type: ignore[arg-type]
        )
        more, _, less = (float(v) for v in screen.pixel(*PLACE))
        self.assertGreater(more - less, red - blue + 4)
        page.get_by_role("radio", name="result", exact=True).last.click()
        self.until(lambda: self.assertGreater(np.abs(screen.pixel(*PLACE) - result).max(), 3))

    @long_tier
    def test_typed_dragged_again_moved_and_taken_away(self) -> None:
        screen, page = self.screen, self.page
        self.take_up()
        self.drag(40)
        number = page.get_by_label("Touch 1, number")
        number.fill("60")
        number.press("Enter")
        screen.wait_saved()
        self.assertEqual(self.touches()[0]["amount"], 0.6)
        self.drag(20)
        self.assertEqual([t["amount"] for t in self.touches()], [0.7])
        tag = page.get_by_role("button", name="Touch 1: drag it")
        tag.focus()
        page.keyboard.press("ArrowRight")
        screen.wait_saved()
        moved = self.touches()[0]["at"]
        self.assertAlmostEqual(moved[0], (PLACE[0] + 1.5) / 1200, delta=1e-3)  # type: ignore[index]
        page.get_by_role("button", name="Undo").click()
        screen.wait_saved()
        page.get_by_role("button", name="Remove touch 1").click()
        screen.wait_saved()
        self.assertEqual(self.touches(), [])

    @long_tier
    def test_where_nothing_is_masked_that_is_told(self) -> None:
        self.take_up()
        x, y = self.screen.at(1000, 100)
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        expect(self.page.get_by_text("Nothing is taken off there")).to_be_visible()
        self.page.mouse.up()
        self.assertEqual(self.touches(), [])

    @long_tier
    def test_by_keyboard_alone(self) -> None:
        page = self.page
        self.take_up()
        self.screen.photo.focus()
        page.mouse.move(*self.screen.at(*PLACE))
        page.keyboard.press("Enter")
        number = page.get_by_label("Touch 1, number")
        expect(number).to_be_visible()
        self.screen.wait_saved()
        before = float(self.touches()[0]["amount"])  # type: ignore[arg-type]
        number.focus()
        page.keyboard.press("Shift+ArrowUp")
        self.screen.wait_saved()
        self.assertAlmostEqual(float(self.touches()[0]["amount"]), before + 0.1, delta=0.011)  # type: ignore[arg-type]
