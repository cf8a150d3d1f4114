"""Rows of the job, each done to its end on the screen, and each ending in pixels."""

import re

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from nubilis.mask.whole import Whole
from nubilis.remedy.neutralise import Neutralise
from nubilis.remedy.shift import Shift
from walks.tests.remedy_bench import RemedyCase, begin, painted

PORTRAIT, SNAPSHOT, PLASTER = (
    "Company portrait in the paint store",
    "Front-row snapshot",
    "The plaster room",
)


def hue(rgb: np.ndarray) -> float:
    """Degrees, of screen values: enough to tell whose colour it is."""
    r, g, b = (float(v) for v in rgb)
    return float(np.degrees(np.arctan2(3**0.5 * (g - b), 2 * r - g - b)))


def apart(one: np.ndarray, two: np.ndarray) -> float:
    """Degrees between two hues."""
    return abs((hue(one) - hue(two) + 180.0) % 360.0 - 180.0)


def light(rgb: np.ndarray) -> float:
    return float(np.array([0.2126, 0.7152, 0.0722]) @ (rgb / 255.0) ** 2.2) ** (1 / 3) * 116 - 16


def colourful(rgb: np.ndarray) -> float:
    return float(rgb.max() - rgb.min())


class Cloth(RemedyCase):
    photos = (PORTRAIT,)

    @long_tier
    def test_a_sleeve_takes_another_cloth_s_colour(self) -> None:
        sleeve, stockings, face = (1117, 426), (435, 642), (474, 332)
        self.work_on(PORTRAIT)
        begin(self.row, painted(self.row, ((1090, 420), (1150, 400)), size=0.06))
        self.open()
        before, target, other = (self.screen.pixel(*p) for p in (sleeve, stockings, face))
        self.add("Recolour")
        self.take("target", stockings)
        after = self.screen.pixel(*sleeve)
        self.assertLess(apart(after, target), 12.0)
        self.assertGreater(apart(before, target), 80.0)
        self.assertAlmostEqual(light(after), light(before), delta=2.0)
        np.testing.assert_allclose(self.screen.pixel(*face), other, atol=1.0)
        self.set("Its lightness", "100")
        darker = light(self.screen.pixel(*sleeve))
        self.assertLess(abs(darker - light(target)), abs(light(before) - light(target)) + 4.0)

    @long_tier
    def test_a_stain_is_whitened_and_one_stops_early(self) -> None:
        crate = (110, 745)
        self.work_on(PORTRAIT)
        begin(self.row, Whole(id="w"))
        self.open()
        before = self.screen.pixel(*crate)
        self.add("Wash")
        self.page.get_by_role("radio", name="lighter or darker").click()
        self.set("By", "0.5")
        self.page.keyboard.press("3")  # 30 %: the digit, while the brush is in the hand
        expect(self.page.get_by_label("Strength, number", exact=True)).to_have_value("30 %")
        for _ in range(2):
            self.screen.stroke((90, 745), (130, 745))
        lifted = self.screen.pixel(*crate)
        self.assertTrue(0.5 < light(lifted) - light(before) < 9.0)
        self.page.get_by_role("button", name="Remove stroke 2").click()
        self.screen.wait_saved()
        less = self.screen.pixel(*crate)
        self.assertTrue(light(before) < light(less) < light(lifted))
        self.set("Strength of stroke 1", "10")
        self.assertLess(light(self.screen.pixel(*crate)), light(less))


@long_tier
class Painting(RemedyCase):
    photos = (SNAPSHOT, PLASTER)

    def test_a_patch_is_replaced_and_its_edge_erased(self) -> None:
        patch, edge, tone = (300, 660), (420, 660), (740, 650)
        self.work_on(PLASTER)
        begin(self.row, Whole(id="w"))
        self.open()
        before = {p: self.screen.pixel(*p) for p in (patch, edge)}
        self.add("Wash")
        self.take("tone", tone)
        self.set("Strength", "80")
        self.screen.stroke((260, 660), (430, 660))
        after = {p: self.screen.pixel(*p) for p in (patch, edge)}
        wanted = self.screen.pixel(*tone)
        for p in (patch, edge):
            self.assertLess(apart(after[p], wanted), 12.0)
            self.assertGreater(colourful(after[p]), colourful(before[p]) + 15.0)
            self.assertAlmostEqual(light(after[p]), light(before[p]), delta=1.5)
        self.page.get_by_role("button", name="Wash off").click()
        self.screen.stroke((410, 640), (440, 690))
        np.testing.assert_allclose(self.screen.pixel(*edge), before[edge], atol=4.0)
        np.testing.assert_allclose(self.screen.pixel(*patch), after[patch], atol=2.0)

    def test_grey_hair_is_painted_towards_the_rest(self) -> None:
        roots, brown = (1029, 404), (936, 368)
        self.work_on(SNAPSHOT)
        begin(self.row, painted(self.row, ((1020, 370), (1040, 430)), size=0.08))
        self.open()
        before, wanted = self.screen.pixel(*roots), self.screen.pixel(*brown)
        self.add("Wash")
        # The key held, a click takes the tone, at any time.
        self.page.keyboard.down("q")
        self.screen.click(*brown)
        self.page.keyboard.up("q")
        expect(self.page.get_by_role("button", name="Sample tone")).to_be_visible()
        self.set("Strength", "50")
        nearer = [apart(before, wanted)]
        for _ in range(2):
            self.screen.stroke((1022, 380), (1036, 425))
            nearer.append(apart(self.screen.pixel(*roots), wanted))
        self.assertLess(nearer[2], max(0.5 * nearer[0], 10.0))
        self.assertAlmostEqual(light(self.screen.pixel(*roots)), light(before), delta=1.5)
        strokes = self.remedies()[0]["strokes"]
        self.assertEqual(len(strokes), 2)
        self.assertEqual(strokes[0]["tone"], strokes[1]["tone"])


@long_tier
class Tint(RemedyCase):
    photos = (SNAPSHOT,)

    def test_the_shadows_alone_are_turned_and_the_noise_calmed(self) -> None:
        shade, hat = (936, 368), (760, 200)
        self.work_on(SNAPSHOT)
        begin(self.row, Whole(id="w"))
        self.open()
        before = {p: self.screen.pixel(*p) for p in (shade, hat)}
        self.add("Zones")
        expect(self.page.get_by_test_id("masked-light")).to_have_attribute("d", re.compile("L"))
        self.set("Shadows to", "45")
        sheet = self.page.get_by_role("slider", name="Shadows: towards")
        sheet.focus()
        for _ in range(3):
            sheet.press("Shift+ArrowRight")
        self.screen.wait_saved()
        after = {p: self.screen.pixel(*p) for p in (shade, hat)}
        self.assertGreater(
            after[shade][0] - after[shade][1], before[shade][0] - before[shade][1] + 4
        )
        np.testing.assert_allclose(after[hat], before[hat], atol=1.0)
        self.add("Calm")
        grain = self.page.get_by_test_id("grain")
        expect(grain).to_contain_text(re.compile(r"\d\.\d\d"))
        self.assertEqual(self.kinds(), ["zones", "calm"])

    def test_skin_gets_back_the_warmth_that_its_reference_has(self) -> None:
        cheek, clean = (877, 543), (295, 392)
        self.work_on(SNAPSHOT)
        flat = (Neutralise(id="n"), Shift(id="s", saturation=-0.35))
        begin(
            self.row,
            painted(self.row, ((760, 480), (900, 560)), size=0.25),
            pair=(cheek, clean),
            remedies=flat,
        )
        self.open()
        offer = self.page.get_by_role("button", name="Warmth back")
        expect(offer).to_be_visible()
        _, distance = self.screen.distances()
        pale = colourful(self.screen.pixel(*cheek))
        offer.click()
        self.screen.wait_saved()
        self.assertEqual(self.kinds(), ["neutralise", "shift", "glaze"])
        self.assertTrue(0.01 <= self.remedies()[2]["amount"] <= 0.4)
        self.assertGreater(colourful(self.screen.pixel(*cheek)), pale + 3)
        self.until(lambda: self.assertLess(self.screen.distances()[1], distance))
        expect(offer).to_have_count(0)

    def test_a_key_lifted_into_a_cast_with_tone(self) -> None:
        hat, hair = (760, 200), (936, 368)
        self.work_on(SNAPSHOT)
        begin(self.row)
        self.open()
        before = {p: self.screen.pixel(*p) for p in (hat, hair)}
        self.page.get_by_role("button", name="Add part").click()
        self.page.get_by_role("menuitem", name="Range of luminance").click()
        self.set("Luminance, core to", "100")
        self.set("Luminance, core from", "75")
        self.page.keyboard.press("3")
        self.add("Tone")
        self.set("Exposure", "-1")
        self.assertLess(light(self.screen.pixel(*hat)), light(before[hat]) - 8)
        np.testing.assert_allclose(self.screen.pixel(*hair), before[hair], atol=1.0)
        # It has no samples, and is called by what it does.
        expect(
            self.page.get_by_role("complementary", name="Casts").get_by_text("Tone", exact=True)
        ).to_be_visible()
        self.set("Exposure", "0")
        np.testing.assert_allclose(self.screen.pixel(*hat), before[hat], atol=1.0)


@long_tier
class Order(RemedyCase):
    photos = (SNAPSHOT,)

    def test_by_dragging_by_key_and_switched_off_by_itself(self) -> None:
        self.work_on(SNAPSHOT)
        begin(self.row, Whole(id="w"))
        self.open()
        for kind in ("Glaze", "Zones", "Tone"):
            self.add(kind)
        self.assertEqual(self.kinds(), ["glaze", "zones", "tone"])
        rows = self.listed.get_by_role("listitem")
        rows.nth(2).drag_to(rows.nth(0))
        self.until(lambda: self.assertEqual(self.kinds(), ["tone", "glaze", "zones"]))
        self.choose("Tone").press("Alt+ArrowDown")
        self.until(lambda: self.assertEqual(self.kinds(), ["glaze", "tone", "zones"]))
        self.page.get_by_role("button", name="Tone: switch off").click()
        self.until(lambda: self.assertFalse(self.remedies()[1]["on"]))
        self.assertTrue(self.remedies()[0]["on"])
        self.delete("Zones")
        self.assertEqual(self.kinds(), ["glaze", "tone"])
        self.page.get_by_role("button", name="Undo").click()
        self.until(lambda: self.assertEqual(self.kinds(), ["glaze", "tone", "zones"]))
