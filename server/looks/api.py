"""Looks: our own and a person's; what one does to a photo; and a treatment's colours as a table."""

from pathlib import Path
from typing import Annotated, Literal

from ninja import File, Form, Router
from ninja.files import UploadedFile
from pydantic import Field

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from looks.models import KeptLook
from looks.services.keep import forget, keep, looks_of
from nubilis.colour.profile import srgb
from nubilis.errors import TableError
from nubilis.library.looks import OWN, own_table
from nubilis.look.cube import MOST_BYTES, read_cube, write_cube
from nubilis.proof.colour_table import colour_table
from nubilis.proof.look_effect import Effect, look_effect
from nubilis.readable import Readable, made_readable
from nubilis.recipe.asset import LONGEST_NAME, TableFile
from nubilis.recipe.document import Recipe
from shoots.services.find import seen_photo, worked_photo
from shoots.store import keep_table
from studio.engines import engines
from studio.services.people import known_lips

router = Router(tags=["looks"])


class LookOut(Schema):
    """id, table: of one that the person keeps; one of our own is made into a table when it is laid."""

    id: int | None
    name: str
    purpose: str
    table: TableFile | None


def _kept_out(row: KeptLook) -> LookOut:
    return LookOut(id=row.id, name=row.name, purpose="kept by you", table=row.table)


@router.get("/looks", response=list[LookOut])
def looks(request: Request) -> list[LookOut]:
    """Our own, then those that the person keeps."""
    own = [LookOut(id=None, name=o.name, purpose=o.purpose, table=None) for o in OWN]
    return own + [_kept_out(row) for row in looks_of(request.user)]


@router.post("/looks", response=LookOut)
def bring_in(
    request: Request,
    file: File[UploadedFile],
    name: Form[Annotated[str, Field(max_length=LONGEST_NAME), Readable]] = "",
) -> LookOut:
    """Keep a .cube table, under a name or its own title; one of the same name is replaced."""
    if (file.size or 0) > MOST_BYTES:
        raise TableError(f"a table of more than {MOST_BYTES // 2**20} MB is not read")
    data = file.read()
    known = name.strip() or made_readable(read_cube(data).title or Path(file.name or "look").stem)
    return _kept_out(keep(request.user, data, known[:LONGEST_NAME]))


@router.delete("/looks/{int:look_id}", response={204: None})
def remove(request: Request, look_id: int) -> tuple[int, None]:
    """Photos on which it lies keep it."""
    forget(request.user, look_id)
    return 204, None


class OwnLookIn(Schema):
    name: str


@router.post("/photos/{photo_id}/looks/own", response=TableFile)
@computes
def lay(request: Request, photo_id: int, payload: OwnLookIn) -> TableFile:
    """The table of a look of our own, for the photo's recipe."""
    row = worked_photo(request.user, photo_id)
    return keep_table(own_table(payload.name), payload.name, row)


class EffectIn(Schema):
    recipe: Recipe


@router.post("/photos/{photo_id}/look-effect", response=list[Effect])
@computes
def effect(request: Request, photo_id: int, payload: EffectIn) -> list[Effect]:
    """What the look does to skin, lips and greys."""
    row = seen_photo(request.user, photo_id)
    return list(look_effect(engines.get(row), payload.recipe, known_lips(row)))


class TableIn(Schema):
    """cast: of that one by itself; else of base, casts and look together; codes: what the table's numbers
    are codes of."""

    recipe: Recipe
    cast: str | None = None
    size: int = 33
    codes: Literal["srgb", "photo"] = "srgb"


class TableOut(Schema):
    """file: the text of a .cube table; mean, largest: CIEDE2000 to the engine on the photo's colours."""

    file: str
    left_out: list[str]
    mean: float
    largest: float


@router.post("/photos/{photo_id}/colour-table", response=TableOut)
@computes(large=True)
def colours_out(request: Request, photo_id: int, payload: TableIn) -> TableOut:
    """The colour part of a treatment as a table."""
    engine = engines.get(seen_photo(request.user, photo_id))
    space = engine.photo.profile if payload.codes == "photo" else srgb()
    made = colour_table(engine, payload.recipe, payload.cast, payload.size, space)
    return TableOut(
        file=write_cube(made.cube).decode(),
        left_out=list(made.left_out),
        mean=made.mean,
        largest=made.largest,
    )
