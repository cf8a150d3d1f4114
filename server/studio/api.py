"""The work on one photo: its recipe, and pixels and figures computed from it."""

from typing import Annotated, Literal

import imagecodecs
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from nubilis.arrays import Codes
from nubilis.colour.profile import srgb
from nubilis.engine.engine import Engine
from nubilis.engine.overlay import Ink, Show, display
from nubilis.engine.sample import (
    DEFAULT_RADIUS,
    Measured,
    describe,
    measure_place,
    neutral_of,
    patch_around,
)
from nubilis.errors import PlaceError
from nubilis.find.map import in_view
from nubilis.photo.pyramid import View
from nubilis.photo.sampling import encode
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import LinearRgb, Place
from nubilis.settle.base import RESTING
from shoots.api import PhotoOut, photo_out
from shoots.models import Photo
from shoots.services.find import own_photo, own_shoot
from shoots.thumbnails import thumbnail_path, write_thumbnail
from studio.drawing import data_address
from studio.engines import engines
from studio.services import figures as dial_figures
from studio.services import save_recipe as history
from studio.services.copy_casts import copy_casts
from studio.services.linked import carry_over, linked_photos
from studio.services.looking import Said, field_map
from studio.services.seen_figures import ShownFigure, figure_picture
from studio.state import RecipeState, StepIn, state_out

router = Router(tags=["studio"])

# While a handle moves, a picture that is coded and decoded in half the time; it is replaced at rest.
JPEG = {False: {"level": 92, "subsampling": "444"}, True: {"level": 85, "subsampling": "420"}}
MAX_VIEW_PIXELS = 20_000_000


class PhotoWithRecipe(Schema):
    """neighbours: ids of the shoot's photos in order, for paging."""

    photo: PhotoOut
    shoot_id: int
    shoot_name: str
    neighbours: list[int]
    state: RecipeState


class SaveIn(Schema):
    """revision: the one that the recipe was made from."""

    revision: int
    recipe: Recipe


class CopyIn(Schema):
    """casts: ids, None for all; mask_only: without their samples; to: ids of photos."""

    casts: list[str] | None = None
    mask_only: bool = False
    to: Annotated[list[int], Field(min_length=1, max_length=1000)]


class CopyOut(Schema):
    """casts: how many each of the photos was given."""

    photos: int
    casts: int


class PictureIn(Schema):
    """size: the whole photo at this zoom; region: x0, y0, x1, y1 in its pixels; cast: whose mask;
    part: of the mask that one alone; ink: what the mask is drawn with; with "map", after which words
    the finder's field is shown; figure: instead, the pixels behind a line of the proof; draft: coded
    quickly, for the time that a handle moves."""

    recipe: Recipe
    size: tuple[int, int]
    region: tuple[int, int, int, int]
    show: Show | Literal["map"] = Show.NOW
    cast: str | None = None
    part: str | None = None
    ink: Ink = Ink()
    said: Said = Said()
    figure: ShownFigure | None = None
    draft: bool = False


class MeasureIn(Schema):
    """at, radius: fractions of the long edge; further: places that count with it, as a drag collects
    them; recipe: measure its result too."""

    at: Place
    further: Annotated[list[Place], Field(max_length=60)] = []
    radius: Annotated[float, Field(ge=0.0, le=0.05, allow_inf_nan=False)] = DEFAULT_RADIUS
    recipe: Recipe | None = None
    patch: bool = False


class MeasuredOut(Schema):
    """came: linear Rec. 2020 of the photo as it came, what a sample keeps; before: of the settled photo;
    now: treated; neutral: the made neutral of the luminance before; patch: a PNG of the photo's own
    pixels around the place, as a data address, patch_pixels wide and high."""

    came: LinearRgb
    before: Measured
    now: Measured | None
    neutral: Measured
    patch: str | None
    patch_pixels: int


@router.get("/photos/{photo_id}", response=PhotoWithRecipe)
def photo(request: HttpRequest, photo_id: int) -> PhotoWithRecipe:
    row = own_photo(request.user, photo_id)
    return PhotoWithRecipe(
        photo=photo_out(row),
        shoot_id=row.shoot.id,
        shoot_name=row.shoot.name,
        neighbours=list(row.shoot.photos.values_list("id", flat=True)),
        state=state_out(history.current(row)),
    )


@router.get("/photos/{photo_id}/recipe", response=RecipeState)
def recipe(request: HttpRequest, photo_id: int) -> RecipeState:
    return state_out(history.current(own_photo(request.user, photo_id)))


@router.put("/photos/{photo_id}/recipe", response=RecipeState)
def save(request: HttpRequest, photo_id: int, payload: SaveIn) -> RecipeState:
    row = own_photo(request.user, photo_id)
    return state_out(history.save_recipe(row, payload.revision, payload.recipe, request.user))


@router.post("/photos/{photo_id}/undo", response=RecipeState)
def undo(request: HttpRequest, photo_id: int, payload: StepIn) -> RecipeState:
    return state_out(
        history.undo(own_photo(request.user, photo_id), payload.revision, request.user)
    )


@router.post("/photos/{photo_id}/redo", response=RecipeState)
def redo(request: HttpRequest, photo_id: int, payload: StepIn) -> RecipeState:
    return state_out(
        history.redo(own_photo(request.user, photo_id), payload.revision, request.user)
    )


@router.post("/photos/{photo_id}/copy", response=CopyOut)
def copy(request: HttpRequest, photo_id: int, payload: CopyIn) -> CopyOut:
    """Carry casts of the saved recipe over to other photos."""
    row = own_photo(request.user, photo_id)
    to = [own_photo(request.user, i) for i in dict.fromkeys(payload.to) if i != row.id]
    casts = copy_casts(row, payload.casts, to, request.user, mask_only=payload.mask_only)
    return CopyOut(photos=len(to), casts=casts)


class LinksIn(Schema):
    cast: str


class LinksOut(Schema):
    """photos: titles of the others that share the cast."""

    photos: list[str]


@router.post("/photos/{photo_id}/links", response=LinksOut)
def links(request: HttpRequest, photo_id: int, payload: LinksIn) -> LinksOut:
    """Which photos share a cast of the saved recipe; none when it is not there."""
    row = own_photo(request.user, photo_id)
    cast = next((c for c in history.current(row).recipe.casts if c.id == payload.cast), None)
    return LinksOut(photos=[p.title for p in linked_photos(row, cast)] if cast else [])


class CarriedOut(Schema):
    photos: int


@router.post("/photos/{photo_id}/carry-over", response=CarriedOut)
def carry(request: HttpRequest, photo_id: int, payload: LinksIn) -> CarriedOut:
    """Bring the photos that share a cast of the saved recipe up to date with it."""
    row = own_photo(request.user, photo_id)
    return CarriedOut(photos=carry_over(row, payload.cast, request.user))


@router.post("/photos/{photo_id}/picture")
def picture(request: HttpRequest, photo_id: int, payload: PictureIn) -> HttpResponse:
    """A JPEG of a region at a zoom."""
    row = own_photo(request.user, photo_id)
    view = View(payload.size, payload.region).checked(engines.get(row).photo)
    if view.shape[0] * view.shape[1] > MAX_VIEW_PIXELS:
        raise PlaceError("a view may have 20 million pixels at most")
    codes = _codes(row, payload, view)
    jpeg = imagecodecs.jpeg8_encode(codes, **JPEG[payload.draft])
    response = HttpResponse(bytes(jpeg), content_type="image/jpeg")
    response.headers["Cache-Control"] = "no-store"
    return response


def _codes(row: Photo, asked: PictureIn, view: View) -> Codes:
    recipe = asked.recipe
    if asked.figure:
        return in_view(figure_picture(row, recipe, asked.figure, asked.cast), view)
    if asked.show == "map":
        return in_view(field_map(row, recipe, asked.said), view)
    show = Show(asked.show)
    return display(engines.get(row), recipe, view, show, asked.cast, asked.ink, asked.part)


@router.post("/photos/{photo_id}/measure", response=MeasuredOut)
def measure(request: HttpRequest, photo_id: int, payload: MeasureIn) -> MeasuredOut:
    engine = _engine(request, photo_id)
    recipe = payload.recipe
    came = _measured(engine, payload)
    base = recipe.base if recipe else RESTING
    before = _measured(engine, payload, Recipe(base=base)) if base.active else came
    now = recipe and _measured(engine, payload, recipe)
    patch = encode(patch_around(engine, payload.at), srgb()) if payload.patch else None
    return MeasuredOut(
        came=came.rgb,
        before=before,
        now=now,
        neutral=describe(neutral_of(before.rgb), engine.photo.profile),
        patch=None if patch is None else data_address(patch),
        patch_pixels=0 if patch is None else patch.shape[0],
    )


def _measured(engine: Engine, asked: MeasureIn, recipe: Recipe | None = None) -> Measured:
    return measure_place(engine, asked.at, asked.radius, recipe, asked.further)


@router.get("/photos/{photo_id}/figures", response=list[dial_figures.Dial])
def figures(request: HttpRequest, photo_id: int) -> list[dial_figures.Dial]:
    return dial_figures.dials(own_photo(request.user, photo_id))


class KnownFigures(Schema):
    photo: int
    dials: list[dial_figures.Dial]


@router.get("/shoots/{shoot_id}/figures", response=list[KnownFigures])
def known_figures(request: HttpRequest, shoot_id: int) -> list[KnownFigures]:
    """Of the photos whose figures are known already; those of the others are asked for one by one."""
    photos = own_shoot(request.user, shoot_id).photos.all()
    known = dial_figures.known_dials(photos)
    return [KnownFigures(photo=photo, dials=dials) for photo, dials in known.items()]


@router.get("/photos/{photo_id}/thumbnail")
def thumbnail(request: HttpRequest, photo_id: int, revision: int = 0) -> HttpResponse:
    """The photo as treated now; the browser may keep it, since its address names the revision."""
    row = own_photo(request.user, photo_id)
    now = history.current(row).recipe
    path = thumbnail_path(row.content_hash, now)
    if not path.is_file():
        write_thumbnail(engines.get(row), row.content_hash, now)
    response = HttpResponse(path.read_bytes(), content_type="image/jpeg")
    if revision == row.revision:
        response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


def _engine(request: HttpRequest, photo_id: int) -> Engine:
    return engines.get(own_photo(request.user, photo_id))
