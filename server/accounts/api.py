"""Signing in and out."""

from datetime import datetime
from typing import Annotated

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Router
from ninja.utils import check_csrf
from pydantic import Field

from accounts.demo import DEMO_NAME
from accounts.models import User
from accounts.services import people, throttle
from accounts.services.names import folded
from accounts.services.note import note
from accounts.services.passwords import choose_password
from accounts.services.signed_in import browser_of, end, end_all, public_id, signed_in
from accounts.sessions import ADDRESS, BROWSER, MADE
from config.errors import Refused
from config.requests import Request
from config.schema import Schema
from config.who import known

router = Router(tags=["accounts"])


class SessionOut(Schema):
    """user: the name of who is signed in; demo: whether the demo account can be used in one click; owner:
    looks after the accounts; to_change: a password of their own is to be chosen first of all."""

    id: int | None
    user: str | None
    demo: bool
    owner: bool
    to_change: bool


class SignIn(Schema):
    name: Annotated[str, Field(max_length=150)]
    password: Annotated[str, Field(max_length=1000)]


def _address(request: HttpRequest) -> str:
    return str(request.META.get("REMOTE_ADDR", ""))[:45]


def _session(request: HttpRequest) -> SessionOut:
    user = request.user
    person = user if isinstance(user, User) else None
    return SessionOut(
        id=person.id if person else None,
        user=person.get_username() if person else None,
        demo=settings.DEMO,
        owner=bool(person and person.is_superuser),
        to_change=bool(person and person.to_change),
    )


def _same_site(request: HttpRequest) -> None:
    """Signing in needs the token too, or another site could sign a person into its own account."""
    if check_csrf(request) is not None:
        raise Refused("The page is out of date; please reload it", 403)


def _begin(request: HttpRequest, user: User) -> None:
    """A session, which notes in which browser it is."""
    login(request, user)
    request.session[ADDRESS] = _address(request)
    request.session[MADE] = timezone.now().isoformat()
    request.session[BROWSER] = browser_of(str(request.META.get("HTTP_USER_AGENT", "")))


@router.get("/session", auth=None, response=SessionOut)
def session(request: HttpRequest) -> SessionOut:
    get_token(request)
    return _session(request)


@router.post("/session", auth=None, response=SessionOut)
def sign_in(request: HttpRequest, payload: SignIn) -> SessionOut:
    _same_site(request)
    address = _address(request)
    name = folded(payload.name)
    throttle.check(name, address)
    with throttle.hashing():
        user = authenticate(request, username=name, password=payload.password)
    if not isinstance(user, User):
        throttle.failed(name, address)
        raise Refused("Name and password do not match", 401)
    throttle.succeeded(name, address)
    _begin(request, user)
    note(name, "signed in", address)
    return _session(request)


@router.post("/session/demo", auth=None, response=SessionOut)
def sign_in_to_demo(request: HttpRequest) -> SessionOut:
    _same_site(request)
    user = (
        User.objects.filter(username=DEMO_NAME, is_active=True).first() if settings.DEMO else None
    )
    if user is None:
        raise Refused("There is no demo account here", 404)
    _begin(request, user)
    note(DEMO_NAME, "signed in", _address(request))
    return _session(request)


@router.delete("/session", auth=None, response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    _same_site(request)
    logout(request)
    return _session(request)


class PasswordIn(Schema):
    old: Annotated[str, Field(max_length=1000)]
    new: Annotated[str, Field(max_length=1000)]


class SignedInOut(Schema):
    """id: not its key; here: the one that asks."""

    id: str
    browser: str
    address: str
    made: datetime
    seen: datetime
    here: bool


@router.put("/session/password", auth=known, response=SessionOut)
def choose(request: Request, payload: PasswordIn) -> SessionOut:
    """A password of one's own; every other browser is signed out."""
    name, address = request.user.get_username(), _address(request)
    throttle.check(name, address)
    with throttle.hashing():
        try:
            choose_password(request.user, payload.old, payload.new)
        except Refused as error:
            if error.status == 401:
                throttle.failed(name, address)
            raise
    update_session_auth_hash(request, request.user)
    end_all(request.user, but=request.session.session_key)
    return _session(request)


class LeaveIn(Schema):
    password: Annotated[str, Field(max_length=1000)]


@router.post("/account/delete", response=SessionOut)
def leave(request: Request, payload: LeaveIn) -> SessionOut:
    """One's own account, with all that it holds; the password is asked for once more."""
    name, address = request.user.get_username(), _address(request)
    throttle.check(name, address)
    with throttle.hashing():
        known = request.user.check_password(payload.password)
    if not known:
        throttle.failed(name, address)
        raise Refused("The password is wrong.", 403)
    people.remove(request.user.id, request.user)
    logout(request)
    return _session(request)


@router.get("/sessions", response=list[SignedInOut])
def browsers(request: Request) -> list[SignedInOut]:
    """In which browsers one is signed in."""
    return [
        SignedInOut(
            id=public_id(row.pk),
            browser=row.browser,
            address=row.address,
            made=row.made,
            seen=row.seen,
            here=row.pk == request.session.session_key,
        )
        for row in signed_in(request.user)
    ]


@router.delete("/sessions/{session_id}", response=list[SignedInOut])
def end_one(request: Request, session_id: str) -> list[SignedInOut]:
    end(request.user, session_id)
    note(request.user.get_username(), "ended a session", _address(request))
    return browsers(request)
