"""Reaching what one owns; everything else is not there."""

from django.http import Http404

from accounts.models import User
from shoots.models import Photo, Shoot


def own_shoot(user: User, shoot_id: int) -> Shoot:
    """Raises Http404 for other people's shoots as for missing ones."""
    shoot = Shoot.objects.filter(owner=user, id=shoot_id).first()
    if shoot is None:
        raise Http404
    return shoot


def own_photo(user: User, photo_id: int) -> Photo:
    """Raises Http404 for other people's photos as for missing ones."""
    photo = Photo.objects.select_related("shoot").filter(shoot__owner=user, id=photo_id).first()
    if photo is None:
        raise Http404
    return photo
