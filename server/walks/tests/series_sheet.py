"""The sheet of a series whose first frame is treated."""

import re
from pathlib import Path
from typing import ClassVar

import cv2
import numpy as np
from django.conf import settings
from playwright.sync_api import Locator, expect

from shoots.models import Photo
from walks.tests.browser import PATIENCE, BrowserCase

_MATTE = re.compile("show=matte")
CURTAIN = settings.ROOT / "bench/bursts/burst-curtain"


def true_mask(number: int) -> Path:
    return CURTAIN / f"frame-{number:02d}" / "subject.png"


class SeriesCase(BrowserCase):
    """Of the first frames of the curtain's series."""

    frames: ClassVar[int] = 4
    photos: ClassVar[tuple[str, ...] | None] = tuple(
        f"Away from the curtain {i}" for i in range(1, 5)
    )

    def setUp(self) -> None:
        super().setUp()
        self.rows = list(self.shoot.photos.all())
        self.open_demo()

    def tile(self, number: int) -> Locator:
        return self.page.get_by_role("article").filter(has_text=f"curtain {number}")

    def choose(self, number: int, *keys: str) -> None:
        button = self.page.get_by_role("button", name=f"Choose Away from the curtain {number}")
        button.click(modifiers=list(keys))  # type: ignore[arg-type]

    def choose_all(self) -> None:
        self.choose(1)
        self.choose(self.frames, "Shift")
        expect(self.bar.get_by_text(f"{self.frames} chosen")).to_be_visible()

    @property
    def bar(self) -> Locator:
        return self.page.get_by_role("toolbar", name="With the chosen photos")

    def follow(self) -> None:
        """The casts of the first through all; until that is proposed."""
        self.choose_all()
        self.bar.get_by_role("button", name="Follow").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Propose").click()
        expect(self.page.get_by_role("button", name=f"Take all {self.frames - 1}")).to_be_visible(
            timeout=PATIENCE
        )

    def shown_mask(self) -> np.ndarray:
        """The matte that the stage shows, at the photo's size."""
        self.page.get_by_role("button", name="matte").click()
        image = self.page.locator("main img[data-shown=true]")
        expect(image).to_have_attribute("src", _MATTE)
        data = self.page.request.get(self.live_server_url + str(image.get_attribute("src"))).body()
        matte = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_GRAYSCALE)
        return np.asarray(cv2.resize(matte, (1200, 800))) > 127

    def agrees(self, number: int) -> float:
        """Intersection over union of the shown mask with the true one."""
        truth = cv2.imread(str(true_mask(number)), cv2.IMREAD_GRAYSCALE) > 127
        shown = self.shown_mask()
        return float((shown & truth).sum() / (shown | truth).sum())

    def revision(self, number: int) -> int:
        return Photo.objects.get(id=self.rows[number - 1].id).revision
