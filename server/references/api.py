"""The library of reference colours: built in, a person's own, and a shoot's."""

from typing import Annotated, Literal

from django.http import HttpResponse
from ninja import Router
from pydantic import Field

from config.downloads import named
from config.requests import Request
from config.schema import Schema
from nubilis.colour.cielab import lab_to_linear_rgb
from nubilis.colour.profile import srgb
from nubilis.engine.sample import Measured, describe
from nubilis.library.built_in import built_in
from nubilis.library.exchange import read_references, to_csv, to_json
from nubilis.library.reference import Group, Reference
from references.models import KeptReference
from references.services import keep as library
from shoots.services.find import accesses, seen_shoot

router = Router(tags=["references"])
WRITERS = {"json": (to_json, "application/json"), "csv": (to_csv, "text/csv; charset=utf-8")}


class ReferenceIn(Schema):
    """reference: what to keep; shoot: for that one only, else for all."""

    reference: Reference
    shoot: int | None = None


class ReferenceOut(Schema):
    """id: None for a colour that is built in."""

    id: int | None
    shoot: int | None
    shoot_name: str
    name: str
    group: Group
    note: str
    colour: Measured


class ImportIn(Schema):
    text: Annotated[str, Field(max_length=2_000_000)]
    shoot: int | None = None


class Imported(Schema):
    """already: how many were kept before."""

    added: int
    already: int


@router.get("/references", response=list[ReferenceOut])
def references(request: Request, shoot: int | None = None) -> list[ReferenceOut]:
    """Built-in ones, then kept ones; shoot: leave out those of other shoots."""
    rows = KeptReference.objects.filter(owner=request.user).select_related("shoot")
    kept = [r for r in rows if shoot is None or r.shoot_id in (None, shoot)]
    may = accesses(request.user, {r.shoot for r in kept if r.shoot})
    return [_out(r) for r in built_in()] + [_kept_out(r, r.shoot_id in may) for r in kept]


@router.post("/references", response=ReferenceOut)
def add(request: Request, payload: ReferenceIn) -> ReferenceOut:
    """Keep a colour; one that is kept already is given back."""
    new = library.keep(request.user, [payload.reference], payload.shoot)
    if new:
        return _kept_out(new[0])
    shoot = None if payload.shoot is None else seen_shoot(request.user, payload.shoot)
    there = KeptReference.objects.filter(owner=request.user, shoot=shoot)
    return next(_kept_out(r) for r in there if r.reference == payload.reference)


@router.put("/references/{int:reference_id}", response=ReferenceOut)
def change(request: Request, reference_id: int, payload: ReferenceIn) -> ReferenceOut:
    row = library.own_reference(request.user, reference_id)
    shoot = None if payload.shoot is None else seen_shoot(request.user, payload.shoot)
    library.write(row, payload.reference, shoot)
    return _kept_out(row)


@router.delete("/references/{int:reference_id}", response={204: None})
def remove(request: Request, reference_id: int) -> tuple[int, None]:
    library.own_reference(request.user, reference_id).delete()
    return 204, None


@router.post("/references/import", response=Imported)
def bring_in(request: Request, payload: ImportIn) -> Imported:
    """A file's text, JSON or CSV."""
    given = read_references(payload.text)
    added = library.keep(request.user, given, payload.shoot)
    return Imported(added=len(added), already=len(given) - len(added))


@router.get("/references/export.{kind}")
def take_out(
    request: Request, kind: Literal["json", "csv"], shoot: int | None = None
) -> HttpResponse:
    """What the person keeps, or what is kept for one shoot, as a file."""
    rows = KeptReference.objects.filter(owner=request.user)
    if shoot is not None:
        rows = rows.filter(shoot=seen_shoot(request.user, shoot))
    written, media = WRITERS[kind]
    response = HttpResponse(written(r.reference for r in rows), content_type=media)
    named(response, f"references.{kind}")
    return response


def _kept_out(row: KeptReference, seen: bool = True) -> ReferenceOut:
    """seen: whether whoever keeps it still sees its shoot."""
    return _out(row.reference, row, row.shoot.name if row.shoot and seen else "")


def _out(one: Reference, row: KeptReference | None = None, shoot: str = "") -> ReferenceOut:
    red, green, blue = (float(v) for v in lab_to_linear_rgb(one.lab))
    return ReferenceOut(
        id=row.id if row else None,
        shoot=row.shoot_id if row else None,
        shoot_name=shoot,
        name=one.name,
        group=one.group,
        note=one.note,
        colour=describe((red, green, blue), srgb()),
    )
