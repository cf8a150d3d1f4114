"""Files made for download."""

import uuid

from django.db import models

from shoots.models import Photo


class Delivery(models.Model):
    """One file at full size. Kept for a day; the photo and its recipe can make it again.

    unchanged: share of the pixels whose code values are exactly the original's, None when the depth
    differs or the format loses some.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    photo = models.ForeignKey(Photo, models.CASCADE, related_name="deliveries")
    revision = models.IntegerField()
    file_format = models.CharField(max_length=8)
    name = models.CharField(max_length=255)
    size_bytes = models.BigIntegerField()
    unchanged = models.FloatField(null=True)
    made = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name
