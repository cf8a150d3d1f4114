"""Lines for whoever runs the server."""

from accounts.models import Noted


def note(person: str, what: str, address: str = "") -> None:
    Noted.objects.create(person=person[:150], what=what[:200], address=address)
