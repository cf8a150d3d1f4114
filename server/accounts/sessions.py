"""Sessions in the database, each of which knows whose it is: so they can be listed, and ended."""

import hmac
from datetime import datetime, timedelta
from typing import Any

from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.base import VALID_KEY_CHARS
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore
from django.utils import timezone
from django.utils.crypto import get_random_string, salted_hmac

from accounts.models import SignedIn
from config.database import if_there_is_room

BROWSER, ADDRESS, MADE = "browser", "address", "made"  # what signing in notes
SEEN_EVERY = timedelta(minutes=5)
CHANCE, MARK = (
    20,
    20,
)  # characters of a key: 100 bits of chance, and 80 of what tells it from a made-up one


def is_of_ours(key: str) -> bool:
    """Whether this installation gave it to somebody, once: known without asking the database. Whose it is,
    and whether it still counts, is not."""
    return len(key) == CHANCE + MARK and hmac.compare_digest(_mark(key[:CHANCE]), key[CHANCE:])


def _mark(chance: str) -> str:
    return salted_hmac("accounts.sessions", chance, algorithm="sha256").hexdigest()[:MARK]


class SessionStore(DatabaseStore):
    """Django's, with columns beside."""

    @classmethod
    def get_model_class(cls) -> type[SignedIn]:
        return SignedIn

    def _get_new_session_key(self) -> str:
        chance = get_random_string(CHANCE, VALID_KEY_CHARS)
        return chance + _mark(chance)

    def create_model_instance(self, data: dict[str, Any]) -> SignedIn:
        row = super().create_model_instance(data)
        assert isinstance(row, SignedIn)
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        row.browser, row.address = data.get(BROWSER, ""), data.get(ADDRESS, "")
        row.made = datetime.fromisoformat(data[MADE]) if MADE in data else timezone.now()
        return row

    def _get_session_from_db(self) -> Any:
        row = super()._get_session_from_db()  # type: ignore[misc]
        if row is not None and timezone.now() - row.seen > SEEN_EVERY:
            with if_there_is_room():
                SignedIn.objects.filter(pk=row.pk).update(seen=timezone.now())
        return row
