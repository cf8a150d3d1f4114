"""Requests as the API's functions get them: of a person who is signed in."""

from django.http import HttpRequest

from accounts.models import User
from config.errors import Refused


class Request(HttpRequest):
    """The API lets nobody else in (config.api); what strangers may ask takes a plain HttpRequest."""

    user: User


def numbers_of(text: str) -> set[int] | None:
    """Ids with commas between; None for no text. Raises Refused (422)."""
    try:
        return {int(v) for v in text.split(",")} if text else None
    except ValueError as error:
        raise Refused("photos: numbers with commas between", 422) from error
