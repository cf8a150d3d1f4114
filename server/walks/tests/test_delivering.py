"""What is wanted of files: said in the dialogue, tried on a name, kept for the next time."""

import io
from pathlib import Path
from zipfile import ZipFile

from django.conf import settings
from PIL import Image
from playwright.sync_api import expect

from core.tests.effort import long_tier

from .browser import PATIENCE, BrowserCase


class Delivering(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.open_demo()
        self.go_to("Curtain call")
        self.page.get_by_role("button", name="Deliver").click()
        self.dialog = self.page.get_by_role("dialog", name="Deliver")

    def test_a_small_jpeg_with_proof_and_recipe_beside_it(self) -> None:
        dialog = self.dialog
        dialog.get_by_role("radio", name="JPEG", exact=True).click()
        dialog.get_by_label("At most, kB").fill("60")
        dialog.get_by_label("Long edge").fill("700")
        dialog.get_by_label("Metadata").select_option("none")
        dialog.get_by_label("Recipe").check()
        for form in ("page", "JSON", "CSV"):
            dialog.get_by_label(form, exact=True).check()
        names = dialog.get_by_label("Names", exact=True)
        names.fill("{shoot}/{number:3}")
        expect(dialog.get_by_text("such as ")).to_contain_text("-001")
        with self.page.expect_download(timeout=PATIENCE) as told:
            dialog.get_by_role("button", name="Make the files").click()
        packed = ZipFile(Path(told.value.path()))
        stems = {n.split(".")[0].removesuffix("-proof") for n in packed.namelist()}
        self.assertEqual(len(stems), 1)
        endings = sorted(n.rpartition(".")[2] for n in packed.namelist())
        self.assertEqual(endings, ["csv", "html", "jpg", "json", "json"])
        (jpeg,) = (packed.read(n) for n in packed.namelist() if n.endswith(".jpg"))
        self.assertLessEqual(len(jpeg), 60_000)
        self.assertEqual(max(Image.open(io.BytesIO(jpeg)).size), 700)
        expect(dialog.get_by_text("with 4 beside it")).to_be_visible()

    @long_tier
    def test_a_pattern_that_makes_no_sense_is_told_and_not_taken(self) -> None:
        names = self.dialog.get_by_label("Names", exact=True)
        names.fill("{nmae}")
        expect(self.dialog.get_by_text("{nmae} is no field")).to_be_visible()
        expect(names).to_have_attribute("aria-invalid", "true")
        self.dialog.get_by_role("button", name="title").click()
        names.fill("")
        self.dialog.get_by_role("button", name="title").click()
        expect(self.dialog.get_by_text("such as Curtain call")).to_be_visible()

    @long_tier
    def test_an_order_is_kept_under_a_name_and_taken_again(self) -> None:
        dialog = self.dialog
        dialog.get_by_role("radio", name="TIFF, 16 bit").click()
        dialog.get_by_label("Masks").select_option("png16")
        dialog.get_by_label("Keep this order as").fill("Printer")
        dialog.get_by_role("button", name="Keep", exact=True).click()
        expect(dialog.get_by_role("button", name="Forget")).to_be_visible()
        self.page.reload()
        self.page.get_by_role("button", name="Deliver").click()
        expect(dialog.get_by_label("Masks")).to_have_value("")
        dialog.get_by_label("Kept orders").select_option("Printer")
        expect(dialog.get_by_label("Masks")).to_have_value("png16")
        expect(dialog.get_by_role("radio", name="TIFF, 16 bit")).to_be_checked()
        dialog.get_by_role("button", name="Forget").click()
        expect(dialog.get_by_label("Kept orders")).to_have_count(0)

    @long_tier
    def test_into_a_folder_of_the_server_where_nothing_is_overwritten(self) -> None:
        dialog = self.dialog
        dialog.get_by_label("Into").select_option("folder")
        for count in (1, 2):
            dialog.get_by_role("button", name="Make").last.click()
            expect(dialog.get_by_text("nubilis.png in demo/")).to_be_visible(timeout=PATIENCE)
            made = sorted(p.name for p in Path(settings.FOLDER_OUT).rglob("*.png"))
            self.assertEqual(len(made), count)
            dialog.get_by_role("radio", name="PNG, 16 bit").click()
            dialog.get_by_role("radio", name="PNG, 8 bit").click()
        self.assertTrue(made[0].endswith("-nubilis-2.png"), made)
