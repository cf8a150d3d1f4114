"""Photos taken out of a shoot, put back, moved to another; and for good, after a time."""

from collections.abc import Iterable, Sequence
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from accounts.services.note import note
from config.database import again_when_deadlocked
from config.errors import Refused
from shoots.models import Photo, Shoot
from shoots.store import sweep

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
    """What has been in any bin for long enough, and was found so a day ago already: a clock that goes wrong
    for an hour takes nothing away."""
    now = timezone.now()
    old = Photo.everywhere.filter(removed__lt=now - KEPT)
    Photo.everywhere.filter(going__gt=now).update(going=None)
    old.filter(going=None).update(going=now)
    for photo in old.filter(going__lt=now - SURE):
        forget(photo)


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
