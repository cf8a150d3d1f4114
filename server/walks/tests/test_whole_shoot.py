"""The contact sheet of a real shoot: chosen, filtered, treated, followed, agreed, taken back."""

import numpy as np
from playwright.sync_api import expect

from core.tests.effort import long_tier
from jobs.models import Job
from nubilis.colour.profile import srgb
from nubilis.photo.picture import Photo as Decoded
from nubilis.photo.write import write_photo
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo
from studio.models import Revision, ToCheck
from studio.services.save_recipe import current
from walks.tests.browser import PATIENCE, BrowserCase
from walks.tests.series_sheet import SeriesCase


class Choosing(SeriesCase):
    def test_clicks_ranges_and_a_rectangle(self) -> None:
        expect(self.page).to_have_title(f"{self.shoot.name} · Nubilis")
        self.choose(2)
        expect(self.bar.get_by_text("1 chosen")).to_be_visible()
        self.choose(4, "Shift")
        expect(self.bar.get_by_text("3 chosen")).to_be_visible()
        self.choose(3, "Control")
        expect(self.bar.get_by_text("2 chosen")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.bar).to_have_count(0)
        one, two = (self.tile(i).bounding_box() for i in (1, 2))
        assert one and two
        self.page.mouse.move(one["x"] + 20, one["y"] + 20)
        self.page.mouse.down()
        self.page.mouse.move(two["x"] + 20, two["y"] + 40, steps=5)
        self.page.mouse.up()
        expect(self.bar.get_by_text("2 chosen")).to_be_visible()
        self.bar.get_by_role("button", name="Choose all 4").click()
        expect(self.bar.get_by_text("4 chosen")).to_be_visible()

    def test_states_words_and_order(self) -> None:
        row = self.rows[3]
        ToCheck.objects.create(photo=row, revision=0, why="Shapes keep their place")
        self.page.reload()
        tabs = self.page.get_by_role("group", name="Which photos")
        tabs.get_by_role("button", name="Treated 1").click()
        expect(self.page.get_by_role("article")).to_have_count(1)
        tabs.get_by_role("button", name="Needs a look 1").click()
        expect(self.tile(4).get_by_text("check this")).to_be_visible()
        self.choose(4)
        self.bar.get_by_role("button", name="They are right").click()
        expect(tabs.get_by_role("button", name="Needs a look 0")).to_be_visible()
        tabs.get_by_role("button", name="All 4").click()
        self.page.get_by_label("Words in names and captions").fill("curtain red")
        expect(self.page.get_by_role("article")).to_have_count(1)  # the cast is called so
        self.page.get_by_label("Words in names and captions").fill("")
        self.page.get_by_label("Order").select_option("by state")
        titles = self.page.get_by_role("article").get_by_role("link").all_inner_texts()
        self.assertIn("curtain 1", titles[-1])

    @long_tier
    def test_photos_are_looked_at_delivered_and_moved(self) -> None:
        other = Shoot.objects.create(owner=self.demo_user(), name="Evening")
        Shoot.objects.filter(id=other.id).update(made="2020-01-01T00:00:00Z")
        self.choose(1)
        self.choose(2, "Shift")
        self.bar.get_by_role("button", name="Look for casts").click()
        looks = Job.objects.filter(kind="look", state="done", parent=None)
        self.until(lambda: self.assertEqual(looks.count(), 1))
        self.assertEqual(looks.get().arguments["photos"], self.ids(1, 2))
        self.bar.get_by_role("button", name="Deliver").click()
        dialog = self.page.get_by_role("dialog", name="Deliver 2 photos")
        dialog.get_by_role("radio", name="AVIF, 8 bit").click()
        dialog.get_by_label("Long edge").fill("400")
        dialog.get_by_role("button", name="Make the files").click()
        files = self.bar.get_by_role("link", name="2 files")
        expect(files).to_be_visible(timeout=PATIENCE)
        zipped = self.page.request.get(self.live_server_url + str(files.get_attribute("href")))
        self.assertEqual(zipped.body()[:2], b"PK")
        tabs = self.page.get_by_role("group", name="Which photos")
        expect(tabs.get_by_role("button", name="Delivered 2")).to_be_visible()
        self.bar.get_by_role("button", name="Move", exact=True).click()
        self.page.get_by_role("menuitem", name="Evening").click()
        expect(self.page.get_by_role("article")).to_have_count(2)
        self.assertEqual(list(other.photos.values_list("id", flat=True)), self.ids(1, 2))

    def ids(self, *numbers: int) -> list[int]:
        return [self.rows[n - 1].id for n in numbers]

    @long_tier
    def test_proved_together(self) -> None:
        self.choose_all()
        self.bar.get_by_role("button", name="Prove").click()
        proof = self.bar.get_by_role("link", name="The proof")
        expect(proof).to_be_visible(timeout=PATIENCE)
        page = self.page.request.get(self.live_server_url + str(proof.get_attribute("href")))
        self.assertIn("Away from the curtain 1", page.text())


class Following(SeriesCase):
    def setUp(self) -> None:
        super().setUp()
        self.follow()

    def test_followed_corrected_taken_and_taken_back(self) -> None:
        page = self.page
        page.keyboard.press("End")
        expect(page.get_by_text("4 of 4")).to_be_visible()
        self.assertGreater(self.agrees(4), 0.85)
        self.assertEqual(self.revision(4), 0)
        before = self.shown_mask()
        # By hand: a stroke beside the head is added.
        page.get_by_role("button", name="Add to the mask").click()
        canvas = page.get_by_label("The mask, to be painted on")
        box = canvas.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.3)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5, steps=4)
        page.mouse.up()
        row = page.get_by_label("What is proposed").get_by_role("listitem").nth(3)
        expect(row.get_by_text("by hand", exact=True)).to_be_visible()
        after = self.shown_mask()
        self.assertGreater(after.sum(), before.sum() + 3000)
        self.assertTrue(after[400, 600])
        page.get_by_role("button", name="Follow anew by what was corrected").click()
        expect(page.get_by_role("button", name="Take all 3")).to_be_visible(timeout=PATIENCE)
        self.until(lambda: np.testing.assert_array_equal(self.shown_mask(), after))
        page.get_by_role("button", name="Take all 3").click()
        expect(page.get_by_text("3 photos changed.")).to_be_visible()
        self.assertEqual([self.revision(i) for i in (1, 2, 3, 4)], [1, 1, 1, 1])
        page.get_by_role("button", name="Take all 3 back").click()
        expect(page.get_by_text("Taken back on 3 photos.")).to_be_visible()
        self.assertEqual(current(self.fresh(4)).recipe.casts, ())
        self.assertEqual(self.revision(1), 1)

    def fresh(self, number: int) -> Photo:
        return Photo.objects.get(id=self.rows[number - 1].id)

    @long_tier
    def test_one_alone_and_each_undone_by_itself(self) -> None:
        page = self.page
        page.get_by_role("button", name="Take Away from the curtain 3").click()
        expect(page.get_by_text("1 photo changed.")).to_be_visible()
        self.assertEqual([self.revision(i) for i in (2, 3, 4)], [0, 1, 0])
        page.get_by_role("link", name="Away from the curtain").last.click()
        page.get_by_role("link", name="two series").or_(page.locator("header")).first.wait_for()
        self.go_to("Away from the curtain 3")
        page.keyboard.press("Control+z")
        self.until(lambda: self.assertEqual(self.revision(3), 2))
        self.assertEqual(current(self.fresh(3)).recipe.casts, ())

    @long_tier
    def test_without_a_pointer(self) -> None:
        page = self.page
        page.keyboard.press("Home")
        expect(page.get_by_text("1 of 4")).to_be_visible()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        expect(page.get_by_text("3 of 4")).to_be_visible()
        page.get_by_role("button", name="Take all 3").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_text("3 photos changed.")).to_be_visible()

    @long_tier
    def test_played_through(self) -> None:
        self.page.keyboard.press("Home")
        self.page.get_by_role("button", name="Play through").click()
        expect(self.page.get_by_text("4 of 4")).to_be_visible()
        expect(self.page.get_by_role("button", name="Play through")).to_be_visible()

    @long_tier
    def test_it_is_there_after_a_reload(self) -> None:
        self.page.reload()
        expect(self.page.get_by_role("button", name="Take all 3")).to_be_visible()


class Treating(SeriesCase):
    def test_what_was_found_is_adopted_on_each(self) -> None:
        self.choose_all()
        self.bar.get_by_role("button", name="Treat what was found").click()
        dialog = self.page.get_by_role("dialog", name="Treat what was found")
        dialog.get_by_label("At least so sure, number").fill("10")
        self.page.keyboard.press("Enter")
        dialog.get_by_role("button", name="Propose").click()
        listed = self.page.get_by_label("What is proposed").get_by_role("listitem")
        expect(listed).to_have_count(4, timeout=PATIENCE)
        taken = self.page.get_by_role("button", name="Take all")
        expect(taken.or_(self.page.get_by_text("Nothing").first)).to_be_visible(timeout=PATIENCE)
        self.assertEqual(Revision.objects.count(), 1)  # the first frame's own

    @long_tier
    def test_carried_over_with_shapes_that_stay(self) -> None:
        self.choose_all()
        self.bar.get_by_role("button", name="Treat as Away from the curtain 1").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Propose").click()
        expect(self.page.get_by_role("button", name="Take all 3")).to_be_visible(timeout=PATIENCE)
        listed = self.page.get_by_label("What is proposed").get_by_role("listitem")
        expect(listed.get_by_text("check this")).to_have_count(3)
        self.page.get_by_role("button", name="Take all 3").click()
        expect(self.page.get_by_text("3 photos changed.")).to_be_visible()
        self.page.get_by_role("link", name="two series").click()
        expect(self.page.get_by_role("button", name="Needs a look 3")).to_be_visible()


class Agreeing(SeriesCase):
    def pick(self, number: int, x: float, y: float) -> None:
        place = self.page.get_by_role("button", name=f"Place on Away from the curtain {number}")
        place.get_by_role("img").or_(place.locator("img")).first.wait_for()
        box = place.bounding_box()
        assert box is not None
        self.page.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)

    def test_one_colour_over_the_set_and_an_outlier_levelled(self) -> None:
        page = self.page
        self.choose_all()
        self.bar.get_by_role("button", name="Agree on a colour").click()
        expect(page.get_by_text("4 photos", exact=True)).to_be_visible()
        page.get_by_role("button", name="Pick in Away from the curtain 4").click()
        self.pick(4, 490 / 1200, 480 / 800)  # the coat where it is clean
        expect(page.get_by_text("found in 4 of 4")).to_be_visible(timeout=PATIENCE)
        card = page.get_by_role("article").filter(has_text="curtain 2")
        # On the second frame, where the curtain lights it.
        card.get_by_role("button", name="It is elsewhere").click()
        self.pick(2, 344 / 1200, 468 / 800)
        expect(card.get_by_text("off the rest")).to_be_visible()
        self.until(lambda: self.assertGreater(self.distance(2), 12.0))
        was = self.distance(2)
        card.get_by_role("button", name="Level").click()
        expect(card.get_by_role("button", name="Undo")).to_be_visible(timeout=PATIENCE)
        self.until(lambda: self.assertLess(self.distance(2), 0.6 * was))
        cast = current(Photo.objects.get(id=self.rows[1].id)).recipe.casts[0]
        self.assertIn("Level with", cast.name)
        card.get_by_role("button", name="Undo").click()
        self.until(lambda: self.assertAlmostEqual(self.distance(2), was, delta=0.2))

    def distance(self, number: int) -> float:
        """Of a photo now, as its card says."""
        card = self.page.get_by_role("article").filter(has_text=f"curtain {number}")
        return float(card.get_by_text(" → ").inner_text().split(" → ")[1])

    @long_tier
    def test_a_place_can_be_pointed_at_by_key(self) -> None:
        page = self.page
        self.choose_all()
        self.bar.get_by_role("button", name="Agree on a colour").click()
        page.get_by_role("button", name="Mid grey").click()
        expect(page.get_by_text("found in")).to_be_visible(timeout=PATIENCE)
        card = page.get_by_role("article").filter(has_text="curtain 2")
        card.get_by_role("button").last.click()
        place = page.get_by_role("button", name="Place on Away from the curtain 2")
        place.focus()
        for _ in range(3):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Enter")
        expect(place).to_have_count(0)
        expect(card.get_by_text(" → ")).to_be_visible()


@long_tier
class Hundreds(BrowserCase):
    """Three hundred photos, landscape and portrait."""

    def setUp(self) -> None:
        super().setUp()
        many = Shoot.objects.create(owner=self.demo_user(), name="A whole tour")
        rng = np.random.default_rng(2)
        path = self.folder / "one.png"
        for i in range(300):
            shape = (60, 40, 3) if i % 4 == 0 else (40, 60, 3)
            codes = rng.integers(60, 200, shape).astype(np.uint8)
            write_photo(path, Decoded(codes, srgb()), "png")
            add_photo(many, path, f"{'matinee' if i < 100 else 'shot'} {i + 1:03d}.png")
        self.many = many
        self.open()

    def open(self) -> None:
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Open the demo shoot").click()
        expect(self.page.get_by_role("button", name="All 300")).to_be_visible()

    def test_only_what_is_seen_is_drawn_and_all_is_reached_by_key(self) -> None:
        page = self.page
        articles = page.get_by_role("article")
        self.assertLess(articles.count(), 60)
        page.get_by_role("button", name="Choose matinee 001").focus()
        page.keyboard.press("End")
        last = page.get_by_role("button", name="Choose shot 300")
        expect(last).to_be_focused()
        self.assertLess(articles.count(), 60)
        page.keyboard.press("Space")
        page.keyboard.press("Shift+ArrowUp")
        bar = page.get_by_role("toolbar")
        expect(bar).to_contain_text("chosen")
        page.keyboard.press("Control+a")
        expect(bar).to_contain_text("300 chosen")
        page.keyboard.press("Escape")
        expect(bar).to_have_count(0)
        page.keyboard.press("Home")
        expect(page.get_by_role("button", name="Choose matinee 001")).to_be_focused()
        page.keyboard.press("Delete")
        page.get_by_role("alertdialog").get_by_role("button", name="Remove").press("Enter")
        expect(page.get_by_role("button", name="All 299")).to_be_visible()
        self.assertEqual(self.many.photos.count(), 299)

    def test_filtered_and_removed_together(self) -> None:
        page = self.page
        page.get_by_label("Words in names and captions").fill("matinee")
        expect(page.get_by_role("button", name="All 100")).to_be_visible()
        page.get_by_role("button", name="Choose matinee 001").click()
        page.get_by_role("button", name="Choose all 100").click()
        page.get_by_role("toolbar").get_by_role("button", name="Remove").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("Remove 100 photos")
        dialog.get_by_role("button", name="Remove").click()
        expect(dialog).to_have_count(0)
        page.get_by_label("Words in names and captions").fill("")
        expect(page.get_by_role("button", name="All 200")).to_be_visible()
        expect(page.get_by_role("button", name="Bin 100")).to_be_visible()
