"""Reaching what one owns; everything else is not there."""

from accounts.models import User
from config.errors import Missing
from shoots.models import Photo, Shoot


def own_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Missing for other people's shoots as for those that are not there."""
    shoot = Shoot.objects.filter(owner=user, id=shoot_id).first()
    if shoot is None:
        raise Missing
    return shoot


def own_photo(user: User, photo_id: int) -> Photo:
    """Raises Missing for other people's photos as for those that are not there."""
    photo = Photo.objects.select_related("shoot").filter(shoot__owner=user, id=photo_id).first()
    if photo is None:
        raise Missing
    return photo
