"""Treatments of several photos at once, as they would be, before anything is saved."""

import uuid

from django.conf import settings
from django.db import models

from nubilis.recipe.document import Recipe
from nubilis.recipe.files import read_recipe
from shoots.models import Photo, Shoot


class Batch(models.Model):
    """What is proposed for a selection. arguments: how it was asked for; source: the photo whose casts are
    carried to the others."""

    class Kind(models.TextChoices):
        ADOPT = "adopt"
        CARRY = "carry"
        FOLLOW = "follow"
        LEVEL = "level"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="batches")
    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="batches")
    source = models.ForeignKey(Photo, models.CASCADE, null=True, related_name="+")
    kind = models.CharField(max_length=8, choices=Kind.choices)
    arguments = models.JSONField(default=dict)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made"]

    def __str__(self) -> str:
        return f"{self.kind} {self.id}"


class Proposal(models.Model):
    """One photo's treatment, as proposed.

    revision: of the photo, that it was made on; document: the whole recipe, empty when there is nothing to
    propose; before, after: of its strongest new cast, CIEDE2000; confidence: 0..1; to_check: whether somebody
    should look; note: why there is nothing, or what to know; key: a frame whose mask was given by hand;
    corrected: here; taken: the revision that it became; undone: whether that was taken back with the rest.
    """

    batch = models.ForeignKey(Batch, models.CASCADE, related_name="proposals")
    photo = models.ForeignKey(Photo, models.CASCADE, related_name="+")
    place = models.IntegerField()
    revision = models.IntegerField()
    document = models.TextField(blank=True)
    before = models.FloatField(null=True)
    after = models.FloatField(null=True)
    confidence = models.FloatField(default=1.0)
    to_check = models.BooleanField(default=False)
    note = models.CharField(max_length=300, blank=True)
    key = models.BooleanField(default=False)
    corrected = models.BooleanField(default=False)
    taken = models.IntegerField(null=True)
    undone = models.BooleanField(default=False)

    class Meta:
        ordering = ["batch", "place"]
        constraints = [models.UniqueConstraint(fields=["batch", "photo"], name="once_per_batch")]

    def __str__(self) -> str:
        return f"proposal for photo {self.photo_id}"

    @property
    def recipe(self) -> Recipe:
        return read_recipe(self.document)
