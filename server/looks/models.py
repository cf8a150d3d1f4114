"""The looks that a person keeps."""

from django.conf import settings
from django.db import models

from config.collations import EACH_LETTER
from nubilis.recipe.asset import LONGEST_NAME, TableFile
from shoots.models import Use


class KeptLook(models.Model):
    """A .cube table under a name; use: what holds its file."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="looks")
    name = models.CharField(max_length=LONGEST_NAME, db_collation=EACH_LETTER)
    use = models.OneToOneField(Use, models.CASCADE, related_name="look")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["made", "id"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_look_of_a_name")]

    def __str__(self) -> str:
        return self.name

    @property
    def table(self) -> TableFile:
        return TableFile(sha256=self.use.stored.sha256, name=self.name)
