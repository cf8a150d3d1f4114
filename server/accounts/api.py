"""Signing in and out."""

from typing import Annotated

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from ninja.utils import check_csrf
from pydantic import Field

from accounts.demo import DEMO_NAME
from accounts.models import User
from accounts.services import throttle
from accounts.services.note import note
from config.errors import Refused

router = Router(tags=["accounts"])


class SessionOut(Schema):
    """user: the name of who is signed in; demo: whether the demo account can be used in one click."""

    user: str | None
    demo: bool


class SignIn(Schema):
    name: Annotated[str, Field(max_length=150)]
    password: Annotated[str, Field(max_length=1000)]


def _address(request: HttpRequest) -> str:
    return str(request.META.get("REMOTE_ADDR", ""))[:45]


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    return SessionOut(
        user=user.get_username() if user.is_authenticated else None, demo=settings.DEMO
    )


def _same_site(request: HttpRequest) -> None:
    """Signing in needs the token too, or another site could sign a person into its own account."""
    if check_csrf(request) is not None:
        raise Refused("The page is out of date; please reload it", 403)


@router.get("/session", auth=None, response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    get_token(request)
    return _session(request)


@router.post("/session", auth=None, response=SessionOut)
def sign_in(request: HttpRequest, payload: SignIn) -> SessionOut:
    _same_site(request)
    address = _address(request)
    throttle.check(payload.name, address)
    with throttle.hashing():
        user = authenticate(request, username=payload.name, password=payload.password)
    if user is None:
        throttle.failed(payload.name, address)
        raise Refused("Name and password do not match", 401)
    throttle.succeeded(payload.name, address)
    login(request, user)
    note(payload.name, "signed in", address)
    return _session(request)


@router.post("/session/demo", auth=None, response=SessionOut)
def sign_in_to_demo(request: HttpRequest) -> SessionOut:
    _same_site(request)
    user = (
        User.objects.filter(username=DEMO_NAME, is_active=True).first() if settings.DEMO else None
    )
    if user is None:
        raise Refused("There is no demo account here", 404)
    login(request, user)
    return _session(request)


@router.delete("/session", auth=None, response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    _same_site(request)
    logout(request)
    return _session(request)
