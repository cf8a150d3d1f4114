"""Full-size files out."""

import mimetypes
from functools import partial
from typing import Annotated
from uuid import UUID

from django.http import HttpResponseBase, StreamingHttpResponse
from ninja import Router
from pydantic import Field

from config.downloads import named as named_as
from config.downloads import sent
from config.errors import Missing
from config.requests import Request
from config.schema import Schema
from delivery.models import Delivery, Preset
from delivery.services import presets as kept
from delivery.services.deliver import files_of, said_of, start_delivering, start_delivery
from delivery.services.order import Order
from delivery.services.zipped import zipped
from jobs.api import JobOut, job_out
from jobs.services.start import own_job
from nubilis.deliver.names import FIELDS, named
from nubilis.photo.write import MEDIA_TYPE, SUFFIX
from nubilis.readable import Readable
from shoots import files
from shoots.services.find import seen_photo, shared_with, worked_photo, worked_photos, worked_shoot
from studio.services.save_recipe import current

router = Router(tags=["delivery"])
_MEDIA = {SUFFIX[name]: media for name, media in MEDIA_TYPE.items()} | {".cube": "text/plain"}


class DeliverIn(Schema):
    """revision: the one that was looked at."""

    revision: int
    order: Order


class DeliverSetIn(Schema):
    photos: Annotated[list[int], Field(min_length=1, max_length=2000)]
    order: Order


class DeliveryOut(Schema):
    """unchanged: share of the pixels that are exactly the original's; None where that has no meaning; notes:
    what the file has no place for."""

    id: UUID
    name: str
    size_bytes: int
    unchanged: float | None
    notes: list[str]


class PatternIn(Schema):
    names: str


class PatternOut(Schema):
    """example: a name that the pattern makes; fields: what it may say in braces."""

    example: str
    fields: list[str]


class PresetIn(Schema):
    name: Annotated[str, Field(min_length=1, max_length=60), Readable]
    order: Order


class PresetOut(Schema):
    id: int
    name: str
    order: Order


@router.post("/photos/{photo_id}/deliveries", response=JobOut)
def make(request: Request, photo_id: int, payload: DeliverIn) -> JobOut:
    """Begin to make a file; the job tells when it is there."""
    photo = worked_photo(request.user, photo_id)
    job = start_delivery(request.user, photo, payload.revision, payload.order)
    return job_out(job)


@router.post("/shoots/{shoot_id}/deliveries", response=JobOut)
def make_set(request: Request, shoot_id: int, payload: DeliverSetIn) -> JobOut:
    """Begin to make the files of some photos, each as it is saved."""
    shoot = worked_shoot(request.user, shoot_id)
    photos = worked_photos(request.user, shoot_id, payload.photos)
    return job_out(start_delivering(request.user, shoot, photos, payload.order))


@router.post("/photos/{photo_id}/delivery-name", response=PatternOut)
def try_pattern(request: Request, photo_id: int, payload: PatternIn) -> PatternOut:
    """What a pattern would call this photo's file. Refuses one that makes no sense."""
    photo = seen_photo(request.user, photo_id)
    said = said_of(photo, current(photo).recipe, 1)
    return PatternOut(example=named(payload.names, said), fields=list(FIELDS))


@router.get("/delivery-presets", response=list[PresetOut])
def presets(request: Request) -> list[PresetOut]:
    return [_preset_out(row) for row in Preset.objects.filter(owner=request.user)]


@router.post("/delivery-presets", response=PresetOut)
def keep_preset(request: Request, payload: PresetIn) -> PresetOut:
    """Under a name; one of the same name is replaced."""
    return _preset_out(kept.keep(request.user, payload.name, payload.order))


@router.delete("/delivery-presets/{int:preset_id}", response={204: None})
def forget_preset(request: Request, preset_id: int) -> tuple[int, None]:
    kept.forget(request.user, preset_id)
    return 204, None


def _preset_out(row: Preset) -> PresetOut:
    return PresetOut(id=row.id, name=row.name, order=Order(**row.document))


@router.get("/jobs/{uuid:job_id}/files.zip")
def download_set(request: Request, job_id: UUID) -> StreamingHttpResponse:
    """All files of a job in one."""
    found = files_of(own_job(request.user, job_id), request.user)
    if not found:
        raise Missing
    response = StreamingHttpResponse(zipped(found), content_type="application/zip")
    named_as(response, "delivered.zip")
    return response


@router.get("/deliveries/{delivery_id}/about", response=DeliveryOut)
def about(request: Request, delivery_id: UUID) -> DeliveryOut:
    return DeliveryOut.model_validate(_own(request, delivery_id), from_attributes=True)


def _own(request: Request, delivery_id: UUID) -> Delivery:
    there = Delivery.objects.filter(shared_with(request.user, shoot="photo__shoot__"))
    row = there.filter(id=delivery_id).first()
    if row is None or files.size(row.stored_as) is None:
        raise Missing
    return row


@router.get("/deliveries/{delivery_id}")
def download(request: Request, delivery_id: UUID) -> HttpResponseBase:
    """The file itself, or a part of it."""
    row = _own(request, delivery_id)
    response = sent(request, row.size_bytes, partial(files.pieces, row.stored_as), str(row.id))
    media = _MEDIA.get(row.ending) or mimetypes.guess_type(row.name)[0]
    response.headers["Content-Type"] = media or "application/octet-stream"
    named_as(response, row.name)
    return response
