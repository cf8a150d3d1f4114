"""One photo: its recipe as it is saved, and what the contact sheet shows of it."""

from typing import Annotated

from django.http import HttpResponse
from ninja import Router
from pydantic import Field

from config.computing import turn_of
from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.engine.overlay import Show
from nubilis.recipe.document import Recipe
from shoots.api import PhotoOut, photo_out
from shoots.services.find import Access, access_of, seen_photo, seen_shoot, worked_photo
from shoots.thumbnails import kept_thumbnail, read_thumbnail
from studio.engines import engines
from studio.http.state import RecipeState, StepIn, state_out
from studio.services import cards as sheet
from studio.services import dials as dial_figures
from studio.services import save_recipe as history
from studio.services.drawing import drawn_small

router = Router(tags=["studio"])
SCREEN = 1600  # pixels


class PhotoWithRecipe(Schema):
    """neighbours: ids of the shoot's photos in order, for paging; may: what whoever asks may do with it;
    owner: whose it is."""

    photo: PhotoOut
    may: Access
    owner: str
    shoot_id: int
    shoot_name: str
    neighbours: list[int]
    state: RecipeState


class SaveIn(Schema):
    """revision: the one that the recipe was made from; key: of this very save, so that it can be asked for
    again when its answer was lost."""

    revision: int
    recipe: Recipe
    key: Annotated[str, Field(max_length=40)] = ""


@router.get("/photos/{photo_id}", response=PhotoWithRecipe)
def photo(request: Request, photo_id: int) -> PhotoWithRecipe:
    row = seen_photo(request.user, photo_id)
    return PhotoWithRecipe(
        photo=photo_out(row),
        may=access_of(request.user, row.shoot),
        owner=row.shoot.owner.get_username(),
        shoot_id=row.shoot.id,
        shoot_name=row.shoot.name,
        neighbours=list(row.shoot.photos.values_list("id", flat=True)),
        state=state_out(history.current(row)),
    )


@router.get("/photos/{photo_id}/recipe", response=RecipeState)
def recipe(request: Request, photo_id: int) -> RecipeState:
    return state_out(history.current(seen_photo(request.user, photo_id)))


@router.put("/photos/{photo_id}/recipe", response=RecipeState)
def save(request: Request, photo_id: int, payload: SaveIn) -> RecipeState:
    row = worked_photo(request.user, photo_id)
    return state_out(
        history.save_recipe(row, payload.revision, payload.recipe, request.user, payload.key)
    )


@router.post("/photos/{photo_id}/undo", response=RecipeState)
def undo(request: Request, photo_id: int, payload: StepIn) -> RecipeState:
    return state_out(
        history.undo(worked_photo(request.user, photo_id), payload.revision, request.user)
    )


@router.post("/photos/{photo_id}/redo", response=RecipeState)
def redo(request: Request, photo_id: int, payload: StepIn) -> RecipeState:
    return state_out(
        history.redo(worked_photo(request.user, photo_id), payload.revision, request.user)
    )


@router.get("/photos/{photo_id}/card", response=sheet.Card)
@computes
def card(request: Request, photo_id: int) -> sheet.Card:
    """What the contact sheet says of a photo, computed if need be."""
    row = seen_photo(request.user, photo_id)
    dial_figures.dials(row)
    return sheet.cards([row])[0]


@router.get("/shoots/{shoot_id}/cards", response=list[sheet.Card])
def cards(request: Request, shoot_id: int) -> list[sheet.Card]:
    """Of every photo of a shoot; what would have to be computed is left to be asked for one by one."""
    return sheet.cards(list(seen_shoot(request.user, shoot_id).photos.all()))


@router.delete("/photos/{photo_id}/check", response={204: None})
def looked_over(request: Request, photo_id: int) -> tuple[int, None]:
    """Somebody has looked at a treatment that came about without anybody looking, and it is right."""
    sheet.looked_over(worked_photo(request.user, photo_id))
    return 204, None


@router.get("/photos/{photo_id}/whole")
@computes
def whole(request: Request, photo_id: int, revision: int = 0) -> HttpResponse:
    """The photo as treated now, as large as a screen; kept as the thumbnail is."""
    row = seen_photo(request.user, photo_id)
    jpeg = drawn_small(row, history.current(row).recipe, Show.NOW, None, SCREEN)
    return _kept(jpeg, revision == row.revision)


@router.get("/photos/{photo_id}/thumbnail")
def thumbnail(request: Request, photo_id: int, revision: int = 0) -> HttpResponse:
    """The photo as treated now; the browser may keep it, since its address names the revision."""
    row = seen_photo(request.user, photo_id)
    now = history.current(row).recipe
    jpeg = kept_thumbnail(row.content_hash, now)
    if jpeg is None:
        with turn_of(request, row.id):
            jpeg = read_thumbnail(lambda: engines.get(row), row.content_hash, now)
    return _kept(jpeg, revision == row.revision and not row.preview)


def _kept(jpeg: bytes, current: bool) -> HttpResponse:
    response = HttpResponse(jpeg, content_type="image/jpeg")
    if current:
        response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return response
