"""Take a photo out of its shoot."""

from django.db import transaction

from shoots.models import Photo
from shoots.store import sweep


def remove_photo(photo: Photo) -> None:
    """The photo and its recipe go; files go when no other photo needs them."""
    with transaction.atomic():
        needed = list(photo.uses.values_list("stored_id", flat=True))
        photo.delete()
        transaction.on_commit(lambda: sweep(needed))
