"""Colours shaped by hue, in the plane, by curves and by mixing, each ending in pixels."""

import numpy as np
from playwright.sync_api import Locator, expect

from core.tests.effort import long_tier
from nubilis.mask.whole import Whole
from walks.tests.remedy_bench import RemedyCase, begin
from walks.tests.test_real_work import apart, hue, light

GARDEN = "Garden show under the lime tree"
SNAPSHOT, FACE, WALL = "Front-row snapshot", (800, 560), (300, 420)
LEAVES, SHADE, BOOTH, SKIRT = (95, 190), (1150, 120), (620, 130), (960, 640)


class ShapingCase(RemedyCase):
    """One cast over the whole photo, whose colours are shaped."""

    def setUp(self) -> None:
        super().setUp()
        self.work_on(self.photos[0])
        begin(self.row, Whole(id="w"))
        self.open()

    def drag_colour(
        self, place: tuple[int, int], dx: float, dy: float, shift: bool = False
    ) -> None:
        """A colour of the photo taken hold of and dragged by so many pixels of the screen."""
        x, y = self.screen.at(*place)
        told = self.page.get_by_text("Drag a ", exact=False).first
        expect(told).to_be_visible()
        self.page.mouse.move(x, y)
        with self.page.expect_response("**/shaping"):
            self.page.mouse.down()
        expect(told).to_have_count(0)
        if shift:
            self.page.keyboard.down("Shift")
        self.page.mouse.move(x + dx, y + dy, steps=5)
        self.page.mouse.up()
        if shift:
            self.page.keyboard.up("Shift")
        self.screen.wait_saved()

    def sheet(self, name: str) -> dict[str, float]:
        """Where an instrument stands, once the engine has told what lies on it."""
        sheet = self.page.get_by_role("group", name=name)
        sheet.scroll_into_view_if_needed()
        box = sheet.bounding_box()
        assert box is not None
        return dict(box)

    def pull(
        self, box: dict[str, float], start: tuple[float, float], end: tuple[float, float]
    ) -> None:
        """From one place of an instrument to another, shares of its width and height."""
        places = [
            (box["x"] + box["width"] * x, box["y"] + box["height"] * y) for x, y in (start, end)
        ]
        self.page.mouse.move(*places[0])
        self.page.mouse.down()
        self.page.mouse.move(*places[1], steps=5)
        self.page.mouse.up()
        self.screen.wait_saved()

    def keep_version(self, name: str) -> None:
        self.page.get_by_role("button", name="Versions").click()
        field = self.page.get_by_label("Name of the version")
        field.fill(name)
        field.press("Enter")
        expect(self.page.get_by_label(f"Name of {name}")).to_be_visible()
        self.close_dialog()

    def grab(self, place: tuple[int, int], dx: float, dy: float, shift: bool) -> None:
        self.page.get_by_role("button", name="Drag on photo").click()
        self.drag_colour(place, dx, dy, shift)
        self.page.get_by_role("button", name="Drag on photo").click()  # put down again

    def add_shaping(self, kind: str) -> None:
        with self.page.expect_response("**/shaping"):
            self.add(kind)

    def compare(self, *names: str) -> Locator:
        """Versions, or the untouched photo, beside the photo as it is; the panes beside it."""
        self.page.get_by_role("button", name="Compare").click()
        dialog = self.page.get_by_role("dialog", name="Compare")
        dialog.get_by_role("radio", name="Up to four").click()
        for label, name in zip(("First", "Third", "Fourth"), names, strict=True):
            dialog.get_by_label(f"{label} state").select_option(label=name)
        self.close_dialog()
        panes = self.page.get_by_role("region", name="The state beside")
        expect(panes).to_have_count(3)
        for name in names:
            expect(self.page.get_by_role("img", name=f"{name}, beside the photo")).to_be_visible()
        return panes


class Shaping(ShapingCase):
    photos = (GARDEN,)

    def number(self, label: str) -> Locator:
        return self.page.get_by_label(f"{label}, number", exact=True)

    @long_tier
    def test_leaves_turn_by_hue_and_greys_stay(self) -> None:
        leaves, booth = (self.screen.pixel(*p) for p in (LEAVES, BOOTH))
        with self.page.expect_response("**/shaping"):
            self.add("By hue")
        self.page.get_by_role("button", name="Drag on photo").click()
        self.drag_colour(LEAVES, -140.0, 0.0)
        (remedy,) = self.remedies()
        (point,) = remedy["points"]
        self.assertAlmostEqual(point["turn"], -35.0, delta=3.0)
        self.assertLess(hue(self.screen.pixel(*LEAVES)), hue(leaves) - 15.0)
        np.testing.assert_allclose(self.screen.pixel(*BOOTH), booth, atol=4.0)
        expect(self.page.get_by_role("slider", name="Hue ")).to_have_count(1)
        self.set("Hue point, sat.", "-100")
        pale = self.screen.pixel(*LEAVES)
        self.assertLess(pale.max() - pale.min(), 0.5 * (leaves.max() - leaves.min()))
        self.page.get_by_role("button", name="Let go").click()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(*LEAVES), leaves, atol=1.0)

    @long_tier
    def test_a_hue_is_taken_hold_of_on_the_sheet_and_by_keys(self) -> None:
        with self.page.expect_response("**/shaping"):
            self.add("By hue")
        self.page.get_by_role("radio", name="saturation").click()
        box = self.sheet("Hues: press to take hold of one")
        self.pull(box, (130 / 360, 0.5), (130 / 360, 0.75))
        expect(self.number("Hue point, sat.")).to_have_value("-50 %")
        self.page.get_by_role("slider", name="Hue ").press("ArrowDown")
        self.screen.wait_saved()
        expect(self.number("Hue point, sat.")).to_have_value("-52 %")
        self.page.get_by_role("slider", name="Hue ").press("Delete")
        self.screen.wait_saved()
        self.assertEqual(self.remedies()[0]["points"], [])

    @long_tier
    def test_summer_to_autumn_with_dark_and_light_apart(self) -> None:
        lit, shade, skirt = (self.screen.pixel(*p) for p in (LEAVES, SHADE, SKIRT))
        with self.page.expect_response("**/shaping"):
            self.add("In the plane")
        self.page.get_by_role("button", name="Drag on photo").click()
        self.page.get_by_role("radio", name="all tones").wait_for()
        self.drag_colour(SKIRT, 0.0, 0.0)  # pinned
        self.drag_colour(LEAVES, 160.0, -20.0)
        autumn = self.screen.pixel(*LEAVES)
        self.assertLess(hue(autumn), hue(lit) - 25.0)
        self.assertLess(apart(self.screen.pixel(*SKIRT), skirt), 6.0)
        (remedy,) = self.remedies()
        self.assertEqual(len(remedy["points"]), 2)
        self.page.get_by_role("radio", name="dark").click()
        box = self.sheet("Colours in the a-b plane")
        # A dark green, taken hold of on the sheet and drawn towards blue.
        self.pull(box, (0.3, 0.35), (0.3, 0.65))
        self.assertEqual(self.remedies()[0]["points"][-1]["reach"], "dark")
        expect(self.number("Crossover of dark and light")).to_be_visible()
        self.assertGreater(np.abs(self.screen.pixel(*SHADE) - shade).max(), 3.0)

    @long_tier
    def test_where_the_plane_would_fold_is_told(self) -> None:
        with self.page.expect_response("**/shaping"):
            self.add("In the plane")
        box = self.sheet("Colours in the a-b plane")
        self.pull(box, (0.25, 0.4), (0.8, 0.4))
        self.pull(box, (0.7, 0.4), (0.12, 0.4))
        expect(self.page.get_by_role("status").filter(has_text="would fold")).to_be_visible()

    def test_a_curve_lifts_what_is_dark_and_is_straightened(self) -> None:
        shade, skirt = (self.screen.pixel(*p) for p in (SHADE, SKIRT))
        with self.page.expect_response("**/shaping"):
            self.add("Curves")
        box = self.sheet("Curve: press to bend it")
        self.pull(box, (0.3, 0.7), (0.3, 0.5))
        self.assertGreater(light(self.screen.pixel(*SHADE)), light(shade) + 3.0)
        self.page.get_by_role("radio", name="yellow").click()
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.7)
        self.screen.wait_saved()
        less_yellow = self.screen.pixel(*SKIRT)
        self.assertGreater(less_yellow[2] / less_yellow[0], skirt[2] / skirt[0])
        self.page.get_by_role("button", name="Straighten yellow").click()
        self.screen.wait_saved()
        self.page.get_by_role("radio", name="light", exact=True).click()
        self.page.get_by_role("button", name="Straighten lightness").click()
        self.screen.wait_saved()
        np.testing.assert_allclose(self.screen.pixel(*SHADE), shade, atol=1.0)

    @long_tier
    def test_channels_are_mixed_and_greys_stay_grey(self) -> None:
        leaves, booth = (self.screen.pixel(*p) for p in (LEAVES, BOOTH))
        self.add("Mix")
        self.set("New red, of green", "60")
        self.assertLess(hue(self.screen.pixel(*LEAVES)), hue(leaves) - 10.0)
        np.testing.assert_allclose(self.screen.pixel(*BOOTH), booth, atol=12.0)
        self.page.get_by_label("Greys stay grey").uncheck()
        self.screen.wait_saved()
        warm = self.screen.pixel(*BOOTH)
        self.assertGreater(warm[0] - warm[2], 20.0)

    @long_tier
    def test_three_ways_are_compared_and_one_is_gone_on_with(self) -> None:
        """Foliage turned by hue, in the plane, by mixing; each kept as a version."""
        leaves = self.screen.pixel(*LEAVES)
        for kind, dx in (("By hue", -140.0), ("In the plane", 150.0)):
            self.add_shaping(kind)
            self.grab(LEAVES, dx, 0.0, False)
            self.keep_version(kind)
            self.delete(kind)
        self.add("Mix")
        self.set("New red, of green", "70")
        mixed = self.screen.pixel(*LEAVES)
        panes = self.compare("By hue", "In the plane", "Untouched")
        expect(self.page.get_by_role("button", name="Go on with this")).to_have_count(2)
        panes.nth(1).get_by_role("button", name="Go on with this").click()
        self.screen.wait_saved()
        expect(panes).to_have_count(0)
        self.assertEqual(self.kinds(), ["in-plane"])
        now = self.screen.pixel(*LEAVES)
        self.assertLess(hue(now), hue(leaves) - 15.0)
        self.page.get_by_role("button", name="Undo").click()
        self.screen.wait_saved()
        self.until(lambda: np.testing.assert_allclose(self.screen.pixel(*LEAVES), mixed, atol=2.0))


@long_tier
class SkinShaped(ShapingCase):
    photos = (SNAPSHOT,)

    def test_skin_is_brightened_three_ways_side_by_side(self) -> None:
        """By its hue, by its place in the plane, by a curve; the wall stays under the first two."""
        face, wall = self.screen.pixel(*FACE), self.screen.pixel(*WALL)
        self.add_shaping("By hue")
        self.grab(FACE, 0.0, -60.0, True)
        self.brighter_alone(face, wall)
        self.keep_version("By hue")
        self.delete("By hue")
        self.add_shaping("In the plane")
        self.grab(FACE, 0.0, -60.0, True)
        self.brighter_alone(face, wall)
        self.keep_version("In the plane")
        self.delete("In the plane")
        self.add_shaping("Curves")
        box = self.sheet("Curve: press to bend it")
        self.pull(box, (0.5, 0.5), (0.5, 0.38))
        self.assertGreater(light(self.screen.pixel(*FACE)), light(face) + 3.0)
        panes = self.compare("By hue", "In the plane", "Untouched")
        panes.nth(0).get_by_role("button", name="Go on with this").click()
        self.screen.wait_saved()
        self.assertEqual(self.kinds(), ["by-hue"])
        self.brighter_alone(face, wall)

    def brighter_alone(self, face: np.ndarray, wall: np.ndarray) -> None:
        self.assertGreater(light(self.screen.pixel(*FACE)), light(face) + 3.0)
        self.assertLess(apart(self.screen.pixel(*WALL), wall), 4.0)
