"""A finger that scrolls the contact sheet chooses nothing; one that taps does."""

from playwright.sync_api import expect

from walks.tests.browser import BrowserCase

DRAG = """(box) => {
    const on = document.elementFromPoint(box.x, box.y);
    const told = (kind, y) => on.dispatchEvent(new PointerEvent(kind, {
        bubbles: true, pointerId: 7, pointerType: 'touch', isPrimary: true, clientX: box.x, clientY: y,
    }));
    told('pointerdown', box.y);
    for (let y = box.y; y < box.y + 200; y += 20) told('pointermove', y);
    told('pointerup', box.y + 200);
}"""


class Scrolling(BrowserCase):
    photos = ("Curtain call", "Front-row snapshot", "Pond-side matinee")

    def test_a_finger_that_scrolls_chooses_nothing(self) -> None:
        self.open_demo()
        tile = self.page.get_by_role("button", name="Choose Curtain call")
        box = tile.bounding_box()
        assert box is not None
        middle = {"x": box["x"] + box["width"] / 2, "y": box["y"] + box["height"] / 2}
        self.page.evaluate(DRAG, middle)
        for title in self.photos:
            chosen = self.page.get_by_role("button", name=f"Choose {title}")
            expect(chosen).to_have_attribute("aria-pressed", "false")
        tile.click()
        expect(tile).to_have_attribute("aria-pressed", "true")
