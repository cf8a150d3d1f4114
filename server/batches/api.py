"""Treating a selection: proposed, looked at, corrected, taken, and taken back."""

import hashlib
from typing import Annotated, Literal
from uuid import UUID

from django.http import HttpResponse
from ninja import Router
from pydantic import Field

from accounts.models import User
from batches.models import Batch, Proposal
from batches.services import correct as corrections
from batches.services.propose import start_batch, work_on
from batches.services.take import Taken, own_batch, own_proposal, take, take_back, within_reach
from config.operations import computes
from config.requests import Request
from config.schema import Schema
from jobs.api import JobOut, job_out
from nubilis.engine.overlay import Show
from nubilis.mask.brush import Stroke
from nubilis.recipe.kinds import letter
from shoots.services.find import worked_photo, worked_photos, worked_shoot
from studio.services.copy_casts import check_same_owner
from studio.services.drawing import drawn_small

router = Router(tags=["batches"])
Share = Annotated[float, Field(ge=0.0, le=1.0)]


class BatchIn(Schema):
    """kind: adopt what was found, carry a photo's casts over with shapes that stay, or follow them through a
    series. source, casts: the photo and which of its casts, None for all; least, causes, amount: of findings,
    how sure they must be, of which causes (none: any), and which share of the modest amount is taken off."""

    kind: Literal["adopt", "carry", "follow"]
    photos: Annotated[list[int], Field(min_length=1, max_length=2000)]
    source: int | None = None
    casts: list[str] | None = None
    least: Share = 0.5
    causes: list[str] = []
    amount: Annotated[float, Field(gt=0.0, le=1.5)] = 1.0


class CastName(Schema):
    id: str
    letter: str
    name: str
    on: bool


class ProposalOut(Schema):
    """casts: of the whole recipe as proposed; stamp: another for every other recipe."""

    photo: int
    title: str
    revision: int
    proposed: bool
    before: float | None
    after: float | None
    confidence: float
    check: bool
    note: str
    key: bool
    taken: bool
    undone: bool
    casts: list[CastName]
    stamp: str
    width: int
    height: int


class BatchOut(Schema):
    id: UUID
    kind: str
    shoot: int
    shoot_name: str
    source: int | None
    proposals: list[ProposalOut]


class Begun(Schema):
    batch: UUID
    job: JobOut


class TakeIn(Schema):
    """photos: ids, None for all."""

    photos: list[int] | None = None


class TakenOut(Schema):
    photos: int
    left: list[str]
    batch: BatchOut


class CorrectIn(Schema):
    """strokes: laid over the mask, or, those that erase, taken from it."""

    cast: str
    strokes: Annotated[list[Stroke], Field(min_length=1, max_length=200)]


@router.post("/shoots/{shoot_id}/batches", response=Begun)
def begin(request: Request, shoot_id: int, payload: BatchIn) -> Begun:
    shoot = worked_shoot(request.user, shoot_id)
    photos = worked_photos(request.user, shoot_id, payload.photos)
    source = None if payload.source is None else worked_photo(request.user, payload.source)
    if source is not None:
        check_same_owner(source, photos)
    more = payload.model_dump(include={"casts", "least", "causes", "amount"})
    batch, job = start_batch(request.user, shoot, payload.kind, photos, source, **more)
    return Begun(batch=batch.id, job=job_out(job))


@router.get("/batches/{uuid:batch_id}", response=BatchOut)
def batch(request: Request, batch_id: UUID) -> BatchOut:
    return _batch_out(own_batch(request.user, batch_id), request.user)


@router.post("/batches/{uuid:batch_id}/again", response=JobOut)
def again(request: Request, batch_id: UUID) -> JobOut:
    """Propose anew: what was corrected by hand stays, and the rest goes by it."""
    return job_out(work_on(own_batch(request.user, batch_id)))


@router.post("/batches/{uuid:batch_id}/take", response=TakenOut)
def take_some(request: Request, batch_id: UUID, payload: TakeIn) -> TakenOut:
    row = own_batch(request.user, batch_id)
    return _taken_out(row, take(row, payload.photos, request.user), request.user)


@router.post("/batches/{uuid:batch_id}/take-back", response=TakenOut)
def take_all_back(request: Request, batch_id: UUID) -> TakenOut:
    """One step back on every photo that still stands as it was taken."""
    row = own_batch(request.user, batch_id)
    return _taken_out(row, take_back(row, request.user), request.user)


@router.post("/batches/{uuid:batch_id}/photos/{int:photo_id}/correct", response=BatchOut)
@computes
def correct(request: Request, batch_id: UUID, photo_id: int, payload: CorrectIn) -> BatchOut:
    row = own_proposal(request.user, batch_id, photo_id)
    corrections.correct(row, payload.cast, payload.strokes)
    return _batch_out(row.batch, request.user)


@router.post("/batches/{uuid:batch_id}/photos/{int:photo_id}/let-go", response=BatchOut)
def let_go(request: Request, batch_id: UUID, photo_id: int) -> BatchOut:
    """A correction counts no more when it is followed anew."""
    row = own_proposal(request.user, batch_id, photo_id)
    corrections.let_go(row)
    return _batch_out(row.batch, request.user)


@router.get("/batches/{uuid:batch_id}/photos/{int:photo_id}/picture")
@computes
def picture(
    request: Request,
    batch_id: UUID,
    photo_id: int,
    show: Show = Show.NOW,
    cast: str | None = None,
    edge: Annotated[int, Field(ge=64, le=2400)] = 560,
    stamp: str = "",
) -> HttpResponse:
    """The photo as proposed; the browser may keep it, since its address names the recipe."""
    row = own_proposal(request.user, batch_id, photo_id)
    jpeg = drawn_small(row.photo, row.recipe, show, cast, edge)
    response = HttpResponse(jpeg, content_type="image/jpeg")
    if stamp == _stamp(row):
        response.headers["Cache-Control"] = "private, max-age=604800, immutable"
    return response


def _stamp(row: Proposal) -> str:
    return hashlib.sha256(row.document.encode()).hexdigest()[:16]


def _taken_out(row: Batch, taken: Taken, user: User) -> TakenOut:
    return TakenOut(photos=taken.photos, left=taken.left, batch=_batch_out(row, user))


def _batch_out(row: Batch, user: User) -> BatchOut:
    rows = within_reach(row, user).select_related("photo")
    return BatchOut(
        id=row.id,
        kind=row.kind,
        shoot=row.shoot_id,
        shoot_name=row.shoot.name,
        source=row.source_id,
        proposals=[_proposal_out(p) for p in rows],
    )


def _proposal_out(row: Proposal) -> ProposalOut:
    casts = row.recipe.casts if row.document else ()
    return ProposalOut(
        photo=row.photo_id,
        title=row.photo.title,
        proposed=bool(row.document),
        taken=row.taken is not None,
        check=row.to_check,
        casts=[
            CastName(id=c.id, letter=letter(i), name=c.name, on=c.on) for i, c in enumerate(casts)
        ],
        stamp=_stamp(row),
        width=row.photo.width,
        height=row.photo.height,
        **{
            name: getattr(row, name)
            for name in (
                "revision", "before", "after", "confidence", "note", "key", "undone",
            )
        },
    )  # fmt: skip
