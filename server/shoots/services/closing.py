"""Shoots and accounts deleted: what they hold is said first, and can be had back for thirty days."""

from collections.abc import Iterable
from dataclasses import dataclass

from django.db.models import Sum
from django.utils import timezone

from accounts.models import User
from accounts.services.note import note
from config.errors import Missing
from jobs.models import OPEN, Job
from shoots.models import Photo, Share, Shoot
from shoots.services.bin import forget_shoot


@dataclass(frozen=True)
class Holds:
    """treated: photos that somebody worked on; binned: those in the bin, which count among photos; people:
    others who share any of it."""

    shoots: int
    photos: int
    treated: int
    binned: int
    people: int
    size_bytes: int


def held_by(shoots: Iterable[Shoot]) -> Holds:
    ids = [shoot.id for shoot in shoots]
    photos = Photo.everywhere.filter(shoot__in=ids)
    return Holds(
        shoots=len(ids),
        photos=photos.count(),
        treated=photos.filter(revision__gt=0).count(),
        binned=photos.exclude(removed=None).count(),
        people=Share.objects.filter(shoot__in=ids).values("person").distinct().count(),
        size_bytes=int(photos.aggregate(sum=Sum("size_bytes"))["sum"] or 0),
    )


def remove_shoot(shoot: Shoot) -> None:
    """Nobody sees it any more, and what works on it stops."""
    Shoot.objects.filter(id=shoot.id).update(removed=timezone.now(), going=None)
    Job.objects.filter(shoot=shoot, state__in=OPEN).update(cancelled=True)
    note(shoot.owner.username, f"deleted the shoot {shoot.name}")


def removed_shoots(owner: User) -> list[Shoot]:
    """The latest first."""
    return list(Shoot.objects.filter(owner=owner).exclude(removed=None).order_by("-removed"))


def restore_shoot(owner: User, shoot_id: int) -> Shoot:
    """As it was. Raises Missing."""
    shoot = _removed(owner, shoot_id)
    Shoot.objects.filter(id=shoot.id).update(removed=None, going=None)
    return shoot


def forget_now(owner: User, shoot_id: int) -> None:
    """For good. Raises Missing."""
    forget_shoot(_removed(owner, shoot_id))


def _removed(owner: User, shoot_id: int) -> Shoot:
    shoot = Shoot.objects.filter(owner=owner, id=shoot_id).exclude(removed=None).first()
    if shoot is None:
        raise Missing
    return shoot
