"""The colour keys that a person keeps."""

from django.conf import settings
from django.db import models

from config.collations import EACH_LETTER
from nubilis.mask.named_key import LONGEST_NAME, NamedKey


class KeptKey(models.Model):
    """document: the key as JSON."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="keys")
    name = models.CharField(max_length=LONGEST_NAME, db_collation=EACH_LETTER)
    document = models.TextField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["made", "id"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_key_of_a_name")]

    def __str__(self) -> str:
        return self.name

    @property
    def key(self) -> NamedKey:
        return NamedKey.model_validate_json(self.document)
