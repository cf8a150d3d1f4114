"""Full-size files out."""

from typing import Annotated, Literal
from uuid import UUID

from django.http import FileResponse, StreamingHttpResponse
from jobs.api import JobOut, job_out
from jobs.services.start import own_job
from ninja import Router, Schema
from pydantic import Field

from config.errors import Missing
from config.requests import Request
from delivery.models import Delivery
from delivery.services.deliver import (
    delivery_path,
    files_of,
    start_delivering,
    start_delivery,
    zipped,
)
from nubilis.photo.export import LARGEST, SMALLEST, Space, Wanted
from nubilis.photo.write import MEDIA_TYPE
from shoots.services.find import own_photo, own_photos, own_shoot

router = Router(tags=["delivery"])
Format = Literal["jpeg", "png", "png16", "tiff", "tiff16", "avif", "jxl", "jxl16"]


class WantedIn(Schema):
    """space: the photo's own or a standard one; long_edge: at most so many pixels, None for all there are."""

    file_format: Format
    space: Space = "keep"
    long_edge: Annotated[int, Field(ge=SMALLEST, le=LARGEST)] | None = None

    @property
    def wanted(self) -> Wanted:
        return Wanted(self.file_format, self.space, self.long_edge)


class DeliverIn(WantedIn):
    """revision: the one that was looked at."""

    revision: int


class DeliverSetIn(WantedIn):
    photos: Annotated[list[int], Field(min_length=1, max_length=2000)]


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
    job = start_delivery(request.user, photo, payload.revision, payload.wanted)
    return job_out(job)


@router.post("/shoots/{shoot_id}/deliveries", response=JobOut)
def make_set(request: Request, shoot_id: int, payload: DeliverSetIn) -> JobOut:
    """Begin to make the files of some photos, each as it is saved."""
    shoot = own_shoot(request.user, shoot_id)
    photos = own_photos(request.user, shoot_id, payload.photos)
    return job_out(start_delivering(request.user, shoot, photos, payload.wanted))


@router.get("/jobs/{uuid:job_id}/files.zip")
def download_set(request: Request, job_id: UUID) -> StreamingHttpResponse:
    """All files of a set in one."""
    job = own_job(request.user, job_id)
    files = files_of(job)
    if not files:
        raise Missing
    response = StreamingHttpResponse(zipped(files), content_type="application/zip")
    response.headers["Content-Disposition"] = 'attachment; filename="delivered.zip"'
    return response


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
