"""Shoots and their photos: list, make, add files, remove."""

from pathlib import Path

from django.conf import settings
from django.db.models import Count
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from config.errors import Missing, Refused
from config.requests import Request
from shoots.models import Photo, Shoot
from shoots.services.add_photo import add_photo
from shoots.services.find import own_photo, own_shoot
from shoots.services.remove_photo import remove_photo

router = Router(tags=["shoots"])


class ShootIn(Schema):
    name: str = Field(min_length=1, max_length=120)


class ShootOut(Schema):
    id: int
    name: str
    photos: int


class PhotoOut(Schema):
    """revision: of its recipe, 0 when nothing was done yet; size_bytes: of the original file."""

    id: int
    title: str
    caption: str
    file_name: str
    width: int
    height: int
    file_format: str
    bits: int
    profile: str
    notes: list[str]
    size_bytes: int
    revision: int


class ShootWithPhotos(Schema):
    id: int
    name: str
    photos: list[PhotoOut]


class Added(Schema):
    """already: the same file was in the shoot before."""

    photo: PhotoOut
    already: bool


@router.get("/shoots", response=list[ShootOut])
def shoots(request: Request) -> list[ShootOut]:
    rows = (
        Shoot.objects.filter(owner=request.user)
        .annotate(count=Count("photos"))
        .order_by("-made", "-id")
    )
    return [ShootOut(id=s.id, name=s.name, photos=s.count) for s in rows]


@router.post("/shoots", response=ShootOut)
def make_shoot(request: Request, payload: ShootIn) -> ShootOut:
    shoot = Shoot.objects.create(owner=request.user, name=payload.name.strip() or "Shoot")
    return ShootOut(id=shoot.id, name=shoot.name, photos=0)


@router.get("/shoots/{shoot_id}", response=ShootWithPhotos)
def shoot(request: Request, shoot_id: int) -> ShootWithPhotos:
    row = own_shoot(request.user, shoot_id)
    return ShootWithPhotos(
        id=row.id, name=row.name, photos=[photo_out(p) for p in row.photos.all()]
    )


@router.post("/shoots/{shoot_id}/photos", response=Added)
def add(request: Request, shoot_id: int, file: File[UploadedFile]) -> Added:
    row = own_shoot(request.user, shoot_id)
    if (file.size or 0) > settings.PHOTO_MAX_BYTES:
        raise Refused(
            f"the file is larger than {settings.PHOTO_MAX_BYTES // 2**20} MB, the limit", 413
        )
    path = Path(file.temporary_file_path())  # type: ignore[attr-defined]
    photo, new = add_photo(row, path, file.name or "photo")
    return Added(photo=photo_out(photo), already=not new)


@router.delete("/shoots/{shoot_id}/photos/{photo_id}", response={204: None})
def remove(request: Request, shoot_id: int, photo_id: int) -> tuple[int, None]:
    row = own_photo(request.user, photo_id)
    if row.shoot_id != shoot_id:
        raise Missing
    remove_photo(row)
    return 204, None


def photo_out(photo: Photo) -> PhotoOut:
    return PhotoOut.model_validate(photo, from_attributes=True)
