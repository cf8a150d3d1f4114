"""The history of each photo's recipe."""

from typing import Self

from django.conf import settings
from django.db import models

from config.collations import EACH_LETTER
from config.database import again_when_deadlocked, if_there_is_room
from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_recipe
from shoots.models import Photo

LONGEST_NAME = 80


class Revision(models.Model):
    """One state of a photo's recipe. Revisions are only ever added: undo adds one that says what an
    earlier one said.

    undo_to, redo_to: numbers of the revisions whose recipe undoing and redoing give back (0 is the
    resting recipe); figures: the casts' dials for the contact sheet, once computed; words: what it changed,
    once told; key: by which whoever saved it knows it again.
    """

    photo = models.ForeignKey(Photo, models.CASCADE, related_name="revisions")
    number = models.IntegerField()
    document = models.TextField()
    undo_to = models.IntegerField(null=True)
    redo_to = models.IntegerField(null=True)
    figures = models.JSONField(null=True)
    words = models.JSONField(null=True)
    key = models.CharField(max_length=40, blank=True)
    made = models.DateTimeField(auto_now_add=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)

    class Meta:
        ordering = ["photo", "number"]
        constraints = [
            models.UniqueConstraint(fields=["photo", "number"], name="one_number_per_photo")
        ]

    def __str__(self) -> str:
        return f"{self.photo_id} revision {self.number}"

    @property
    def recipe(self) -> Recipe:
        return read_recipe(self.document)


class Version(models.Model):
    """A state of a photo's recipe, kept under a name."""

    photo = models.ForeignKey(Photo, models.CASCADE, related_name="versions")
    name = models.CharField(max_length=LONGEST_NAME, db_collation=EACH_LETTER)
    document = models.TextField()
    made = models.DateTimeField(auto_now_add=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)

    class Meta:
        ordering = ["photo", "made", "id"]

    def __str__(self) -> str:
        return self.name

    @property
    def recipe(self) -> Recipe:
        return read_recipe(self.document)


class KeptSurvey(models.Model):
    """What the last look for casts at a photo saw. document: services.findings.Surveyed; masks: grey PNGs in
    base64, by the ids of the findings."""

    photo = models.OneToOneField(Photo, models.CASCADE, related_name="survey")
    document = models.TextField()
    masks = models.JSONField(default=dict)
    made = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"survey of photo {self.photo_id}"


class Kept(models.Model):
    """What was made of a photo last. state: fingerprint of all that it depends on."""

    photo = models.OneToOneField(Photo, models.CASCADE, related_name="%(class)s")
    state = models.CharField(max_length=64)
    made = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True

    def __str__(self) -> str:
        return f"{self._meta.verbose_name} of photo {self.photo_id}"

    @classmethod
    def of(cls, photo: Photo, state: str) -> Self | None:
        return cls._default_manager.filter(photo=photo, state=state).first()

    @classmethod
    @again_when_deadlocked
    def keep(cls, photo: Photo, state: str, **made: object) -> None:
        """Only while the photo is there: it may have been removed meanwhile."""
        if not Photo.objects.filter(id=photo.id).exists():
            return
        row = {"state": state, **made}
        with if_there_is_room():
            cls._default_manager.update_or_create(photo=photo, defaults=row)


class KeptCard(Kept):
    """What the contact sheet says of a photo: studio.services.cards.Card."""

    document = models.JSONField()


class ToCheck(models.Model):
    """That somebody should look at a treatment that came about without anybody looking; as long as the photo
    stands at that revision. why: in a few words."""

    photo = models.OneToOneField(Photo, models.CASCADE, related_name="to_check")
    revision = models.IntegerField()
    why = models.CharField(max_length=200)

    def __str__(self) -> str:
        return f"{self.why}: photo {self.photo_id}"

    @classmethod
    @again_when_deadlocked
    def say(cls, photo: Photo, revision: int, why: str) -> None:
        told = {"revision": revision, "why": why[:200]}
        cls._default_manager.update_or_create(photo=photo, defaults=told)


class KeptSheet(Kept):
    """The proof of a photo with its small pictures."""

    document = models.TextField()


class KeptPeople(Kept):
    """The faces found in a photo, and whose body is where: nubilis.people.people, as bytes; and the skin of
    each where it is best lit: nubilis.people.places.LitSkin. No face is ever compared with another's to tell
    who it is."""

    data = models.BinaryField()
    skins = models.JSONField(default=list)


class KeptPaper(Kept):
    """The same, printed."""

    pdf = models.BinaryField()
