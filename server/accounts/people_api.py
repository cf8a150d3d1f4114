"""Accounts and what was noted of them, for owners."""

from datetime import datetime
from typing import Annotated

from ninja import Router
from pydantic import Field

from accounts.models import Noted, User
from accounts.services import people
from accounts.services.passwords import given_password
from config.errors import Missing, Refused
from config.requests import Request
from config.schema import Schema

router = Router(tags=["people"])
LINES = 200


class AccountIn(Schema):
    """owner: looks after the accounts."""

    name: Annotated[str, Field(min_length=1, max_length=150)]
    owner: bool = False


class AccountChange(Schema):
    """active: may sign in; quota_mb: of originals, none for the installation's own bound."""

    owner: bool
    active: bool
    quota_mb: Annotated[int, Field(ge=1, le=10**9)] | None


class AccountOut(Schema):
    """kept: bytes of originals; seen: about when they last were here; to_change: the password is still the
    one that they were given; removed: when the account was deleted."""

    id: int
    name: str
    owner: bool
    active: bool
    quota_mb: int | None
    kept: int
    seen: datetime | None
    to_change: bool
    removed: datetime | None


class Given(Schema):
    """password: told this once."""

    person: str
    password: str


class NotedOut(Schema):
    made: datetime
    person: str
    what: str
    address: str


def need_owner(request: Request) -> User:
    if not request.user.is_superuser:
        raise Refused("Only an owner of this installation looks after accounts", 403)
    return request.user


@router.get("/people", response=list[AccountOut])
def everybody(request: Request) -> list[AccountOut]:
    need_owner(request)
    return [_out(row) for row in people.everybody()]


@router.post("/people", response=Given)
def make(request: Request, payload: AccountIn) -> Given:
    row, password = people.make(payload.name.strip(), payload.owner, need_owner(request))
    return Given(person=row.username, password=password)


@router.put("/people/{int:person_id}", response=list[AccountOut])
def change(request: Request, person_id: int, payload: AccountChange) -> list[AccountOut]:
    people.change(person_id, need_owner(request), **payload.model_dump())
    return everybody(request)


@router.delete("/people/{int:person_id}", response={204: None})
def remove(request: Request, person_id: int) -> tuple[int, None]:
    """It can be given back for a while, by letting them sign in again."""
    people.remove(person_id, need_owner(request))
    return 204, None


@router.post("/people/{int:person_id}/password", response=Given)
def give_password(request: Request, person_id: int) -> Given:
    """One to begin with; every browser of theirs is signed out."""
    owner = need_owner(request)
    row = User.objects.filter(id=person_id).first()
    if row is None:
        raise Missing
    return Given(person=row.username, password=given_password(row, owner))


@router.get("/noted", response=list[NotedOut])
def noted(request: Request) -> list[NotedOut]:
    """Who signed in, who removed what for good: the latest lines first."""
    need_owner(request)
    return [NotedOut.model_validate(n, from_attributes=True) for n in Noted.objects.all()[:LINES]]


def _out(row: User) -> AccountOut:
    return AccountOut(
        id=row.id,
        name=row.username,
        owner=row.is_superuser,
        active=row.is_active,
        quota_mb=row.quota_mb,
        kept=row.kept,  # type: ignore[attr-defined]
        seen=row.seen,  # type: ignore[attr-defined]
        to_change=row.to_change,
        removed=row.removed,
    )
