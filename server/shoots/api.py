"""Shoots and their photos: list, make, add files, remove."""

from datetime import datetime
from pathlib import Path
from typing import Annotated

from django.conf import settings
from django.db.models import Count, Q
from ninja import File, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from config.errors import Refused
from config.requests import Request
from shoots.models import Photo, Shoot
from shoots.services import bin as photo_bin
from shoots.services.add_photo import add_photo
from shoots.services.find import own_photos, own_shoot
from shoots.services.refusals import noting_refusals
from studio.services.develop import start_developing

router = Router(tags=["shoots"])


class ShootIn(Schema):
    name: str = Field(min_length=1, max_length=120)


class ShootOut(Schema):
    id: int
    name: str
    photos: int


class PhotoOut(Schema):
    """revision: of its recipe, 0 when nothing was done yet; size_bytes: of the original file; preview: its
    small picture is still its camera's own."""

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
    shot: datetime | None
    preview: bool


class ShootWithPhotos(Schema):
    id: int
    name: str
    photos: list[PhotoOut]


class PhotosIn(Schema):
    """photos: ids of some of a shoot's."""

    photos: Annotated[list[int], Field(min_length=1, max_length=2000)]


class MoveIn(PhotosIn):
    """to: the id of another shoot."""

    to: int


class BinnedOut(Schema):
    """gone: when it goes for good."""

    photo: PhotoOut
    removed: datetime
    gone: datetime


class RefusalOut(Schema):
    file_name: str
    reason: str
    made: datetime


class Added(Schema):
    """already: the same file was in the shoot before."""

    photo: PhotoOut
    already: bool


@router.get("/shoots", response=list[ShootOut])
def shoots(request: Request) -> list[ShootOut]:
    there = Q(photos__id__isnull=False, photos__removed=None)
    rows = (
        Shoot.objects.filter(owner=request.user)
        .annotate(count=Count("photos", filter=there))
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


@router.put("/shoots/{shoot_id}", response=ShootOut)
def rename(request: Request, shoot_id: int, payload: ShootIn) -> ShootOut:
    row = own_shoot(request.user, shoot_id)
    row.name = payload.name.strip() or row.name
    row.save(update_fields=["name"])
    return ShootOut(id=row.id, name=row.name, photos=row.photos.count())


@router.post("/shoots/{shoot_id}/photos", response=Added)
def add(request: Request, shoot_id: int, file: File[UploadedFile]) -> Added:
    row = own_shoot(request.user, shoot_id)
    name = file.name or "photo"
    with noting_refusals(row, name):
        if (file.size or 0) > settings.PHOTO_MAX_BYTES:
            raise Refused(
                f"the file is larger than {settings.PHOTO_MAX_BYTES // 2**20} MB, the limit", 413
            )
        path = Path(file.temporary_file_path())  # type: ignore[attr-defined]
        photo, new = add_photo(row, path, name)
    start_developing(photo)
    return Added(photo=photo_out(photo), already=not new)


@router.get("/shoots/{shoot_id}/refusals", response=list[RefusalOut])
def refusals(request: Request, shoot_id: int) -> list[RefusalOut]:
    """Files that were not taken in, and why; the latest first."""
    rows = own_shoot(request.user, shoot_id).refusals.all()
    return [RefusalOut.model_validate(r, from_attributes=True) for r in rows]


@router.delete("/shoots/{shoot_id}/refusals", response={204: None})
def forget_refusals(request: Request, shoot_id: int) -> tuple[int, None]:
    own_shoot(request.user, shoot_id).refusals.all().delete()
    return 204, None


@router.post("/shoots/{shoot_id}/remove", response={204: None})
def remove(request: Request, shoot_id: int, payload: PhotosIn) -> tuple[int, None]:
    """Into the bin."""
    photo_bin.remove(own_photos(request.user, shoot_id, payload.photos))
    return 204, None


@router.get("/shoots/{shoot_id}/bin", response=list[BinnedOut])
def in_bin(request: Request, shoot_id: int) -> list[BinnedOut]:
    rows = photo_bin.in_bin(own_shoot(request.user, shoot_id))
    return [
        BinnedOut(photo=photo_out(p), removed=p.removed, gone=p.removed + photo_bin.KEPT)
        for p in rows
        if p.removed
    ]


@router.delete("/shoots/{shoot_id}/bin", response={204: None})
def empty_bin(request: Request, shoot_id: int) -> tuple[int, None]:
    photo_bin.empty(own_shoot(request.user, shoot_id))
    return 204, None


@router.post("/shoots/{shoot_id}/put-back", response=list[PhotoOut])
def put_back(request: Request, shoot_id: int, payload: PhotosIn) -> list[PhotoOut]:
    row = own_shoot(request.user, shoot_id)
    return [photo_out(p) for p in photo_bin.put_back(row, payload.photos)]


@router.post("/shoots/{shoot_id}/move", response={204: None})
def move(request: Request, shoot_id: int, payload: MoveIn) -> tuple[int, None]:
    photos = own_photos(request.user, shoot_id, payload.photos)
    photo_bin.move(photos, own_shoot(request.user, payload.to))
    return 204, None


def photo_out(photo: Photo) -> PhotoOut:
    return PhotoOut.model_validate(photo, from_attributes=True)
