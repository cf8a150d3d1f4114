"""Every change of a recipe is a new revision; a change made to an outdated one is refused."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from nubilis.recipe.document import Recipe
from nubilis.recipe.places import refuse_outside
from shoots.models import Photo
from shoots.store import use_assets
from studio.models import Revision

TIMES = 5  # that several photos are saved together while others change one of them


@dataclass(frozen=True)
class State:
    """A photo's recipe now."""

    revision: int
    recipe: Recipe
    can_undo: bool
    can_redo: bool


def current(photo: Photo) -> State:
    """The state that the photo's own number points at."""
    return _state(photo.revision, _revision(photo, photo.revision))


def currents(photos: Sequence[Photo]) -> dict[int, State]:
    """Of several photos, by their ids."""
    there = present_rows(photos)
    return {p.id: _state(row.number if (row := there.get(p.id)) else 0, row) for p in photos}


def present_rows(photos: Sequence[Photo]) -> dict[int, Revision]:
    """By photo, of those that have any."""
    ids = [p.id for p in photos]
    rows = Revision.objects.filter(photo__in=ids, number=F("photo__revision"))
    return {row.photo_id: row for row in rows}


@dataclass(frozen=True)
class Step:
    """To be saved on top of a photo's revision."""

    photo: Photo
    revision: int
    recipe: Recipe


def save_together(steps: Callable[[], Iterable[Step]], author: User) -> int:
    """Save on several photos, all or none; how many. steps: of how they stand, asked for again when one of
    them was changed in between. Raises as save_recipe."""
    for left in range(TIMES - 1, -1, -1):
        # Worked out before anything is locked, and locked in one order.
        todo = sorted(steps(), key=lambda s: s.photo.id)
        try:
            return _save_all(todo, author)
        except Refused as error:
            if error.status != 409 or not left:
                raise
    raise AssertionError("unreachable")


@again_when_deadlocked
def _save_all(steps: Sequence[Step], author: User) -> int:
    with transaction.atomic():
        for step in steps:
            save_recipe(step.photo, step.revision, step.recipe, author)
    return len(steps)


@again_when_deadlocked
def save_recipe(photo: Photo, revision: int, recipe: Recipe, author: User, key: str = "") -> State:
    """Save on top of `revision`. key: of this very save; asked for once more, since its answer was lost, it
    is answered as it was. Raises Refused (409) when the photo has moved on, RecipeError when a picture that
    it refers to is not there, or a sample lies outside the photo."""
    refuse_outside(recipe, (photo.width, photo.height))
    with transaction.atomic():
        if key and (done := _done_before(photo, revision, key)):
            return done
        photo = _locked(photo, revision)
        use_assets(photo, recipe.assets)
        return _add(
            photo, recipe.model_dump_json(), author, undo_to=revision, redo_to=None, key=key
        )


def _done_before(photo: Photo, revision: int, key: str) -> State | None:
    row = Photo.objects.select_for_update().filter(id=photo.id, revision=revision + 1).first()
    newest = _revision(photo, revision + 1) if row else None
    return _state(revision + 1, newest) if newest and newest.key == key else None


@again_when_deadlocked
def undo(photo: Photo, revision: int, author: User) -> State:
    """Go back one step. Raises Refused: 409 when stale or when there is nothing to undo."""
    with transaction.atomic():
        photo = _locked(photo, revision)
        now = _revision(photo, revision)
        if now is None or now.undo_to is None:
            raise Refused("There is nothing to undo", 409, revision=revision)
        then = _revision(photo, now.undo_to)
        document, further = (then.document, then.undo_to) if then else (_UNTREATED, None)
        return _add(photo, document, author, undo_to=further, redo_to=revision)


@again_when_deadlocked
def redo(photo: Photo, revision: int, author: User) -> State:
    """Take the last undo back. Raises Refused as undo does."""
    with transaction.atomic():
        photo = _locked(photo, revision)
        now = _revision(photo, revision)
        then = None if now is None or now.redo_to is None else _revision(photo, now.redo_to)
        if then is None:
            raise Refused("There is nothing to redo", 409, revision=revision)
        return _add(photo, then.document, author, undo_to=revision, redo_to=then.redo_to)


_UNTREATED = Recipe().model_dump_json()


def _locked(photo: Photo, revision: int) -> Photo:
    row = Photo.objects.select_for_update().filter(id=photo.id).first()
    if row is None:  # put into the bin meanwhile
        raise Missing
    if row.revision != revision:
        raise Refused(
            "This photo was changed elsewhere since; nothing was overwritten",
            409,
            revision=row.revision,
        )
    return row


def _revision(photo: Photo, number: int) -> Revision | None:
    return Revision.objects.filter(photo=photo, number=number).first() if number else None


def _add(
    photo: Photo,
    document: str,
    author: User,
    *,
    undo_to: int | None,
    redo_to: int | None,
    key: str = "",
) -> State:
    number = photo.revision + 1
    row = Revision.objects.create(
        photo=photo,
        number=number,
        document=document,
        undo_to=undo_to,
        redo_to=redo_to,
        author=author,
        key=key,
    )
    photo.revision = number
    photo.save(update_fields=["revision"])
    return _state(number, row)


def _state(number: int, row: Revision | None) -> State:
    if row is None:
        return State(number, Recipe(), can_undo=False, can_redo=False)
    return State(number, row.recipe, row.undo_to is not None, row.redo_to is not None)
