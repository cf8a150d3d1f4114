"""Shoots and their photos."""

from django.conf import settings
from django.db import models


class Shoot(models.Model):
    """Photos that belong together, of one owner. removed: when it was deleted, after which it can be had back
    for a while; going: when it was first found to have been so for long enough."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shoots")
    name = models.CharField(max_length=120)
    made = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True)
    going = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made", "-id"]

    def __str__(self) -> str:
        return self.name


class Share(models.Model):
    """That somebody other than its owner may see a shoot, or work on it."""

    class May(models.TextChoices):
        SEE = "see"
        WORK = "work"

    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="shares")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="shared")
    may = models.CharField(max_length=4, choices=May.choices)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shoot", "person"], name="shared_once")]

    def __str__(self) -> str:
        return f"{self.shoot} with {self.person}: {self.may}"


class Present(models.Manager["Photo"]):
    """Photos that are not in the bin."""

    def get_queryset(self) -> models.QuerySet["Photo"]:
        return super().get_queryset().filter(removed=None)


class Photo(models.Model):
    """One photo of a shoot. Its file is stored once by content_hash (SHA-256) and never changed.

    revision: the number of its recipe's current revision, 0 while it has none; notes: what reading it
    found, as sentences; shot: when its camera says that it was taken; removed: when it was put into the bin;
    going: when it was first found to have been there for long enough;
    delivered: the revision that was last delivered; preview: its small picture is what its camera made of
    it, until it is developed.
    """

    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="photos")
    title = models.CharField(max_length=200)
    caption = models.TextField(blank=True)
    file_name = models.CharField(max_length=255)
    content_hash = models.CharField(max_length=64, db_index=True)
    size_bytes = models.BigIntegerField()
    width = models.IntegerField()
    height = models.IntegerField()
    file_format = models.CharField(max_length=8)
    bits = models.SmallIntegerField()
    profile = models.CharField(max_length=200)
    notes = models.JSONField(default=list)
    added = models.DateTimeField(auto_now_add=True)
    revision = models.IntegerField(default=0)
    shot = models.DateTimeField(null=True)
    removed = models.DateTimeField(null=True)
    going = models.DateTimeField(null=True)
    preview = models.BooleanField(default=False)
    delivered = models.IntegerField(null=True)

    objects = Present()
    everywhere = models.Manager["Photo"]()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["shoot", "content_hash"], name="once_per_shoot")
        ]

    def __str__(self) -> str:
        return self.title


class Refusal(models.Model):
    """A file that a shoot did not take, and why; kept until somebody has read it."""

    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="refusals")
    file_name = models.CharField(max_length=255)
    reason = models.CharField(max_length=500)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made", "-id"]

    def __str__(self) -> str:
        return f"{self.file_name}: {self.reason}"


class Stored(models.Model):
    """A file that is kept once by its content (SHA-256), as long as somebody has a use for it.

    kind: a photo's original, or what recipes refer to; there: whether the file is kept. Rows stay when it is
    not any more: who holds a row holds the file, and one that comes and goes cannot be held.
    """

    class Kind(models.TextChoices):
        ORIGINAL = "original"
        ASSET = "asset"

    kind = models.CharField(max_length=8, choices=Kind.choices)
    sha256 = models.CharField(max_length=64)
    size_bytes = models.BigIntegerField()
    there = models.BooleanField(default=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["kind", "sha256"], name="stored_once")]

    def __str__(self) -> str:
        return f"{self.kind} {self.sha256[:8]}"


class Use(models.Model):
    """That somebody needs a file: a photo, with the states of its recipe, or a person, for what they keep.

    One of the two is always null; the database cannot insist, since cascades set nulls on the way.
    """

    stored = models.ForeignKey(Stored, models.CASCADE, related_name="uses")
    photo = models.ForeignKey(Photo, models.CASCADE, related_name="uses", null=True)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.CASCADE, related_name="uses", null=True
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["stored", "photo"], name="used_once")]

    def __str__(self) -> str:
        user = f"photo {self.photo_id}" if self.photo_id else f"person {self.owner_id}"
        return f"{self.stored} by {user}"
