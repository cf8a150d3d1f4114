"""Who uses Nubilis, and who tried to."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class User(AbstractUser):
    """A person with shoots of their own. quota_mb: of originals, None for no bound."""

    quota_mb = models.IntegerField(null=True)


class FailedSignIn(models.Model):
    """A name and a password that did not match; kept as long as they count."""

    name = models.CharField(max_length=150, db_index=True)
    address = models.CharField(max_length=45, db_index=True)
    made = models.DateTimeField(auto_now_add=True, db_index=True)

    def __str__(self) -> str:
        return f"{self.name} from {self.address}"


class Noted(models.Model):
    """One line for whoever runs the server: who signed in, who removed what for good."""

    person = models.CharField(max_length=150)
    what = models.CharField(max_length=200)
    address = models.CharField(max_length=45, blank=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made", "-id"]

    def __str__(self) -> str:
        return f"{self.made:%Y-%m-%d %H:%M:%S} {self.person}: {self.what}"
