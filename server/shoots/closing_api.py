"""What shoots and accounts hold, and having deleted shoots back."""

from datetime import datetime

from ninja import Router

from accounts.models import User
from accounts.people_api import need_owner
from config.errors import Missing
from config.requests import Request
from config.schema import Schema
from shoots.models import Shoot
from shoots.services import closing
from shoots.services.bin import KEPT
from shoots.services.find import own_shoot

router = Router(tags=["closing"])


class HoldsOut(Schema):
    shoots: int
    photos: int
    treated: int
    binned: int
    people: int
    size_bytes: int


class RemovedShoot(Schema):
    """gone: when it goes for good."""

    id: int
    name: str
    photos: int
    removed: datetime
    gone: datetime


@router.get("/shoots/{int:shoot_id}/holds", response=HoldsOut)
def shoot_holds(request: Request, shoot_id: int) -> HoldsOut:
    """What would go with a shoot."""
    return _holds_out(closing.held_by([own_shoot(request.user, shoot_id)]))


@router.get("/removed-shoots", response=list[RemovedShoot])
def removed_shoots(request: Request) -> list[RemovedShoot]:
    """One's own, the latest first."""
    rows = closing.removed_shoots(request.user)
    return [
        RemovedShoot(
            id=row.id,
            name=row.name,
            photos=closing.held_by([row]).photos,
            removed=row.removed,
            gone=row.removed + KEPT,
        )
        for row in rows
        if row.removed
    ]


@router.post("/removed-shoots/{int:shoot_id}/restore", response={204: None})
def restore_shoot(request: Request, shoot_id: int) -> tuple[int, None]:
    closing.restore_shoot(request.user, shoot_id)
    return 204, None


@router.delete("/removed-shoots/{int:shoot_id}", response={204: None})
def forget_shoot(request: Request, shoot_id: int) -> tuple[int, None]:
    """For good, now."""
    closing.forget_now(request.user, shoot_id)
    return 204, None


@router.get("/people/{int:person_id}/holds", response=HoldsOut)
def account_holds(request: Request, person_id: int) -> HoldsOut:
    """What would go with an account: one's own, or anybody's for an owner."""
    if person_id != request.user.id:
        need_owner(request)
    if not User.objects.filter(id=person_id).exists():
        raise Missing
    return _holds_out(closing.held_by(Shoot.objects.filter(owner=person_id)))


def _holds_out(holds: closing.Holds) -> HoldsOut:
    return HoldsOut.model_validate(holds, from_attributes=True)
