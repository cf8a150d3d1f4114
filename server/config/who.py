"""Who asks: somebody who is signed in, by a password of their own."""

from typing import Any

from django.http import HttpRequest
from ninja.security import SessionAuth

from config.errors import Refused

TO_CHANGE = "Please choose a password of your own first"


class Known(SessionAuth):
    """Signed in, by whatever password."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return request.user if request.user.is_authenticated else None


class WithOwnPassword(Known):
    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        user = super().authenticate(request, key)
        if user is not None and user.to_change:
            raise Refused(TO_CHANGE, 403)
        return user


known, with_own_password = Known(), WithOwnPassword()
