"""Requests as the API's functions get them: of a person who is signed in."""

from django.http import HttpRequest

from accounts.models import User


class Request(HttpRequest):
    """The API lets nobody else in (config.api); what strangers may ask takes a plain HttpRequest."""

    user: User
