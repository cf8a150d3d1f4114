"""Take a photo out of its shoot."""

from django.db import transaction

from shoots.models import Photo
from shoots.storage import forget_original


def remove_photo(photo: Photo) -> None:
    """The photo and its recipe go; the file goes when no other photo refers to it."""
    content = photo.content_hash
    with transaction.atomic():
        photo.delete()
        transaction.on_commit(lambda: _forget_if_unused(content))


def _forget_if_unused(content: str) -> None:
    if not Photo.objects.filter(content_hash=content).exists():
        forget_original(content)
