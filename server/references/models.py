"""The colours that a person keeps."""

from django.conf import settings
from django.db import models

from config.collations import EACH_LETTER
from nubilis.library.reference import LONGEST_NAME, Group, Reference
from shoots.models import Shoot


class KeptReference(models.Model):
    """A reference of one owner, for every shoot or for one. lightness, a, b: CIELAB D50."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="references")
    shoot = models.ForeignKey(Shoot, models.CASCADE, related_name="references", null=True)
    name = models.CharField(max_length=LONGEST_NAME, db_collation=EACH_LETTER)
    group = models.CharField(max_length=8)
    lightness = models.FloatField()
    a = models.FloatField()
    b = models.FloatField()
    note = models.CharField(max_length=200, blank=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["group", "made", "id"]

    def __str__(self) -> str:
        return self.name

    @property
    def reference(self) -> Reference:
        group: Group = self.group  # type: ignore[assignment]
        lab = (self.lightness, self.a, self.b)
        return Reference(name=self.name, group=group, lab=lab, note=self.note)
