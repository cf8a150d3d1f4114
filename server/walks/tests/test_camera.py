"""The camera's page: a folder that is watched, and a simulated camera on its cable."""

from typing import Any

from playwright.sync_api import expect

from config.tests.cases import recipe_document
from core.tests.effort import long_tier
from nubilis.recipe.document import Recipe
from shoots.models import Photo, Shoot
from studio.services.save_recipe import save_recipe
from tether.services.folder import TAKEN, folder_of
from tether.services.watch import Growth, look_once

from .browser import PATIENCE, BrowserCase


class Camera(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_demo()
        self.shoot = Shoot.objects.latest("made", "id")
        self.growth = Growth()

    def looked_again(self, check: Any) -> None:
        """The product's watcher runs in its web process; here each look is asked for."""
        self.until(lambda: (look_once(self.growth), check()))

    def test_what_is_shot_arrives_with_a_treatment_laid_on(self) -> None:
        page = self.page
        source = self.shoot.photos.get(title="Curtain call")
        save_recipe(source, 0, Recipe.model_validate(recipe_document()), self.shoot.owner)
        page.reload()
        page.get_by_role("link", name="Camera", exact=True).click()
        expect(page.get_by_text("Nothing has arrived yet")).to_be_visible()
        button = page.get_by_role("button", name="Press the button")
        expect(button).to_be_disabled()
        page.get_by_role("button", name="Watch it").click()
        treated = page.get_by_label("Laid on what arrives").locator("option").nth(1)
        title = str(treated.text_content()).removeprefix("the treatment of ").strip()
        page.get_by_label("Laid on what arrives").select_option(index=1)
        expect(button).to_be_enabled()
        button.click()
        expect(page.get_by_text("1 shot so far")).to_be_visible(timeout=PATIENCE)
        arrivals = page.get_by_role("region", name="Arrivals")

        def there() -> None:
            self.assertTrue(Photo.objects.filter(file_name="QW_0001.dng", preview=False).exists())

        self.looked_again(there)
        row = arrivals.get_by_role("listitem").filter(has_text="QW_0001.dng")
        expect(row).to_contain_text("taken in, treated", timeout=PATIENCE)
        picture = page.get_by_role("img", name="QW 0001")
        expect(picture).to_be_visible()
        self.until(lambda: self.assertGreater(picture.evaluate("i => i.naturalWidth"), 0))
        self.assertTrue((folder_of(self.shoot) / TAKEN / "QW_0001.dng").is_file())
        page.get_by_role("link", name="To the contact sheet").click()
        card = page.get_by_role("article").filter(has_text="QW 0001")
        expect(card).to_be_visible()
        photo = Photo.objects.get(file_name="QW_0001.dng")
        self.assertEqual(photo.to_check.why, f"Laid on from {title}")

    @long_tier
    def test_a_file_that_is_no_photo_is_told(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/shoots/{self.shoot.id}/camera")
        page.get_by_role("button", name="Watch it").click()
        expect(page.get_by_role("button", name="Stop watching")).to_be_visible()
        (folder_of(self.shoot) / "notes.txt").write_text("not a photo")
        row = page.get_by_role("region", name="Arrivals").get_by_role("listitem")
        self.looked_again(lambda: expect(row).to_contain_text("not a picture", timeout=1000))
        page.get_by_role("button", name="Stop watching").click()
        expect(page.get_by_role("button", name="Watch it")).to_be_visible()
