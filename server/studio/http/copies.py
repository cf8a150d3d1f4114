"""Casts that several photos of a shoot share: copied, counted, brought up to date."""

from typing import Annotated

from ninja import Router
from pydantic import Field

from config.requests import Request
from config.schema import Schema
from jobs.api import JobOut, job_out
from shoots.services.find import seen_photo, worked_photo, worked_several
from studio.services import save_recipe as history
from studio.services.copy_casts import start_copying
from studio.services.linked import linked_photos, start_carrying_over

router = Router(tags=["studio"])


class CopyIn(Schema):
    """casts: ids, None for all; mask_only: without their samples; strokes: also those of their remedies,
    which are of places; to: ids of photos."""

    casts: list[str] | None = None
    mask_only: bool = False
    strokes: bool = False
    to: Annotated[list[int], Field(min_length=1, max_length=1000)]


@router.post("/photos/{photo_id}/copy", response=JobOut)
def copy(request: Request, photo_id: int, payload: CopyIn) -> JobOut:
    """Begin to copy casts of the saved recipe to other photos."""
    row = worked_photo(request.user, photo_id)
    to = worked_several(request.user, [i for i in payload.to if i != row.id])
    how = {"mask_only": payload.mask_only, "strokes": payload.strokes}
    return job_out(start_copying(row, payload.casts, to, request.user, **how))


class LinksIn(Schema):
    cast: str


class LinksOut(Schema):
    """photos: titles of the others that share the cast."""

    photos: list[str]


@router.post("/photos/{photo_id}/links", response=LinksOut)
def links(request: Request, photo_id: int, payload: LinksIn) -> LinksOut:
    """Which photos share a cast of the saved recipe; none when it is not there."""
    row = seen_photo(request.user, photo_id)
    cast = next((c for c in history.current(row).recipe.casts if c.id == payload.cast), None)
    return LinksOut(photos=[p.title for p in linked_photos(row, cast)] if cast else [])


@router.post("/photos/{photo_id}/carry-over", response=JobOut)
def carry(request: Request, photo_id: int, payload: LinksIn) -> JobOut:
    """Begin to bring the photos that share a cast of the saved recipe up to date with it."""
    row = worked_photo(request.user, photo_id)
    return job_out(start_carrying_over(row, payload.cast, request.user))
