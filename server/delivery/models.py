"""Files that were made to be fetched."""

import uuid

from django.conf import settings
from django.db import models

from config.collations import EACH_LETTER
from shoots.models import Photo


class Delivery(models.Model):
    """A full-size file, or one that goes beside it, kept for a while; the photo and its recipe can make it
    again.

    stem, tail: its name without, and from, what tells the files of one photo apart; unchanged: share of the
    pixels whose code values are exactly the original's, None where that has no meaning; notes: what the file
    has no place for.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    photo = models.ForeignKey(Photo, models.CASCADE, related_name="deliveries")
    revision = models.IntegerField()
    stem = models.CharField(max_length=200)
    tail = models.CharField(max_length=40)
    size_bytes = models.BigIntegerField()
    unchanged = models.FloatField(null=True)
    notes = models.JSONField(default=list)
    made = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name

    @property
    def name(self) -> str:
        return self.stem + self.tail

    @property
    def ending(self) -> str:
        return self.tail[self.tail.rindex(".") :]

    @property
    def stored_as(self) -> str:
        return f"deliveries/{self.id}{self.ending}"


class Preset(models.Model):
    """What a person wants of deliveries, under a name. document: services.order.Order."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="presets")
    name = models.CharField(max_length=60, db_collation=EACH_LETTER)
    document = models.JSONField()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "name"], name="one_preset_of_a_name")
        ]

    def __str__(self) -> str:
        return self.name
