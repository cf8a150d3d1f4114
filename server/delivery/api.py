"""Full-size files out."""

from typing import Literal
from uuid import UUID

from django.http import FileResponse
from jobs.api import JobOut, job_out
from ninja import Router, Schema

from config.errors import Missing
from config.requests import Request
from delivery.models import Delivery
from delivery.services.deliver import delivery_path, start_delivery
from nubilis.photo.write import MEDIA_TYPE
from shoots.services.find import own_photo

router = Router(tags=["delivery"])


class DeliverIn(Schema):
    """revision: the one that was looked at."""

    revision: int
    file_format: Literal["jpeg", "png", "png16", "tiff", "tiff16"]


class DeliveryOut(Schema):
    """unchanged: share of the pixels that are exactly the original's; None where that has no meaning."""

    id: UUID
    name: str
    size_bytes: int
    unchanged: float | None


@router.post("/photos/{photo_id}/deliveries", response=JobOut)
def make(request: Request, photo_id: int, payload: DeliverIn) -> JobOut:
    """Begin to make a file; the job tells when it is there."""
    photo = own_photo(request.user, photo_id)
    job = start_delivery(request.user, photo, payload.revision, payload.file_format)
    return job_out(job)


@router.get("/deliveries/{delivery_id}/about", response=DeliveryOut)
def about(request: Request, delivery_id: UUID) -> DeliveryOut:
    return DeliveryOut.model_validate(_own(request, delivery_id), from_attributes=True)


def _own(request: Request, delivery_id: UUID) -> Delivery:
    row = Delivery.objects.filter(id=delivery_id, photo__shoot__owner=request.user).first()
    if row is None or not delivery_path(row).is_file():
        raise Missing
    return row


@router.get("/deliveries/{delivery_id}")
def download(request: Request, delivery_id: UUID) -> FileResponse:
    """The file itself."""
    row = _own(request, delivery_id)
    return FileResponse(
        delivery_path(row).open("rb"),
        as_attachment=True,
        filename=row.name,
        content_type=MEDIA_TYPE[row.file_format],
    )
