"""A real browser on the real application: headless Chromium, no network but the loopback."""

import atexit
import json
import os
import shutil
import time
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any, ClassVar

import imagecodecs
import numpy as np
from django.conf import settings
from django.test import LiveServerTestCase, override_settings
from playwright.sync_api import Browser, ConsoleMessage, Download, Page, expect, sync_playwright

from accounts.models import User
from config.tests.cases import own_storage
from jobs.models import OPEN, Job
from jobs.runner import threads
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.read import read_photo
from shoots.services.demo import make_demo

# Playwright keeps an event loop in this thread, in which Django would refuse to use the database.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--no-first-run",
]  # fmt: skip
CHROMIUM = "/usr/bin/chromium-headless-shell"  # the whole browser draws its own frame all the time
PATIENCE = 120_000  # ms: a slow machine may be busy with other tests
# An expectation is met when it is met; how fast is for the benchmarks, and this machine may be busy.
expect.set_options(timeout=PATIENCE)


DEMO_USER = 1  # the same in every test, so that what engines know of a photo is found out once


@cache
def chromium() -> Browser:
    """One for all tests of this process; each has its own contexts."""
    playwright = sync_playwright().start()
    browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)

    def close() -> None:
        browser.close()
        playwright.stop()

    atexit.register(close)
    return browser


class BrowserCase(LiveServerTestCase):
    """Each test has the demo shoot, a page, and storage of its own. photos: those of the shoot that it
    needs, by title; None: all of them."""

    photos: ClassVar[tuple[str, ...] | None] = ("Curtain call", "Pond-side matinee")
    # What Django makes anew after each test otherwise (permissions, types of content) nobody asks for.
    available_apps = list(settings.INSTALLED_APPS)

    def setUp(self) -> None:
        for setting in (own_storage(), override_settings(DEMO=True)):
            setting.enable()
            self.addCleanup(setting.disable)
        self.folder = Path(settings.ORIGINALS).parent
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.addCleanup(self.end_work)
        self.shoot = make_demo(self.photos, id=DEMO_USER)
        self.complaints: list[str] = []
        self.page = self.new_page()
        self.addCleanup(lambda: self.assertEqual(self.complaints, []))

    def end_work(self) -> None:
        """What is under way belongs to this test."""
        Job.objects.filter(state__in=OPEN).update(cancelled=True)
        threads.stop()

    def new_page(self, width: int = 1760, height: int = 960) -> Page:
        """Wide enough for all stations at once, unless told otherwise."""
        context = chromium().new_context(viewport={"width": width, "height": height})
        context.set_default_timeout(PATIENCE)
        self.addCleanup(context.close)
        page = context.new_page()
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("console", self._listen)
        return page

    def _listen(self, said: ConsoleMessage) -> None:
        """A page that wants what its policy forbids is a fault, though it shows only here."""
        if "Content Security Policy" in said.text:
            self.complaints.append(said.text)

    def open_demo(self, page: Page | None = None) -> None:
        page = page or self.page
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Open the demo shoot").click()
        expect(page.get_by_role("article")).to_have_count(self.shoot.photos.count())

    def go_to(self, title: str, page: Page | None = None) -> "WorkScreen":
        """Signed in and straight to a photo, for tests of what is done there."""
        page = page or self.page
        self.sign_in_as(page, self.demo_user())
        page.goto(f"{self.live_server_url}/photos/{self.shoot.photos.get(title=title).id}")
        return WorkScreen(page)

    def sign_in_as(self, page: Page, user: User) -> None:
        self.client.force_login(user)
        session = self.client.cookies[settings.SESSION_COOKIE_NAME].value
        page.context.add_cookies(
            [{"name": settings.SESSION_COOKIE_NAME, "value": session, "url": self.live_server_url}]
        )

    def open_photo(self, title: str, page: Page | None = None) -> "WorkScreen":
        page = page or self.page
        page.get_by_role("link", name=f"Open {title}").click()
        return WorkScreen(page)

    def until(self, check: Callable[[], None]) -> None:
        """Check again and again until it holds, as `expect` does, for what is no locator."""
        given_up = time.monotonic() + PATIENCE / 1000
        while True:
            try:
                return check()
            except AssertionError:
                if time.monotonic() > given_up:
                    raise
            self.page.wait_for_timeout(50)

    def close_dialog(self) -> None:
        """By key; what it named may be found by a loose name until it has gone."""
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def demo_user(self) -> User:
        return User.objects.get(username="demo")


class WorkScreen:
    """The open photo: clicks in photo pixels, reads pixels back."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.photo = page.get_by_role("application", name="The photo.")
        expect(self.photo).to_be_visible()
        self.wait_painted()
        text = page.get_by_text("bit PNG").or_(page.get_by_text("bit JPEG")).first.inner_text()
        width, height = text.split(",")[0].split(" × ")
        self.width, self.height = int(width), int(height)

    def wait_painted(self) -> None:
        self.page.wait_for_function(
            """() => { const photo = document.querySelector('[role=application]');
               return photo && photo.dataset.painted === photo.dataset.version; }""",
            timeout=PATIENCE,
        )

    def wait_saved(self) -> None:
        expect(self.page.get_by_test_id("save-state")).to_have_text("Saved", timeout=PATIENCE)
        self.wait_painted()

    def wait_proved(self) -> None:
        """Until the figures are of a treated cast."""
        self.page.wait_for_function(
            """() => { const text = document.querySelector('[data-testid=proof]').innerText;
               const found = /([\\d.]+) → ([\\d.]+)/.exec(text);
               return found && +found[2] < 0.4 * +found[1]; }""",
            timeout=PATIENCE,
        )

    def wait_proved_better(self) -> None:
        """Until the figures say that the cast has become smaller."""
        self.page.wait_for_function(
            """() => { const text = document.querySelector('[data-testid=proof]').innerText;
               const found = /([\\d.]+) → ([\\d.]+)/.exec(text);
               return found && +found[2] < 0.9 * +found[1]; }""",
            timeout=PATIENCE,
        )

    def at(self, x: float, y: float) -> tuple[float, float]:
        """Page coordinates of a place of the fitted photo."""
        box = self.photo.bounding_box()
        assert box is not None
        scale = min((box["width"] - 28) / self.width, (box["height"] - 28) / self.height, 1.0)
        return (
            box["x"] + box["width"] / 2 + (x + 0.5 - self.width / 2) * scale,
            box["y"] + box["height"] / 2 + (y + 0.5 - self.height / 2) * scale,
        )

    def click(self, x: float, y: float) -> None:
        self.page.mouse.move(*self.at(x, y))
        self.page.mouse.down()
        self.page.mouse.up()

    def stroke(self, *points: tuple[float, float]) -> None:
        self.page.mouse.move(*self.at(*points[0]))
        self.page.mouse.down()
        for point in points[1:]:
            self.page.mouse.move(*self.at(*point), steps=5)
        self.page.mouse.up()
        self.wait_saved()

    def add_remedy(self, kind: str) -> None:
        """Out of the chooser in the station, where it is the newest of the list then."""
        listed = self.page.get_by_role("list", name="Remedies").get_by_role("listitem")
        before = listed.count()
        self.page.get_by_role("button", name="Add a remedy").click()
        chooser = self.page.get_by_role("list", name="Add a remedy")
        chooser.get_by_role("button", name=kind).first.click()
        expect(listed).to_have_count(before + 1)
        self.wait_saved()

    def sample_pair(
        self,
        tainted: tuple[float, float],
        reference: tuple[float, float],
        *,
        painted: bool = True,
    ) -> None:
        tool = self.page.get_by_role("button", name="Tainted")
        if tool.get_attribute("aria-pressed") == "false":
            tool.click()
        self.click(*tainted)
        expect(self.page.get_by_text("needs a reference")).to_be_visible()
        self.click(*reference)
        expect(self.page.get_by_text("needs a reference")).to_have_count(0)
        if painted:
            self.wait_saved()

    def pixel(self, x: float, y: float) -> np.ndarray:
        """What the screen shows at a place, the mean of 5 x 5."""
        px, py = self.at(x, y)
        box = self.photo.bounding_box()
        assert box is not None
        values = self.page.evaluate(
            """([x, y]) => { const canvas = document.querySelector('[role=application] canvas');
               return [...canvas.getContext('2d').getImageData(x - 2, y - 2, 5, 5).data]; }""",
            [round(px - box["x"]), round(py - box["y"])],
        )
        return np.array(values).reshape(-1, 4)[:, :3].mean(axis=0)

    def seen(self, x: float, y: float) -> np.ndarray:
        """The same of everything that lies there, as the eye has it."""
        return self.seen_at(*self.at(x, y))

    def seen_at(self, x: float, y: float) -> np.ndarray:
        """At page coordinates."""
        clip = {"x": round(x) - 2, "y": round(y) - 2, "width": 5, "height": 5}
        png = imagecodecs.png_decode(self.page.screenshot(clip=clip))  # type: ignore[arg-type]
        return np.asarray(png[..., :3].reshape(-1, 3).mean(axis=0))

    def distances(self) -> tuple[float, float]:
        """ΔE to the reference, before and now, as the proof says."""
        row = self.page.get_by_test_id("proof").get_by_role("row", name="Distance to reference")
        before, now = row.get_by_role("cell").inner_text().split(" → ")
        return float(before), float(now)

    def deliver(self, label: str) -> tuple[Download, Decoded]:
        self.page.get_by_role("button", name="Deliver").click()
        dialog = self.page.get_by_role("dialog")
        named = self.page.get_by_text(label, exact=True)
        dialog.get_by_role("radio").filter(has=named).click()
        with self.page.expect_download() as info:
            dialog.get_by_role("button", name="Make the file").click()
        photo = read_photo(Path(info.value.path()))
        self.page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)
        return info.value, photo


def saved_recipe(photo_id: int) -> dict[str, Any]:
    """The newest document of a photo, from the database."""
    from studio.models import Revision

    return dict(json.loads(Revision.objects.filter(photo=photo_id).latest("number").document))
