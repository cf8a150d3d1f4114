"""Signing in and out."""

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from ninja.utils import check_csrf

from accounts.demo import DEMO_NAME
from accounts.models import User
from config.errors import Refused

router = Router(tags=["accounts"])


class SessionOut(Schema):
    """user: the name of who is signed in; demo: whether the demo account can be used in one click."""

    user: str | None
    demo: bool


class SignIn(Schema):
    name: str
    password: str


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
    user = authenticate(request, username=payload.name, password=payload.password)
    if user is None:
        raise Refused("Name and password do not match", 401)
    login(request, user)
    return _session(request)


@router.post("/session/demo", auth=None, response=SessionOut)
def sign_in_to_demo(request: HttpRequest) -> SessionOut:
    _same_site(request)
    user = User.objects.filter(username=DEMO_NAME).first() if settings.DEMO else None
    if user is None:
        raise Refused("There is no demo account here", 404)
    login(request, user)
    return _session(request)


@router.delete("/session", auth=None, response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    _same_site(request)
    logout(request)
    return _session(request)
