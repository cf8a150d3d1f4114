"""Masks out as grey pictures and in again, and what of masks and casts lies under a place."""

from pathlib import Path
from typing import Literal

from django.http import HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from config.downloads import named
from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.errors import PlaceError
from nubilis.mask.picture import Picture
from nubilis.photo.grey import BITS, grey_file
from nubilis.photo.write import MEDIA_TYPE, SUFFIX
from nubilis.planning import read_mask
from nubilis.proof.at_place import Covering, amount_at, parts_at
from nubilis.proof.key_levels import key_levels
from nubilis.recipe.document import Recipe
from nubilis.recipe.model import Identifier, Place
from shoots.services.find import seen_photo, worked_photo
from shoots.store import keep_asset
from studio.engines import engines

router = Router(tags=["studio"])


class MaskIn(Schema):
    """cast: whose mask; part: of it that one alone, else the whole."""

    recipe: Recipe
    cast: str
    part: str | None = None
    file_format: Literal["png", "png16", "tiff", "tiff16"] = "png16"


@router.post("/photos/{photo_id}/mask")
@computes(large=True)
def take_out(request: Request, photo_id: int, payload: MaskIn) -> HttpResponse:
    """The mask at full size as a grey picture, white inside."""
    row = seen_photo(request.user, photo_id)
    cast = next((c for c in payload.recipe.casts if c.id == payload.cast), None)
    if cast is None:
        raise PlaceError("the recipe has no such cast")
    mask = cast.mask
    if payload.part is not None:
        mask = mask.only(payload.part)
    form = payload.file_format
    codes = engines.get(row).mask_codes(mask, BITS[form], payload.recipe.state)
    response = HttpResponse(grey_file(codes, form), content_type=MEDIA_TYPE[form])
    name = f"{Path(row.file_name).stem}-mask{SUFFIX[form]}"
    named(response, name)
    return response


@router.post("/photos/{photo_id}/mask-picture", response=Picture)
@computes
def bring_in(
    request: Request, photo_id: int, file: File[UploadedFile], id: Form[Identifier]
) -> Picture:
    """A grey picture of the photo's own size as a part."""
    row = worked_photo(request.user, photo_id)
    path = Path(file.temporary_file_path())  # type: ignore[attr-defined]
    asset = keep_asset(read_mask(path, engines.get(row).photo), row)
    return Picture(id=id, asset=asset)


class LevelsIn(Schema):
    recipe: Recipe
    cast: str


class LevelsOut(Schema):
    """Rows of hue, saturation, luminance; the photo's fullest bin is 1, and the mask's share its scale."""

    photo: list[list[float]]
    mask: list[list[float]]


@router.post("/photos/{photo_id}/key-levels", response=LevelsOut)
@computes
def levels(request: Request, photo_id: int, payload: LevelsIn) -> LevelsOut:
    """How much there is of each colour, in the photo and under a cast's mask."""
    engine = engines.get(seen_photo(request.user, photo_id))
    read = key_levels(engine, payload.recipe, payload.cast)
    return LevelsOut(photo=read.photo.round(3).tolist(), mask=read.mask.round(3).tolist())


class AtIn(Schema):
    recipe: Recipe
    at: Place


@router.post("/photos/{photo_id}/parts-at", response=list[Covering])
@computes
def at_place(request: Request, photo_id: int, payload: AtIn) -> list[Covering]:
    """Which parts of which casts' masks cover a place."""
    return parts_at(engines.get(seen_photo(request.user, photo_id)), payload.recipe, payload.at)


class AmountIn(AtIn):
    cast: str


class AmountOut(Schema):
    """amount: the mean of the cast's pairs is 1; none where nothing is masked, or the cast does nothing."""

    amount: float | None


@router.post("/photos/{photo_id}/amount-at", response=AmountOut)
@computes
def amount_here(request: Request, photo_id: int, payload: AmountIn) -> AmountOut:
    """How much of a cast is found at a place."""
    engine = engines.get(seen_photo(request.user, photo_id))
    return AmountOut(amount=amount_at(engine, payload.recipe, payload.cast, payload.at))
