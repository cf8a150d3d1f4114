"""Photos taken out of a shoot, put back, moved to another; and for good, after a time."""

from collections.abc import Iterable, Sequence
from datetime import timedelta
from typing import TypeVar

from django.db import transaction
from django.db.models import Model, QuerySet
from django.utils import timezone

from accounts.models import User
from accounts.services.note import note
from config.database import again_when_deadlocked
from config.errors import Refused
from shoots.models import Photo, Shoot
from shoots.store import sweep

Row = TypeVar("Row", bound=Model)
KEPT = timedelta(days=30)
SURE = timedelta(days=1)


def remove(photos: Iterable[Photo]) -> None:
    """Into the bin: they are not there any more, and all that was done on them is kept."""
    Photo.objects.filter(id__in=[p.id for p in photos]).update(removed=timezone.now())


def in_bin(shoot: Shoot) -> list[Photo]:
    """The latest first."""
    return list(Photo.everywhere.filter(shoot=shoot, removed__isnull=False).order_by("-removed"))


def put_back(shoot: Shoot, ids: Sequence[int]) -> list[Photo]:
    """Out of the bin, as they were."""
    there = Photo.everywhere.filter(shoot=shoot, id__in=ids, removed__isnull=False)
    back = list(there.values_list("id", flat=True))
    there.update(removed=None, going=None)
    return list(Photo.objects.filter(id__in=back))


@again_when_deadlocked
def move(photos: Sequence[Photo], to: Shoot) -> None:
    """To another shoot of the same owner; all or none. Raises Refused (409) when that has one of the same
    file already."""
    moved = [p for p in photos if p.shoot_id != to.id]
    with transaction.atomic():
        Shoot.objects.select_for_update().get(id=to.id)
        same = Photo.everywhere.filter(shoot=to, content_hash__in=[p.content_hash for p in moved])
        if there := same.first():
            where = "in its bin" if there.removed else "there"
            raise Refused(f"{there.title} is {where} already; nothing was moved", 409)
        Photo.objects.filter(id__in=[p.id for p in moved]).update(shoot=to)


def empty(shoot: Shoot) -> None:
    """For good, with all that was done on them."""
    for photo in in_bin(shoot):
        forget(photo)


def empty_old() -> None:
    """What has been in any bin for long enough: photos, shoots, accounts."""
    for photo in long_gone(Photo.everywhere.all()):
        forget(photo)
    for shoot in long_gone(Shoot.objects.all()):
        forget_shoot(shoot)
    for person in long_gone(User.objects.all()):
        forget_account(person)


def long_gone(rows: QuerySet[Row]) -> list[Row]:
    """And was found so a day ago already: a clock that goes wrong for an hour takes nothing away."""
    now = timezone.now()
    old = rows.filter(removed__lt=now - KEPT)
    rows.filter(going__gt=now).update(going=None)
    old.filter(going=None).update(going=now)
    return list(old.filter(going__lt=now - SURE))


@again_when_deadlocked
def forget(photo: Photo) -> None:
    """The photo and its recipe go; files go when no other photo needs them."""
    with transaction.atomic():
        # Held first: nobody adds anything to it while it goes.
        there = Photo.everywhere.select_for_update().filter(id=photo.id).first()
        if there is None:
            return
        note(photo.shoot.owner.username, f"{photo.title} ({photo.file_name}) is gone for good")
        needed = list(there.uses.values_list("stored_id", flat=True))
        there.delete()
        transaction.on_commit(lambda: sweep(needed))


def forget_shoot(shoot: Shoot) -> None:
    """With all its photos. It goes last: what is interrupted is taken up by the next sweep."""
    for photo in Photo.everywhere.filter(shoot=shoot):
        forget(photo)
    note(shoot.owner.username, f"the shoot {shoot.name} is gone for good")
    Shoot.objects.filter(id=shoot.id).delete()


def forget_account(person: User) -> None:
    """With all that it holds."""
    for shoot in Shoot.objects.filter(owner=person):
        forget_shoot(shoot)
    note(person.username, "the account is gone for good")
    needed = list(person.uses.values_list("stored_id", flat=True))
    User.objects.filter(id=person.id).delete()
    sweep(needed)
