"""One choice instead of a guess, in the browser: seen treated, taken or not, over a whole shoot."""

from playwright.sync_api import expect

from core.tests.effort import long_tier
from shoots.models import Photo
from walks.tests.browser import BrowserCase, WorkScreen, saved_recipe

SNAPSHOT, POND = "Front-row snapshot", "Pond-side matinee"


class ChoiceCase(BrowserCase):
    photos = (SNAPSHOT, POND)

    def look(self, title: str) -> WorkScreen:
        screen = self.go_to(title)
        self.page.get_by_role("button", name="Look for casts").click()
        expect(self.page.get_by_role("button", name="Look again")).to_be_visible()
        return screen

    def put(self) -> None:
        self.page.get_by_role("button", name="treated").click()
        self.made()

    def made(self) -> None:
        expect(self.page.get_by_role("heading", name="Which picture is right?")).to_be_visible()
        expect(self.page.get_by_text("Being made")).to_have_count(0)

    def recipe(self, title: str) -> dict[str, object]:
        return dict(saved_recipe(Photo.objects.get(title=title).id))


class OnePhoto(ChoiceCase):
    def test_the_one_that_is_taken_becomes_the_treatment(self) -> None:
        screen = self.look(SNAPSHOT)
        self.put()
        answers = self.page.get_by_role("button", name="less ")
        self.assertGreaterEqual(answers.count(), 2)
        first = answers.first.locator("img").first
        treated = first.get_attribute("src")
        self.page.keyboard.down(" ")
        expect(first).not_to_have_attribute("src", str(treated))  # the photo as it came
        self.page.keyboard.up(" ")
        expect(first).to_have_attribute("src", str(treated))
        self.page.keyboard.press("2")
        expect(answers.nth(1)).to_have_attribute("aria-pressed", "true")
        self.page.keyboard.press("ArrowLeft")
        self.page.keyboard.press("Enter")
        screen.wait_saved()
        recipe = self.recipe(SNAPSHOT)
        (cast,) = recipe["casts"]  # type: ignore[misc]
        self.assertTrue(recipe["answered"])
        self.assertEqual(cast["remedies"][0]["amount"], 1.0)
        self.assertGreaterEqual(len(cast["pairs"]), 2)
        screen.wait_proved_better()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("group", name="A question")).to_be_visible()

    @long_tier
    def test_none_is_remembered(self) -> None:
        screen = self.look(SNAPSHOT)
        self.put()
        self.page.get_by_role("button", name="None of these").click()
        screen.wait_saved()
        recipe = self.recipe(SNAPSHOT)
        self.assertEqual((recipe["casts"], recipe["answered"]), ([], True))
        self.page.get_by_role("button", name="Look again").click()
        expect(self.page.get_by_role("button", name="Look again")).to_be_visible()
        expect(self.page.get_by_role("group", name="A question")).to_have_count(0)

    @long_tier
    def test_not_now_leaves_it_open(self) -> None:
        self.look(SNAPSHOT)
        self.put()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("heading", name="Which picture is right?")).to_have_count(0)
        expect(self.page.get_by_role("group", name="A question")).to_be_visible()
        self.assertEqual(Photo.objects.get(title=SNAPSHOT).revision, 0)


@long_tier
class WholeShoot(ChoiceCase):
    def test_one_after_another_a_key_each(self) -> None:
        self.open_demo()
        self.page.get_by_role("button", name="Look for casts").click()
        self.page.get_by_role("button", name="2 questions").click()
        self.made()
        expect(self.page.get_by_text("1 more photo asks.")).to_be_visible()
        self.page.keyboard.press("1")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("more photo asks.")).to_have_count(0)
        self.made()
        self.page.keyboard.press("0")
        expect(self.page.get_by_role("article")).to_have_count(2)
        expect(self.page.get_by_role("button", name="question")).to_have_count(0)
        taken = [len(self.recipe(t)["casts"]) for t in (SNAPSHOT, POND)]  # type: ignore[arg-type]
        self.assertEqual(sorted(taken), [0, 1])
        self.assertTrue(all(self.recipe(t)["answered"] for t in (SNAPSHOT, POND)))
