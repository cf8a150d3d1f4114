"""Accounts, passwords and shared shoots on the screen."""

from playwright.sync_api import Page, expect

from accounts.models import User
from core.tests.effort import long_tier
from jobs.models import Job
from shoots.models import Share, Shoot

from .browser import BrowserCase


class AccountWalk(BrowserCase):
    photos = ("Curtain call",)

    def setUp(self) -> None:
        super().setUp()
        self.owner = self.demo_user()
        self.owner.is_superuser = True
        self.owner.save(update_fields=["is_superuser"])

    def sign_in(self, page: Page, name: str, password: str) -> None:
        page.goto(self.live_server_url)
        page.get_by_label("Name", exact=True).fill(name)
        page.get_by_label("Password", exact=True).fill(password)
        page.get_by_role("button", name="Sign in").click()

    def to_account(self) -> None:
        self.open_demo()
        self.page.get_by_role("button", name="Room").click()
        self.page.get_by_role("menuitem", name="Account").click()
        # What comes moves what stands below it.
        expect(self.page.get_by_role("row", name=", you")).to_be_visible()

    def choose(self, page: Page, old: str, new: str, button: str) -> None:
        page.get_by_label("Present password").fill(old)
        page.get_by_label("New password").fill(new)
        page.get_by_role("button", name=button).click()

    def test_a_person_is_let_in_and_chooses_a_password(self) -> None:
        self.to_account()
        page = self.page
        page.get_by_label("Name of the new account").fill("fenn")
        page.get_by_role("button", name="Make account").click()
        password = page.get_by_role("status").locator("code").inner_text()
        expect(page.get_by_role("row", name="fenn")).to_contain_text("not yet")
        expect(page.get_by_label("Noted")).to_contain_text("made the account fenn")

        other = self.new_page()
        self.sign_in(other, "fenn", password)
        expect(other.get_by_role("heading", name="Welcome, fenn")).to_be_visible()
        self.choose(other, "wrong", "glue and gold leaf", "Choose it and begin")
        expect(other.get_by_role("alert")).to_contain_text("does not match")
        self.choose(other, password, "glue and gold leaf", "Choose it and begin")
        expect(other.get_by_text("Name the first one")).to_be_visible()

        # Who may not sign in any more is out at once.
        page.get_by_label("fenn may sign in").uncheck()
        expect(page.get_by_label("Noted")).to_contain_text("fenn may not sign in now")
        other.reload()
        expect(other.get_by_role("button", name="Sign in")).to_be_visible()

    @long_tier
    def test_browsers_are_signed_out_one_by_one(self) -> None:
        self.to_account()
        other = self.new_page()
        self.open_demo(other)
        self.page.reload()
        rows = self.page.get_by_role("list", name="Browsers that are signed in").get_by_role(
            "listitem"
        )
        expect(rows).to_have_count(2)
        expect(rows.filter(has_text="this one")).to_have_count(1)
        self.page.get_by_role("button", name="Sign it out").click()
        expect(rows).to_have_count(1)
        other.reload()
        expect(other.get_by_role("button", name="Open the demo shoot")).to_be_visible()

    @long_tier
    def test_the_last_who_looks_after_accounts_stays(self) -> None:
        self.to_account()
        mark = self.page.get_by_label("demo looks after accounts")
        mark.click()
        expect(self.page.get_by_role("alert")).to_contain_text("make another owner first")
        expect(mark).to_be_checked()

    @long_tier
    def test_an_account_is_deleted_and_given_back(self) -> None:
        guest = User.objects.create_user("fenn", password="glue and gold leaf")
        Shoot.objects.create(owner=guest, name="Matinee")
        self.to_account()
        page = self.page
        row = page.get_by_role("row", name="fenn")
        page.get_by_role("button", name="Delete the account fenn").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("0 photos.")
        dialog.get_by_role("button", name="Delete account").click()
        expect(row).to_contain_text("deleted")
        self.until(lambda: self.assertFalse(User.objects.get(id=guest.id).is_active))
        row.get_by_role("button", name="Restore").click()
        expect(row).not_to_contain_text("deleted")
        self.until(lambda: self.assertTrue(User.objects.get(id=guest.id).is_active))

        other = self.new_page()
        self.sign_in(other, "fenn", "glue and gold leaf")
        expect(other.get_by_role("banner")).to_contain_text("Matinee")
        other.goto(f"{self.live_server_url}/account")
        other.get_by_role("button", name="Delete my account").click()
        asked = other.get_by_role("alertdialog")
        asked.get_by_label("Your password").fill("wrong")
        asked.get_by_role("button", name="Delete account").click()
        expect(asked.get_by_role("alert")).to_have_text("The password is wrong.")
        asked.get_by_label("Your password").fill("glue and gold leaf")
        asked.get_by_role("button", name="Delete account").click()
        expect(other.get_by_role("button", name="Sign in")).to_be_visible()


class DeletedWalk(BrowserCase):
    photos = ("Curtain call",)

    def test_a_shoot_is_deleted_and_had_back(self) -> None:
        self.open_demo()
        page = self.page
        page.get_by_role("button", name="choose a shoot").click()
        page.get_by_role("menuitem", name="Delete this shoot").click()
        dialog = page.get_by_role("alertdialog")
        expect(dialog).to_contain_text("1 photo,")
        dialog.get_by_role("button", name="Delete shoot").click()
        expect(page.get_by_text("Name the first one")).to_be_visible()
        page.get_by_role("button", name="Deleted shoots").click()
        page.get_by_role("button", name="Restore").click()
        expect(page.get_by_text("Curtain call")).to_be_visible()
        self.assertIsNone(Shoot.objects.get().removed)


class SharedWalk(BrowserCase):
    photos = ("Curtain call",)

    def setUp(self) -> None:
        super().setUp()
        self.guest = User.objects.create_user("fenn", password="glue and gold leaf")

    def as_guest(self) -> Page:
        page = self.new_page()
        self.sign_in_as(page, self.guest)
        return page

    @long_tier
    def test_shared_from_the_sheet_and_ended_there(self) -> None:
        self.open_demo()
        page = self.page
        page.get_by_role("button", name="choose a shoot").click()
        page.get_by_role("menuitem", name="Share this shoot").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Name of an account").fill("nobody")
        dialog.get_by_role("button", name="Share", exact=True).click()
        expect(dialog.get_by_role("alert")).to_contain_text("no account called nobody")
        dialog.get_by_label("Name of an account").fill("fenn")
        dialog.get_by_role("button", name="Share", exact=True).click()
        shared = dialog.get_by_role("list", name="Shared with")
        expect(shared).to_contain_text("fenn")
        dialog.get_by_label("What fenn may do").select_option("work")
        self.until(lambda: self.assertEqual(Share.objects.get().may, "work"))
        running = Job.objects.create(
            owner=self.guest,
            kind="deliver-set",
            shoot=self.shoot,
            state="running",
            total=12,
            done=2,
        )
        at_work = dialog.get_by_role("list", name="Running now")
        expect(at_work).to_contain_text("fenn: Exporting photos")
        at_work.get_by_role("button", name="Stop fenn").click()
        expect(at_work).to_have_count(0)
        self.until(lambda: self.assertTrue(Job.objects.get(id=running.id).cancelled))
        dialog.get_by_role("button", name="End").click()
        expect(shared).to_contain_text("Nobody else sees it")
        self.assertFalse(Share.objects.exists())

    def test_whoever_looks_tries_everything_and_saves_nothing(self) -> None:
        photo = self.shoot.photos.get()
        Share.objects.create(shoot=self.shoot, person=self.guest, may="see")
        page = self.as_guest()
        page.goto(self.live_server_url)
        expect(page.get_by_text("Shared by demo to look at")).to_be_visible()
        expect(page.get_by_role("button", name="Add photos")).to_have_count(0)
        self.open_photo("Curtain call", page)
        casts = page.get_by_role("complementary", name="Casts").get_by_role("article")
        there = casts.count()
        expect(page.get_by_text("try what you like")).to_be_visible()
        expect(page.get_by_role("button", name="Deliver")).to_have_count(0)
        expect(page.get_by_test_id("save-state")).to_have_text("Nothing is saved")
        page.get_by_role("button", name="New cast").click()
        expect(casts).to_have_count(there + 1)
        page.get_by_role("button", name="As it is saved").click()
        expect(casts).to_have_count(there)
        photo.refresh_from_db()
        self.assertEqual(photo.revision, 0)

    @long_tier
    def test_whoever_works_saves_under_their_own_name(self) -> None:
        photo = self.shoot.photos.get()
        Share.objects.create(shoot=self.shoot, person=self.guest, may="work")
        page = self.as_guest()
        page.goto(f"{self.live_server_url}/photos/{photo.id}")
        page.get_by_role("button", name="New cast").click()
        expect(page.get_by_test_id("save-state")).to_have_text("Saved")
        self.until(lambda: self.assertEqual(photo.revisions.count(), 1))
        self.assertEqual(photo.revisions.get().author, self.guest)
