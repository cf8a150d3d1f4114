"""Passwords: chosen by whom they are of, or given by an owner to begin with."""

import secrets

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from accounts.models import User
from accounts.services.note import note
from accounts.services.signed_in import end_all
from config.errors import Refused

# Three groups of four, told by voice without mistakes: 59 bits.
LETTERS, GROUPS, GROUP = "abcdefghjkmnpqrstuvwxyz23456789", 3, 4


def given_password(user: User, by: User) -> str:
    """A password to begin with, told once; every browser is signed out. Who gets it chooses another first."""
    groups = ("".join(secrets.choice(LETTERS) for _ in range(GROUP)) for _ in range(GROUPS))
    password = "-".join(groups)
    user.set_password(password)
    user.to_change = True
    user.save(update_fields=["password", "to_change"])
    end_all(user)
    note(by.username, f"gave {user.username} a password to begin with")
    return password


def choose_password(user: User, old: str, new: str) -> None:
    """Raises Refused (401, 422). Other browsers are signed out by it."""
    if not user.check_password(old):
        raise Refused("The present password does not match", 401)
    if new == old:
        raise Refused("Please choose another password than the present one", 422)
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), 422) from error
    user.set_password(new)
    user.to_change = False
    user.save(update_fields=["password", "to_change"])
    note(user.username, "changed the password")
