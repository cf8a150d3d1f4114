"""Photos of one's own: dropped many at a time, treated, and delivered with their metadata."""

import io

import numpy as np
from django.conf import settings
from PIL import Image
from playwright.sync_api import expect

from core.tests.effort import long_tier
from nubilis.colour.profile import srgb_icc
from shoots.models import Photo
from walks.tests.browser import PATIENCE, BrowserCase


def own_jpeg() -> bytes:
    """A grey wall, bluish at the left, with a profile and a word in its EXIF."""
    rng = np.random.default_rng(3)
    wall = np.full((400, 640, 3), 150.0) + rng.normal(0, 2, (400, 640, 1))
    wall[:, :300] *= (0.90, 0.97, 1.12)
    exif = Image.Exif()
    exif[0x010E] = "Foyer wall"
    out = io.BytesIO()
    image = Image.fromarray(wall.astype(np.uint8))
    image.save(out, "JPEG", quality=97, subsampling=0, exif=exif, icc_profile=srgb_icc())
    return out.getvalue()


class OwnPhotos(BrowserCase):
    photos = None

    def setUp(self) -> None:
        super().setUp()
        (self.folder / "foyer.jpg").write_bytes(own_jpeg())
        (self.folder / "diary.jpg").write_text("Dear diary")
        (self.folder / "cut.jpg").write_bytes(own_jpeg()[:20000])

    def test_many_at_once_each_with_its_own_fate(self) -> None:
        self.open_demo()
        known = settings.ROOT / "demo/photos/d4-canopy.png"
        files = [self.folder / n for n in ("foyer.jpg", "diary.jpg", "cut.jpg")]
        self.page.get_by_label("Photos to add").set_input_files([*files, known])
        panel = self.page.get_by_role("region", name="Files being added")
        for words in (
            "not a picture that can be read",
            "its end is missing",
            "already in this shoot",
        ):
            expect(panel).to_contain_text(words)
        expect(panel.get_by_role("listitem").filter(has_text="foyer.jpg")).to_contain_text("added")
        expect(self.page.get_by_role("article")).to_have_count(10)
        expect(panel).to_contain_text("already in this shoot as Garden show")
        panel.get_by_role("button", name="Clear finished").click()
        expect(panel).to_have_count(0)
        # The reasons can be read later, also after a reload.
        self.page.reload()
        self.page.get_by_role("button", name="2 refused").click()
        dialog = self.page.get_by_role("dialog", name="Refused files")
        expect(dialog).to_contain_text("diary.jpg")
        expect(dialog).to_contain_text("its end is missing")
        dialog.get_by_role("button", name="I have read them").click()
        expect(self.page.get_by_role("button", name="2 refused")).to_have_count(0)

    @long_tier
    def test_dropped_on_the_page(self) -> None:
        self.open_demo()
        data = list(own_jpeg())
        transfer = self.page.evaluate_handle(
            """data => { const t = new DataTransfer();
               t.items.add(new File([new Uint8Array(data)], 'dropped.jpg')); return t; }""",
            data,
        )
        self.page.dispatch_event("main", "dragover", {"dataTransfer": transfer})
        expect(self.page.get_by_text("Drop to add to")).to_be_visible()
        self.page.dispatch_event("main", "drop", {"dataTransfer": transfer})
        expect(self.page.get_by_role("article").filter(has_text="dropped")).to_be_visible()

    @long_tier
    def test_made_neutral_and_delivered_with_its_metadata(self) -> None:
        self.open_demo()
        self.page.get_by_label("Photos to add").set_input_files(self.folder / "foyer.jpg")
        screen = self.open_photo("foyer")
        screen.click(100, 200)
        expect(screen.page.get_by_text("needs a reference")).to_be_visible()
        screen.page.get_by_role("button", name="Neutral", exact=True).click()
        expect(screen.page.get_by_text("neutral", exact=True)).to_be_visible()
        screen.stroke((60, 100), (140, 200), (60, 300))
        expect(screen.page.get_by_role("button", name="Blue cast")).to_be_visible(timeout=PATIENCE)
        _, photo = screen.deliver("JPEG")
        codes = photo.codes.astype(int)
        original = np.asarray(Image.open(io.BytesIO(own_jpeg()))).astype(int)
        spot, far = np.s_[190:210, 110:130], np.s_[:, 400:]
        spreads = [np.ptp(c[spot].mean(axis=(0, 1))) for c in (original, codes)]
        self.assertLess(spreads[1], 0.25 * spreads[0])
        self.assertLess(np.abs(codes - original)[far].max(), 8)
        self.assertEqual(photo.profile.icc, srgb_icc())
        assert photo.metadata.exif is not None
        self.assertIn(b"Foyer wall", photo.metadata.exif)

    @long_tier
    def test_a_shoot_of_one_s_own(self) -> None:
        self.open_demo()
        self.page.get_by_role("button", name="New shoot").click()
        self.page.get_by_label("Name of the new shoot").fill("Foyer")
        self.page.get_by_role("button", name="Make shoot").click()
        expect(self.page.get_by_text("No photos yet")).to_be_visible()
        self.page.get_by_label("Photos to add").set_input_files(self.folder / "foyer.jpg")
        card = self.page.get_by_role("article")
        expect(card).to_have_count(1)
        card.get_by_role("button", name="Choose foyer").click()
        self.page.get_by_role("toolbar").get_by_role("button", name="Remove").click()
        self.page.get_by_role("alertdialog").get_by_role("button", name="Remove").click()
        expect(self.page.get_by_text("No photos any more")).to_be_visible()
        self.assertEqual(Photo.objects.filter(shoot__name="Foyer").count(), 0)
        self.page.get_by_role("button", name="Bin 1").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Put all back").click()
        expect(card).to_have_count(1)
        card.get_by_role("button", name="Choose foyer").click()
        self.page.keyboard.press("Delete")
        self.page.get_by_role("alertdialog").get_by_role("button", name="Remove").click()
        self.page.get_by_role("button", name="Bin 1").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Empty…").click()
        dialog.get_by_role("button", name="Empty the bin").click()
        expect(self.page.get_by_text("No photos yet")).to_be_visible()
        self.page.get_by_role("button", name="Foyer").click()
        self.page.get_by_role("menuitem", name="spring tour").click()
        expect(self.page.get_by_role("article")).to_have_count(9)
