"""Full-size files out."""

from typing import Literal
from uuid import UUID

from django.http import FileResponse, Http404, HttpRequest
from ninja import Router, Schema

from delivery.models import Delivery
from delivery.services.deliver import deliver, delivery_path
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


@router.post("/photos/{photo_id}/deliveries", response=DeliveryOut)
def make(request: HttpRequest, photo_id: int, payload: DeliverIn) -> DeliveryOut:
    row = deliver(own_photo(request.user, photo_id), payload.revision, payload.file_format)
    return DeliveryOut.model_validate(row, from_attributes=True)


@router.get("/deliveries/{delivery_id}")
def download(request: HttpRequest, delivery_id: UUID) -> FileResponse:
    """The file itself."""
    row = Delivery.objects.filter(id=delivery_id, photo__shoot__owner=request.user).first()
    if row is None or not delivery_path(row).is_file():
        raise Http404
    return FileResponse(
        delivery_path(row).open("rb"),
        as_attachment=True,
        filename=row.name,
        content_type=MEDIA_TYPE[row.file_format],
    )
