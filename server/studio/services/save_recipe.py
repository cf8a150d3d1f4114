"""Every change of a recipe is a new revision; a change made to an outdated one is refused."""

from dataclasses import dataclass

from django.db import transaction

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from nubilis.recipe.document import Recipe
from shoots.models import Photo
from shoots.store import use_assets
from studio.models import Revision


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


@again_when_deadlocked
def save_recipe(photo: Photo, revision: int, recipe: Recipe, author: User, key: str = "") -> State:
    """Save on top of `revision`. key: of this very save; asked for once more, since its answer was lost, it
    is answered as it was. Raises Refused (409) when the photo has moved on, RecipeError when a picture that
    it refers to is not there."""
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
