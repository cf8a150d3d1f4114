"""Reaching what one owns, or what is shared with one; everything else is not there.

own_*: for its owner alone; worked_*: also for whoever it is shared with to work on; seen_*: for whoever may
see it.
"""

from collections.abc import Iterable, Sequence
from typing import Literal

from django.db.models import Q

from accounts.models import User
from config.errors import Missing, Refused
from shoots.models import Photo, Share, Shoot

Access = Literal["own", "work", "see"]
NOT_TO_WORK_ON = "This shoot is shared with you to look at, not to work on; nothing was changed"
NOT_YOURS = "Only whoever the shoot belongs to can do this"


def shared_with(user: User, *, to_work: bool = False, shoot: str = "") -> Q:
    """Rows of what a person owns or has shared. shoot: the way from the row to its shoot, as "shoot__"."""
    shares = Share.objects.filter(person=user)
    if to_work:
        shares = shares.filter(may=Share.May.WORK)
    theirs = Q(**{f"{shoot}owner": user}) | Q(**{f"{shoot}id__in": shares.values("shoot")})
    return theirs & Q(**{f"{shoot}removed": None})


def accesses(user: User, shoots: Iterable[Shoot]) -> dict[int, Access]:
    """What a person may do with each shoot, by its id; those that are not there for them are left out."""
    may: dict[int, Access] = {}
    others: list[Shoot] = []
    for shoot in shoots:
        if shoot.removed:
            continue
        if shoot.owner_id == user.id:
            may[shoot.id] = "own"
        else:
            others.append(shoot)
    if others:
        for share in Share.objects.filter(person=user, shoot__in=others):
            may[share.shoot_id] = "work" if share.may == Share.May.WORK else "see"
    return may


def access_of(user: User, shoot: Shoot) -> Access:
    """Raises Missing for one that is not there for them."""
    may = accesses(user, [shoot])
    if not may:
        raise Missing
    return may[shoot.id]


def seen_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Missing for what is not shared as for what is not there."""
    return _reached_shoot(user, shoot_id)[0]


def worked_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Missing, Refused (403)."""
    shoot, may = _reached_shoot(user, shoot_id)
    _need_to_work(may)
    return shoot


def own_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Missing, Refused (403)."""
    shoot = seen_shoot(user, shoot_id)
    if shoot.owner_id != user.id:
        raise Refused(NOT_YOURS, 403)
    return shoot


def own_photo(user: User, photo_id: int) -> Photo:
    """Raises Missing, Refused (403)."""
    photo = seen_photo(user, photo_id)
    if photo.shoot.owner_id != user.id:
        raise Refused(NOT_YOURS, 403)
    return photo


def worked_photos(user: User, shoot_id: int, ids: Sequence[int]) -> list[Photo]:
    """Some of a shoot's, in the order of the sheet. Raises Missing when one of them is not there, Refused
    (403)."""
    return photos_of(worked_shoot(user, shoot_id), ids)


def worked_several(user: User, ids: Sequence[int]) -> list[Photo]:
    """Of whichever shoots. Raises Missing when one of them is not there, Refused (403)."""
    rows = Photo.objects.filter(id__in=ids).select_related("shoot__owner").in_bulk()
    may = accesses(user, {p.shoot for p in rows.values()})
    if any(i not in rows or rows[i].shoot_id not in may for i in ids):
        raise Missing
    for access in may.values():
        _need_to_work(access)
    return [rows[i] for i in dict.fromkeys(ids)]


def photos_of(shoot: Shoot, ids: Sequence[int]) -> list[Photo]:
    """Raises Missing when one of them is not there."""
    rows = list(shoot.photos.filter(id__in=ids).select_related("shoot"))
    if len(rows) < len(set(ids)):
        raise Missing
    return rows


def seen_photo(user: User, photo_id: int) -> Photo:
    """Raises Missing for what is not shared as for what is not there."""
    return _reached_photo(user, photo_id)[0]


def worked_photo(user: User, photo_id: int) -> Photo:
    """Raises Missing, Refused (403)."""
    photo, may = _reached_photo(user, photo_id)
    _need_to_work(may)
    return photo


def _reached_shoot(user: User, shoot_id: int) -> tuple[Shoot, Access]:
    shoot = Shoot.objects.select_related("owner").filter(id=shoot_id).first()
    if shoot is None:
        raise Missing
    return shoot, access_of(user, shoot)


def _reached_photo(user: User, photo_id: int) -> tuple[Photo, Access]:
    photo = Photo.objects.select_related("shoot__owner").filter(id=photo_id).first()
    if photo is None:
        raise Missing
    return photo, access_of(user, photo.shoot)


def _need_to_work(may: Access) -> None:
    if may == "see":
        raise Refused(NOT_TO_WORK_ON, 403)
