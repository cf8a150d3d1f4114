"""In which browsers a person is signed in."""

import hashlib
import re

from django.db.models import QuerySet
from django.utils import timezone

from accounts.models import SignedIn, User
from config.errors import Missing

_BROWSERS = (("Edg/", "Edge"), ("OPR/", "Opera"), ("Firefox/", "Firefox"), ("Chrome/", "Chromium"),
             ("Safari/", "Safari"))  # fmt: skip
_SYSTEMS = (("iPhone|iPad", "iOS"), ("Android", "Android"), ("Windows", "Windows"),
            ("Mac OS X", "macOS"), ("Linux", "Linux"))  # fmt: skip


def browser_of(agent: str) -> str:
    """In two words, as far as it can be told."""
    name = next((told for sign, told in _BROWSERS if sign in agent), "A browser")
    system = next((told for sign, told in _SYSTEMS if re.search(sign, agent)), "")
    return f"{name} on {system}" if system else name


def signed_in(user: User) -> QuerySet[SignedIn]:
    """The latest first."""
    return SignedIn.objects.filter(person=user, expire_date__gt=timezone.now()).order_by("-seen")


def public_id(key: str) -> str:
    """A session's key is a secret; this is not."""
    return hashlib.sha256(key.encode()).hexdigest()[:16]


def end(user: User, public: str) -> None:
    """Raises Missing."""
    key = next((s.pk for s in signed_in(user) if public_id(s.pk) == public), None)
    if key is None:
        raise Missing
    SignedIn.objects.filter(pk=key).delete()


def end_all(user: User, but: str | None = None) -> None:
    """but: the key of the one that goes on."""
    SignedIn.objects.filter(person=user).exclude(pk=but).delete()
