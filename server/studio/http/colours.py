"""Colours turned into what the bench needs: a key round them, their values, the light of a neutral."""

from typing import Annotated

from ninja import Router
from pydantic import Field

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from nubilis.colour.temperature import light_of_neutral
from nubilis.engine.sample import Measured, Space, describe, typed
from nubilis.mask.colour_key import MOST_COLOURS, ColourKey, key_with, key_without
from nubilis.recipe.model import LinearRgb
from nubilis.settle.apply import settled_colour
from nubilis.settle.base import Base
from shoots.services.find import seen_photo
from studio.engines import engines
from studio.services import memory

router = Router(tags=["studio"])
_Number = Annotated[float, Field(allow_inf_nan=False)]


class KeyIn(Schema):
    """colours: as the photo came, linear Rec. 2020; key: a key that is to take them in as well, or, with
    leave_out, to leave them out."""

    id: str
    base: Base = Base()
    colours: Annotated[list[LinearRgb], Field(min_length=1, max_length=MOST_COLOURS)]
    key: ColourKey | None = None
    leave_out: bool = False
    spacious: Annotated[float, Field(ge=1.0, le=4.0)] = 1.0


@router.post("/photos/{photo_id}/key", response=ColourKey)
@computes
def key(request: Request, photo_id: int, payload: KeyIn) -> ColourKey:
    """A colour key that takes the given colours in, or leaves them out."""
    seen_photo(request.user, photo_id)
    base = payload.base
    colours = [settled_colour(c, base) if base.active else c for c in payload.colours]
    if payload.key is not None and payload.leave_out:
        return key_without(payload.key, colours)
    return key_with(payload.key, colours, payload.id, payload.spacious)


@router.get("/photos/{photo_id}/materials", response=list[memory.KnownMaterial])
def materials(request: Request, photo_id: int) -> list[memory.KnownMaterial]:
    """Colours that were sampled in other photos of the shoot, for this one's references."""
    return memory.materials(seen_photo(request.user, photo_id))


class NeutralIn(Schema):
    """colour: as the photo came, linear Rec. 2020."""

    colour: LinearRgb


class ColourIn(Schema):
    """values: three, as the space has them (see nubilis.engine.sample.typed)."""

    space: Space = "lab"
    values: tuple[_Number, _Number, _Number]


@router.post("/photos/{photo_id}/colour", response=Measured)
@computes
def colour(request: Request, photo_id: int, payload: ColourIn) -> Measured:
    """A typed colour in every unit."""
    profile = engines.get(seen_photo(request.user, photo_id)).photo.profile
    return describe(typed(payload.space, payload.values, profile), profile)


class SeenIn(Schema):
    """colours: linear Rec. 2020, as they are to be seen."""

    colours: Annotated[list[LinearRgb], Field(min_length=1, max_length=MOST_COLOURS)]


@router.post("/photos/{photo_id}/seen", response=list[Measured])
@computes
def seen(request: Request, photo_id: int, payload: SeenIn) -> list[Measured]:
    """Colours of a recipe in every unit, and as a screen shows them."""
    profile = engines.get(seen_photo(request.user, photo_id)).photo.profile
    return [describe(c, profile) for c in payload.colours]


class LightOut(Schema):
    """temperature in kelvin, tint in thousandths of Duv."""

    temperature: float
    tint: float


@router.post("/photos/{photo_id}/light", response=LightOut)
@computes
def light(request: Request, photo_id: int, payload: NeutralIn) -> LightOut:
    """The light under which a colour is a neutral."""
    seen_photo(request.user, photo_id)
    temperature, tint = light_of_neutral(payload.colour)
    return LightOut(temperature=temperature, tint=tint)
