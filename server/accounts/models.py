"""Who uses Nubilis, and who tried to."""

from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models

from config.collations import EXACT


class User(AbstractUser):
    """A person with shoots of their own. is_superuser: an owner, who looks after the accounts; quota_mb: of
    originals, None for no bound; to_change: the password was given by an owner and is changed first;
    username: folded, as names are where they enter; removed: when the account was deleted, after which it can
    be had back for a while; going: when it was first found to have been so for long enough."""

    username = models.CharField(
        max_length=150,
        unique=True,
        validators=[AbstractUser.username_validator],
        db_collation=EXACT,
    )
    quota_mb = models.IntegerField(null=True)
    to_change = models.BooleanField(default=False)
    removed = models.DateTimeField(null=True)
    going = models.DateTimeField(null=True)


class SignedIn(AbstractBaseSession):
    """A browser in which somebody is signed in, until it expires or is ended. browser: what it says that it
    is, in two words; seen: about when it last asked for something."""

    person = models.ForeignKey(User, models.CASCADE, null=True, related_name="signed_in")
    browser = models.CharField(max_length=60, blank=True)
    address = models.CharField(max_length=45, blank=True)
    made = models.DateTimeField()
    seen = models.DateTimeField(auto_now=True)


class FailedSignIn(models.Model):
    """A name and a password that did not match; kept as long as they count."""

    name = models.CharField(max_length=150, db_index=True, db_collation=EXACT)
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
