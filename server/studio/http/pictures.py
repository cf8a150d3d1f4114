"""Pixels and measured places of one photo, under the recipe that is being worked on."""

from typing import Annotated, Literal

import imagecodecs
from django.http import HttpResponse
from ninja import Router
from pydantic import Field

from config.operations import computes
from config.requests import Request
from config.schema import Schema
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
from shoots.models import Photo
from shoots.services.find import seen_photo
from studio.engines import engines
from studio.services.drawing import data_address
from studio.services.figure_pictures import ShownFigure, figure_picture
from studio.services.looking import Said, field_map

router = Router(tags=["studio"])

# While a handle moves, a picture that is coded and decoded in half the time; it is replaced at rest.
JPEG = {False: (92, "444"), True: (85, "420")}
MAX_VIEW_PIXELS, MAX_VIEW_SIDE = 20_000_000, 30_000


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


@router.post("/photos/{photo_id}/picture")
@computes
def picture(request: Request, photo_id: int, payload: PictureIn) -> HttpResponse:
    """A JPEG of a region at a zoom."""
    row = seen_photo(request.user, photo_id)
    view = View(payload.size, payload.region).checked(engines.get(row).photo)
    if view.shape[0] * view.shape[1] > MAX_VIEW_PIXELS or max(view.shape) > MAX_VIEW_SIDE:
        raise PlaceError("a view may have 20 million pixels, and 30,000 a side, at most")
    codes = _codes(row, payload, view)
    level, subsampling = JPEG[payload.draft]
    jpeg = imagecodecs.jpeg8_encode(codes, level=level, subsampling=subsampling)
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
@computes
def measure(request: Request, photo_id: int, payload: MeasureIn) -> MeasuredOut:
    engine = engines.get(seen_photo(request.user, photo_id))
    recipe = payload.recipe
    came = _measured(engine, payload)
    before = (
        _measured(engine, payload, recipe.uncast)
        if recipe and (recipe.state.active or recipe.look)
        else came
    )
    now = _measured(engine, payload, recipe) if recipe else None
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
