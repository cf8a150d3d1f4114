"""Casts that photos of a shoot share: where they are, and carrying changes over."""

from collections.abc import Iterator

from django.db import transaction
from django.db.models import F

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Refused
from nubilis.recipe.document import Cast, Recipe
from shoots.models import Photo
from studio.models import Revision
from studio.services.people import found_anew
from studio.services.save_recipe import current, save_recipe


def linked_photos(photo: Photo, cast: Cast) -> list[Photo]:
    """The other photos of the shoot that hold a copy of a cast, or what it was copied from."""
    return [row.photo for row, _ in _sharing(photo, cast)]


@again_when_deadlocked
def carry_over(photo: Photo, cast_id: str, author: User) -> int:
    """Bring a saved cast's mask and remedies to the photos that share it, except what was touched up there,
    a step of each one's history; all or none. Returns how many changed. Raises Refused (422)."""
    source = next((c for c in current(photo).recipe.casts if c.id == cast_id), None)
    if source is None:
        raise Refused("There is no such cast; save it first", 422)
    changed = 0
    with transaction.atomic():
        for row, recipe in list(_sharing(photo, source)):
            casts = tuple(
                found_anew(source.carried_over(c), row.photo)
                if c.shared_id == source.shared_id
                else c
                for c in recipe.casts
            )
            if casts != recipe.casts:
                after = recipe.model_copy(update={"casts": casts})
                save_recipe(row.photo, row.number, after, author)
                changed += 1
    return changed


def _sharing(photo: Photo, cast: Cast) -> Iterator[tuple[Revision, Recipe]]:
    """The present revisions of other photos in which the cast is shared."""
    rows = Revision.objects.filter(
        photo__shoot=photo.shoot,
        photo__removed=None,
        number=F("photo__revision"),
        document__contains=f'"{cast.shared_id}"',
    )
    for row in rows.exclude(photo=photo).select_related("photo"):
        recipe = row.recipe
        if any(c.shared_id == cast.shared_id for c in recipe.casts):
            yield row, recipe
