"""Refresh docs/screenshots/ and the guide's pictures from a running, untouched demo:

.venv/bin/python docs/take_screenshots.py URL
"""

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

OUT = Path(__file__).resolve().parent / "screenshots"
GUIDE = Path(__file__).resolve().parents[1] / "web/src/lib/guide/pictures"
# Of the screen at 1280 x 800: left, top, width, height.
PIECES = {
    "find": (0, 48, 1072, 544),
    "sample": (0, 330, 980, 470),
    "key": (150, 100, 830, 700),
    "remedy": (300, 592, 830, 208),
    "compare": (232, 0, 1048, 592),
    "proof": (232, 48, 1048, 544),
    "shoot": (0, 0, 1280, 700),
    "deliver": (400, 90, 480, 460),
}
ARGUMENTS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
CANVAS_MARGIN = 14
CHEEK = (488, 312)  # of the eighth frame


def place(page: Page, x: float, y: float) -> tuple[float, float]:
    """Page coordinates of a pixel of a fitted 1200 x 800 photo."""
    box = page.get_by_role("application").bounding_box()
    assert box is not None
    room = box["width"] - 2 * CANVAS_MARGIN, box["height"] - 2 * CANVAS_MARGIN
    scale = min(room[0] / 1200, room[1] / 800)
    return (
        box["x"] + box["width"] / 2 + (x - 600) * scale,
        box["y"] + box["height"] / 2 + (y - 400) * scale,
    )


def shot(page: Page, name: str, wait: int = 1500) -> None:
    page.wait_for_timeout(wait)
    page.screenshot(path=OUT / f"{name}.png")


def piece(page: Page, name: str, wait: int = 0) -> None:
    """A part of the screen, for the guide."""
    x, y, width, height = PIECES[name]
    page.wait_for_timeout(wait)
    clip = {"x": x, "y": y, "width": width, "height": height}
    page.screenshot(path=GUIDE / f"{name}.jpg", type="jpeg", quality=84, clip=clip)


def account(page: Page) -> None:
    """With two more people, made up."""
    page.get_by_role("button", name="Room", exact=True).click()
    page.get_by_role("menuitem", name="Account").click()
    for name in ("fenn", "odile"):
        page.get_by_label("Name of the new account").fill(name)
        page.get_by_role("button", name="Make account").click()
        page.get_by_role("row", name=name).wait_for()
    shot(page, "account")


def treat(page: Page) -> None:
    """The curtain's glow on shirt and face: two pairs, a loose brush."""
    for tainted, reference in (((365, 424), (468, 527)), ((352, 580), (470, 600))):
        page.keyboard.press("t")
        page.mouse.click(*place(page, *tainted))
        page.get_by_text("needs a reference").wait_for()
        page.mouse.move(*place(page, *reference))
        if tainted[0] == 352:
            piece(page, "sample", 800)
        page.mouse.click(*place(page, *reference))
        page.wait_for_timeout(600)
    page.keyboard.press("p")
    for stroke in (
        [(345, 320), (360, 430), (350, 640)],
        [(330, 200), (345, 270)],
    ):
        page.mouse.move(*place(page, *stroke[0]))
        page.mouse.down()
        for point in stroke[1:]:
            page.mouse.move(*place(page, *point), steps=8)
        page.mouse.up()
        page.wait_for_timeout(900)
    page.mouse.move(640, 20)


def compared(page: Page) -> None:
    """A split, its divider turned."""
    page.keyboard.press("j")
    page.wait_for_timeout(1500)
    page.get_by_role("button", name="Divider: drag", exact=False).focus()
    for key in ("ArrowLeft",) * 9 + ("Shift+ArrowRight",) * 4:
        page.keyboard.press(key)
    page.mouse.move(640, 20)
    shot(page, "compare")
    piece(page, "compare")
    page.keyboard.press("j")


def zoned(page: Page) -> None:
    """Shadows and lights of what is masked, each moved its own way; and a wash."""
    page.get_by_role("button", name="Add a remedy").click()
    chooser = page.get_by_role("list", name="Add a remedy")
    chooser.get_by_role("button", name="Zones").click()
    page.wait_for_timeout(1200)
    for zone, way in (("Shadows", "ArrowDown"), ("Lights", "ArrowUp")):
        sheet = page.get_by_role("slider", name=f"{zone}: towards")
        sheet.focus()
        for _ in range(2):
            sheet.press(f"Shift+{way}")
        page.wait_for_timeout(500)
    page.mouse.move(640, 20)
    shot(page, "zones", 2000)
    for _ in range(5):
        page.get_by_role("button", name="Undo").click()
        page.wait_for_timeout(600)


def shaped(page: Page) -> None:
    """Skin of one of three; summer to autumn in the plane; and a look."""
    page.get_by_role("link", name="Open Garden show under the lime tree").click()
    page.get_by_role("application").wait_for()
    page.get_by_role("button", name="New cast").click()
    page.keyboard.press("2")
    page.get_by_role("button", name="Add part").click()
    page.get_by_role("menuitem", name="Skin of a person").click()
    page.get_by_role("button", name="Person 3, from the left").click()
    page.get_by_role("radio", name="hatch").click()
    page.mouse.move(640, 20)
    shot(page, "people", 2500)
    page.get_by_role("radio", name="result").click()
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Add part").click()
    page.get_by_role("menuitem", name="Whole photo").click()
    page.keyboard.press("3")
    page.get_by_role("button", name="Take away neutralise").click()
    page.get_by_role("button", name="Add a remedy").click()
    page.get_by_role("list", name="Add a remedy").get_by_role("button", name="In the plane").click()
    page.wait_for_timeout(1200)
    page.get_by_role("button", name="Drag on photo").click()
    x, y = place(page, 95, 190)
    page.mouse.move(x, y)
    with page.expect_response("**/shaping"):
        page.mouse.down()
    page.wait_for_timeout(800)
    page.mouse.move(x + 150, y - 30, steps=6)
    page.mouse.up()
    page.keyboard.press("Escape")
    page.mouse.move(640, 20)
    shot(page, "plane", 2500)
    page.get_by_role("button", name="Take away in the plane").click()
    page.wait_for_timeout(600)
    page.get_by_role("button", name="Look none laid").click()
    page.get_by_role("button", name="Lime tree in October").click()
    page.wait_for_timeout(6000)
    page.mouse.move(640, 20)
    page.get_by_role("button", name="Save as .cube").click()
    shot(page, "looks", 4000)
    page.go_back()


def upright(page: Page) -> None:
    """A portrait-format photo: the station in use as a sheet, the casts folded to letters and dials."""
    page.get_by_role("link", name="Open Ripples on the white gown").click()
    page.get_by_role("application").wait_for()
    page.get_by_role("article", name="Finding").first.get_by_role("button", name="Adopt").click()
    page.get_by_role("complementary", name="Casts").get_by_role("button", name="fold").click()
    page.keyboard.press("3")
    page.mouse.move(640, 20)
    shot(page, "portrait", 3000)
    page.go_back()


def asked(page: Page) -> None:
    """The finder's question, as it is put over a shoot."""
    page.get_by_role("button", name="question").click()
    page.get_by_text("Which picture is right?").wait_for()
    page.mouse.move(640, 20)
    shot(page, "choice", 6000)
    page.keyboard.press("Escape")
    page.go_back()


def figures(page: Page) -> None:
    """All figures, and the pixels of one."""
    page.keyboard.press("Escape")
    page.keyboard.press("g")
    lines = page.get_by_test_id("all-figures")
    lines.get_by_role("row", name="Finder's field").wait_for()
    lines.get_by_role("row", name="Moved where tainted").first.get_by_role("button").click()
    page.mouse.move(640, 20)
    shot(page, "figures", 2000)
    piece(page, "proof")
    page.keyboard.press("g")


def find(page: Page) -> None:
    """What the finder says of the curtain scene, its map, and the base's bench."""
    page.get_by_role("application").wait_for()  # the contact sheet has a button of that name too
    page.get_by_role("button", name="Look for casts").click()
    page.get_by_role("article", name="Finding").first.hover()
    shot(page, "findings", 2500)
    piece(page, "find")
    page.get_by_role("button", name="map").click()
    page.mouse.move(640, 20)
    shot(page, "map", 2500)
    page.get_by_role("button", name="map").click()
    page.get_by_role("button", name="Base").click()
    page.get_by_label("Temperature, number").fill("5600")
    page.keyboard.press("Enter")
    page.get_by_label("Shadows, number").fill("25")
    page.keyboard.press("Enter")
    page.get_by_role("radio", name="Levels").click()
    page.mouse.move(640, 20)
    shot(page, "base", 2500)
    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
        page.wait_for_timeout(500)


def whole_shoot(page: Page) -> None:
    """A puppet followed through its series, and a colour over the set."""
    page.get_by_role("button", name="choose a shoot").click()
    page.get_by_role("menuitem", name="two series").click()
    page.get_by_role("button", name="Choose Away from the curtain 1", exact=True).click()
    last = page.get_by_role("button", name="Choose Away from the curtain 8", exact=True)
    last.click(modifiers=["Shift"])
    page.wait_for_timeout(1500)
    page.get_by_role("toolbar").get_by_role("button", name="Follow").click()
    page.get_by_role("dialog").get_by_role("button", name="Propose").click()
    page.get_by_role("button", name="Take all 7").wait_for()
    page.get_by_role("button", name="mask", exact=True).click()
    page.keyboard.press("Home")
    for _ in range(4):
        page.keyboard.press("ArrowDown")
    page.mouse.move(640, 20)
    shot(page, "series", 2500)
    page.go_back()
    page.get_by_role("button", name="Choose Away from the curtain 1", exact=True).click()
    last.click(modifiers=["Shift"])
    page.get_by_role("button", name="Agree on a colour").click()
    page.get_by_role("button", name="Pick in Away from the curtain 8").click()
    photo = page.get_by_role("button", name="Place on Away from the curtain 8")
    page.wait_for_timeout(1500)
    box = photo.bounding_box()
    assert box is not None
    x, y = (v / of for v, of in zip(CHEEK, (1200, 800), strict=True))
    page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])
    page.get_by_text("Mean distance").wait_for()
    page.mouse.move(640, 20)
    shot(page, "agree", 2500)


def main(address: str) -> None:
    with sync_playwright() as playwright:
        whole = "/usr/bin/chromium-headless-shell"  # whose letters are those that people see
        browser = playwright.chromium.launch(executable_path=whole, args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.get_by_role("button", name="Open the demo shoot").click()
        page.get_by_role("link", name="Open Curtain call").click()
        page.wait_for_timeout(1500)
        find(page)
        page.get_by_role("button", name="New cast").click()
        treat(page)
        page.get_by_role("radio", name="Scope").click()
        page.get_by_role("radio", name="mask", exact=True).click()
        page.keyboard.press("3")
        page.mouse.move(640, 20)
        shot(page, "work")
        piece(page, "remedy")
        zoned(page)
        figures(page)
        page.keyboard.press("3")
        page.keyboard.press("2")
        page.get_by_role("button", name="Add part").click()
        page.get_by_role("menuitem", name="Colour key").click()
        page.get_by_role("radio", name="hatch").click()
        page.mouse.move(640, 20)
        shot(page, "mask", 2500)
        piece(page, "key")
        page.get_by_role("button", name="Undo").click()
        compared(page)
        page.get_by_role("radio", name="result").click()
        page.wait_for_timeout(800)
        page.get_by_role("button", name="Deliver").click()
        page.get_by_role("button", name="Make the file").click()
        piece(page, "deliver", 2500)
        page.keyboard.press("Escape")
        page.get_by_role("link", name="Nubilis").click()
        page.get_by_role("button", name="Look for casts").click()
        page.get_by_text("Looking at").wait_for()
        page.get_by_role("button", name="Look for casts").wait_for()
        shot(page, "contact-sheet", 3000)
        piece(page, "shoot")
        asked(page)
        page.get_by_role("link", name="Guide").click()
        shot(page, "guide")
        page.go_back()
        page.get_by_role("link", name="References").click()
        shot(page, "references")
        page.go_back()
        shaped(page)
        upright(page)
        whole_shoot(page)
        account(page)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
