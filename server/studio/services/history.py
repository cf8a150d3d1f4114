"""What happened to a photo's recipe, in words, and states of it that are kept under names."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from accounts.models import User
from config.database import if_there_is_room
from config.errors import Refused
from nubilis.recipe.differences import differences
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from studio.models import Revision, Version
from studio.services.save_recipe import State, current, save_recipe

MOST_TOLD = 100  # steps of the history at a time
MOST_VERSIONS = 100


@dataclass(frozen=True)
class Step:
    """number: of the revision; words: what it changed; taken_back: it was an undo."""

    number: int
    made: datetime
    author: str
    words: list[str]
    taken_back: bool


def history(photo: Photo, before: int | None = None) -> list[Step]:
    """The latest steps, newest first; before: those that came earlier than a revision."""
    upto = photo.revision if before is None else min(before - 1, photo.revision)
    rows = Revision.objects.filter(photo=photo, number__lte=upto).select_related("author")
    return list(_told(list(rows.order_by("-number")[: MOST_TOLD + 1])))[:MOST_TOLD]


def _told(rows: list[Revision]) -> Iterator[Step]:
    """Telling takes reading both recipes; what was told once is kept."""
    read: dict[int, Recipe] = {}

    def recipe_of(i: int) -> Recipe:
        # The first step of all came after the resting recipe.
        if i == len(rows):
            return Recipe()
        if i not in read:
            read[i] = rows[i].recipe
        return read[i]

    for i, row in enumerate(rows):
        if row.words is None and (i + 1 < len(rows) or row.number == 1):
            row.words = differences(recipe_of(i + 1), recipe_of(i)) or ["Nothing changed"]
            with if_there_is_room():
                Revision.objects.filter(id=row.id).update(words=row.words)
        author = row.author.username if row.author else ""
        yield Step(row.number, row.made, author, row.words or [], row.redo_to is not None)


def go_to(photo: Photo, revision: int, number: int, author: User) -> State:
    """Work on from an earlier state, as a step that can be undone. Raises Refused."""
    row = Revision.objects.filter(photo=photo, number=number).first()
    if row is None and number != 0:
        raise Refused("There is no such step", 404)
    return save_recipe(photo, revision, row.recipe if row else Recipe(), author)


def keep_version(photo: Photo, name: str, author: User) -> Version:
    """Keep the saved state under a name. Raises Refused (422)."""
    if Version.objects.filter(photo=photo).count() >= MOST_VERSIONS:
        raise Refused(f"A photo keeps {MOST_VERSIONS} versions at most", 422)
    document = current(photo).recipe.model_dump_json()
    return Version.objects.create(photo=photo, name=name, document=document, author=author)


def own_version(photo: Photo, version_id: int) -> Version:
    """Raises Refused (404)."""
    row = Version.objects.filter(photo=photo, id=version_id).first()
    if row is None:
        raise Refused("There is no such version", 404)
    return row
