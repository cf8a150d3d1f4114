"""Remedies in a browser: added, chosen, set, put elsewhere, taken away; and casts to begin with."""

from typing import Any

from playwright.sync_api import Locator, expect

from nubilis.mask.brush import Brush, Stroke
from nubilis.mask.combine import AnyPart, Mask
from nubilis.planning import sample_at
from nubilis.recipe.document import Cast, Pair, Recipe
from nubilis.remedy.kinds import AnyRemedy
from shoots.models import Photo
from studio.engines import engines
from studio.services.save_recipe import save_recipe
from walks.tests.browser import BrowserCase, WorkScreen, saved_recipe

Point = tuple[float, float]


def painted(row: Photo, *ways: tuple[Point, ...], size: float = 0.12) -> Brush:
    """A mask painted along ways of pixels."""
    edge = max(row.width, row.height)
    strokes = tuple(
        Stroke(size=size, feather=0.3, points=tuple(((x / edge, y / edge), 1.0) for x, y in way))
        for way in ways
    )
    return Brush(id="brush", strokes=strokes)


def begin(
    row: Photo,
    *parts: AnyPart,
    pair: tuple[Point, Point] | None = None,
    remedies: tuple[AnyRemedy, ...] = (),
) -> None:
    """Save one cast. pair: a tainted place and its reference, pixels."""
    pairs: tuple[Pair, ...] = ()
    if pair:
        tainted, reference = (sample_at(engines.get(row), place) for place in pair)
        pairs = (Pair(id="pair", tainted=tainted, reference=reference),)
    cast = Cast(id="cast", pairs=pairs, mask=Mask(parts=parts), remedies=remedies)
    save_recipe(row, row.revision, Recipe(casts=(cast,)), row.shoot.owner)


class RemedyCase(BrowserCase):
    """The station of remedies on an open photo."""

    screen: WorkScreen
    row: Photo

    def work_on(self, title: str) -> None:
        self.row = self.shoot.photos.get(title=title)

    def open(self) -> None:
        self.screen = self.go_to(self.row.title)
        self.page.keyboard.press("3")

    @property
    def listed(self) -> Locator:
        return self.page.get_by_role("list", name="Remedies")

    def add(self, kind: str) -> None:
        self.screen.add_remedy(kind)

    def choose(self, kind: str) -> Locator:
        row = self.listed.get_by_role("button", name=kind).first
        row.click()
        return row

    def delete(self, kind: str) -> None:
        self.choose(kind)
        self.page.get_by_role("button", name=f"Take away {kind.lower()}").click()
        self.screen.wait_saved()

    def set(self, label: str, value: str) -> None:
        field = self.page.get_by_label(f"{label}, number", exact=True)
        field.fill(value)
        field.press("Enter")
        self.screen.wait_saved()

    def remedies(self) -> list[dict[str, Any]]:
        self.screen.wait_saved()
        return list(saved_recipe(self.row.id)["casts"][0]["remedies"])

    def kinds(self) -> list[str]:
        return [r["kind"] for r in self.remedies()]

    def take(self, tool: str, place: Point) -> None:
        """A colour of the photo for a remedy: its target, or its tone."""
        button = self.page.get_by_role("button", name=f"Sample {tool}")
        button.click()
        self.screen.click(*place)
        expect(button).to_have_attribute("aria-pressed", "false")
        self.screen.wait_saved()
