"""Reaching what one owns; everything else is not there."""

from collections.abc import Sequence

from accounts.models import User
from config.errors import Missing
from shoots.models import Photo, Shoot


def own_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Missing for other people's shoots as for those that are not there."""
    shoot = Shoot.objects.filter(owner=user, id=shoot_id).first()
    if shoot is None:
        raise Missing
    return shoot


def own_photos(user: User, shoot_id: int, ids: Sequence[int]) -> list[Photo]:
    """Some of a shoot's, in the order of the sheet. Raises Missing when one of them is not there."""
    shoot = own_shoot(user, shoot_id)
    rows = list(shoot.photos.filter(id__in=ids).select_related("shoot"))
    if len(rows) < len(set(ids)):
        raise Missing
    return rows


def own_photo(user: User, photo_id: int) -> Photo:
    """Raises Missing for other people's photos as for those that are not there."""
    photo = Photo.objects.select_related("shoot").filter(shoot__owner=user, id=photo_id).first()
    if photo is None:
        raise Missing
    return photo
