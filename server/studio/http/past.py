"""The history of a photo's work, and its versions."""

from datetime import datetime
from typing import Annotated

from ninja import Router
from pydantic import Field, StringConstraints

from config.requests import Request
from config.schema import Schema
from nubilis.readable import Readable
from nubilis.recipe.differences import differences
from nubilis.recipe.document import Recipe
from shoots.services.find import seen_photo, worked_photo
from studio.http.state import RecipeState, StepIn, state_out
from studio.models import LONGEST_NAME, Version
from studio.services import history as past
from studio.services.save_recipe import State, current, save_recipe

router = Router(tags=["studio"])
_Name = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME),
    Readable,
]


class GoIn(Schema):
    """revision: the present one; number: of the step whose state is wanted, 0 for the very beginning."""

    revision: int
    number: Annotated[int, Field(ge=0)]


class VersionIn(Schema):
    name: _Name


class VersionOut(Schema):
    """differs: how the present differs from it, in words."""

    id: int
    name: str
    made: datetime
    author: str
    recipe: Recipe
    differs: list[str]


@router.get("/photos/{photo_id}/history", response=list[past.Step])
def history(request: Request, photo_id: int, before: int | None = None) -> list[past.Step]:
    """The latest steps, newest first; before: those earlier than that one."""
    return past.history(seen_photo(request.user, photo_id), before)


@router.post("/photos/{photo_id}/go-to", response=RecipeState)
def go_to(request: Request, photo_id: int, payload: GoIn) -> RecipeState:
    photo = worked_photo(request.user, photo_id)
    return state_out(past.go_to(photo, payload.revision, payload.number, request.user))


@router.get("/photos/{photo_id}/versions", response=list[VersionOut])
def versions(request: Request, photo_id: int) -> list[VersionOut]:
    photo = seen_photo(request.user, photo_id)
    now = current(photo).recipe
    rows = Version.objects.filter(photo=photo).select_related("author")
    return [_version_out(row, now) for row in rows]


@router.post("/photos/{photo_id}/versions", response=VersionOut)
def keep(request: Request, photo_id: int, payload: VersionIn) -> VersionOut:
    """Keep the saved state under a name."""
    photo = worked_photo(request.user, photo_id)
    row = past.keep_version(photo, payload.name, request.user)
    return _version_out(row, row.recipe)


@router.put("/photos/{photo_id}/versions/{int:version_id}", response=VersionOut)
def rename(request: Request, photo_id: int, version_id: int, payload: VersionIn) -> VersionOut:
    photo = worked_photo(request.user, photo_id)
    row = past.own_version(photo, version_id)
    row.name = payload.name
    row.save(update_fields=["name"])
    return _version_out(row, current(photo).recipe)


@router.delete("/photos/{photo_id}/versions/{int:version_id}", response={204: None})
def remove(request: Request, photo_id: int, version_id: int) -> tuple[int, None]:
    past.own_version(worked_photo(request.user, photo_id), version_id).delete()
    return 204, None


@router.post("/photos/{photo_id}/versions/{int:version_id}/take", response=RecipeState)
def take(request: Request, photo_id: int, version_id: int, payload: StepIn) -> RecipeState:
    """Work on from a version; the present stays one undo away."""
    photo = worked_photo(request.user, photo_id)
    state: State = save_recipe(
        photo, payload.revision, past.own_version(photo, version_id).recipe, request.user
    )
    return state_out(state)


def _version_out(row: Version, now: Recipe) -> VersionOut:
    return VersionOut(
        id=row.id,
        name=row.name,
        made=row.made,
        author=row.author.username if row.author else "",
        recipe=row.recipe,
        differs=differences(row.recipe, now),
    )
