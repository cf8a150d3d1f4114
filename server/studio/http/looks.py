"""Looks over a photo: our own, tables from files; what they do; and a treatment's colours as a table."""

from pathlib import Path

from ninja import File, Router, Schema
from ninja.files import UploadedFile

from config.requests import Request
from nubilis.errors import TableError
from nubilis.library.looks import OWN, own_table
from nubilis.look.cube import MOST_BYTES, read_cube, write_cube
from nubilis.proof.colour_table import colour_table
from nubilis.proof.look_effect import Effect, look_effect
from nubilis.recipe.asset import TableFile
from nubilis.recipe.document import Recipe
from shoots.services.find import own_photo
from shoots.store import keep_table
from studio.engines import engines

router = Router(tags=["studio"])


class OwnLookOut(Schema):
    name: str
    purpose: str


@router.get("/looks", response=list[OwnLookOut])
def own_looks(request: Request) -> list[OwnLookOut]:
    """Looks of our own."""
    return [OwnLookOut(name=one.name, purpose=one.purpose) for one in OWN]


class OwnLookIn(Schema):
    name: str


@router.post("/photos/{photo_id}/looks/own", response=TableFile)
def lay(request: Request, photo_id: int, payload: OwnLookIn) -> TableFile:
    """The table of a look of our own, for the photo's recipe."""
    return keep_table(own_table(payload.name), payload.name, own_photo(request.user, photo_id))


@router.post("/photos/{photo_id}/looks/file", response=TableFile)
def bring_in(request: Request, photo_id: int, file: File[UploadedFile]) -> TableFile:
    """A .cube table of one's own."""
    row = own_photo(request.user, photo_id)
    if (file.size or 0) > MOST_BYTES:
        raise TableError(f"a table of more than {MOST_BYTES // 2**20} MB is not read")
    data = file.read()
    name = read_cube(data).title or Path(file.name or "look").stem
    return keep_table(data, name[:120], row)


class EffectIn(Schema):
    recipe: Recipe


@router.post("/photos/{photo_id}/look-effect", response=list[Effect])
def effect(request: Request, photo_id: int, payload: EffectIn) -> list[Effect]:
    """What the look does to skin and greys."""
    engine = engines.get(own_photo(request.user, photo_id))
    return list(look_effect(engine, payload.recipe))


class TableIn(Schema):
    """cast: of that one by itself; else of base, casts and look together."""

    recipe: Recipe
    cast: str | None = None
    size: int = 33


class TableOut(Schema):
    """file: the text of a .cube table; mean, largest: CIEDE2000 to the engine on the photo's colours."""

    file: str
    left_out: list[str]
    mean: float
    largest: float


@router.post("/photos/{photo_id}/colour-table", response=TableOut)
def colours_out(request: Request, photo_id: int, payload: TableIn) -> TableOut:
    """The colour part of a treatment as a table."""
    engine = engines.get(own_photo(request.user, photo_id))
    made = colour_table(engine, payload.recipe, payload.cast, payload.size)
    return TableOut(
        file=write_cube(made.cube).decode(),
        left_out=list(made.left_out),
        mean=made.mean,
        largest=made.largest,
    )
