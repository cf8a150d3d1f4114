"""Accounts, which owners look after. There is always one owner who can sign in."""

from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Max, Sum
from django.utils import timezone

from accounts.models import User
from accounts.services.names import folded
from accounts.services.note import note
from accounts.services.passwords import given_password
from accounts.services.signed_in import end_all
from config.database import again_when_deadlocked
from config.errors import Missing, Refused

LAST_OWNER = "Somebody has to look after the accounts: make another owner first"


def everybody() -> list[User]:
    """With seen: when they were last here; kept: bytes of originals."""
    rows = User.objects.annotate(seen=Max("signed_in__seen")).order_by("username")
    kept = dict(User.objects.values_list("id").annotate(bytes=Sum("shoots__photos__size_bytes")))
    for row in rows:
        row.kept = kept.get(row.id) or 0  # type: ignore[attr-defined]
    return list(rows)


def make(name: str, owner: bool, by: User) -> tuple[User, str]:
    """An account, and its password to begin with. Raises Refused (409, 422)."""
    name = folded(name)
    try:
        User.username_validator(name)
    except ValidationError as error:
        raise Refused("A name has letters, digits and @ . + - _", 422) from error
    if User.objects.filter(username=name).exists():
        raise Refused(f"There is an account called {name} already", 409)
    user = User(username=name, is_superuser=owner)
    user.set_unusable_password()
    user.save()
    note(by.username, f"made the account {name}")
    return user, given_password(user, by)


def _locked(user_id: int, *, stays_owner: bool) -> User:
    """Within a transaction. Raises Missing, Refused (409)."""
    owners = list(User.objects.select_for_update().filter(is_superuser=True, is_active=True))
    user = User.objects.select_for_update().filter(id=user_id).first()
    if user is None:
        raise Missing
    if not stays_owner and [o.id for o in owners] == [user_id]:
        raise Refused(LAST_OWNER, 409)
    return user


@again_when_deadlocked
def remove(user_id: int, by: User) -> None:
    """Nobody signs in with it any more; an owner can give it back as long as what it holds is there. Raises
    Missing, Refused (409) when nobody would look after the accounts any more."""
    with transaction.atomic():
        user = _locked(user_id, stays_owner=False)
        user.is_active, user.removed = False, timezone.now()
        user.save(update_fields=["is_active", "removed"])
        end_all(user)
        note(by.username, f"deleted the account {user.username}")


@again_when_deadlocked
def change(user_id: int, by: User, *, owner: bool, active: bool, quota_mb: int | None) -> User:
    """Raises Missing, Refused (409) when nobody would look after the accounts any more."""
    with transaction.atomic():
        user = _locked(user_id, stays_owner=owner and active)
        told = [
            "is an owner" if owner else "is a member" if owner != user.is_superuser else "",
            ("may sign in" if active else "may not sign in") if active != user.is_active else "",
            "has another quota" if quota_mb != user.quota_mb else "",
        ]
        user.is_superuser, user.is_active, user.quota_mb = owner, active, quota_mb
        if active:
            user.removed = user.going = None
        user.save(update_fields=["is_superuser", "is_active", "quota_mb", "removed", "going"])
        if not active:
            end_all(user)
        for what in filter(None, told):
            note(by.username, f"{user.username} {what} now")
    return user
