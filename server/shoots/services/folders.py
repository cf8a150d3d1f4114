"""Folders of the server's machine that are one person's."""

from accounts.models import User
from nubilis.deliver.names import safe


def own_folder(person: User) -> str:
    """Nobody else's: where two names would make one, a number tells them apart; names have no spaces."""
    name = safe(person.username)
    return name if name == person.username else f"{name} {person.id}"
