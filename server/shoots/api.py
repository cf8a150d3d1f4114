"""Shoots and their photos: list, make, add files, remove."""

from datetime import datetime
from pathlib import Path
from typing import Annotated

from django.conf import settings
from django.db.models import Count, Q
from ninja import File, Router
from ninja.files import UploadedFile
from pydantic import Field

from config.errors import Refused
from config.requests import Request
from config.schema import Schema
from nubilis.readable import Readable
from shoots.models import Photo, Share, Shoot
from shoots.services import bin as photo_bin
from shoots.services import closing, sharing
from shoots.services.add_photo import add_photo
from shoots.services.find import (
    Access,
    access_of,
    accesses,
    own_shoot,
    photos_of,
    seen_shoot,
    shared_with,
    worked_photos,
    worked_shoot,
)
from shoots.services.refusals import noting_refusals
from studio.services.develop import start_developing

router = Router(tags=["shoots"])


class ShootIn(Schema):
    name: Annotated[str, Field(min_length=1, max_length=120), Readable]


class ShootOut(Schema):
    """may: what whoever asks may do with it; owner: whose it is."""

    id: int
    name: str
    photos: int
    may: Access
    owner: str


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
    may: Access
    owner: str


class ShareIn(Schema):
    """person: the name of an account."""

    person: Annotated[str, Field(min_length=1, max_length=150)]
    may: Share.May


class ShareOut(Schema):
    id: int
    person: str
    may: Share.May


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
        Shoot.objects.filter(shared_with(request.user))
        .annotate(count=Count("photos", filter=there))
        .select_related("owner")
        .order_by("-made", "-id")
    )
    may = accesses(request.user, rows)
    return [_shoot_out(s, s.count, may[s.id]) for s in rows if s.id in may]


@router.post("/shoots", response=ShootOut)
def make_shoot(request: Request, payload: ShootIn) -> ShootOut:
    shoot = Shoot.objects.create(owner=request.user, name=payload.name.strip() or "Shoot")
    return _shoot_out(shoot, 0, "own")


@router.get("/shoots/{shoot_id}", response=ShootWithPhotos)
def shoot(request: Request, shoot_id: int) -> ShootWithPhotos:
    row = seen_shoot(request.user, shoot_id)
    return ShootWithPhotos(
        id=row.id,
        name=row.name,
        photos=[photo_out(p) for p in row.photos.all()],
        may=access_of(request.user, row),
        owner=row.owner.get_username(),
    )


@router.put("/shoots/{shoot_id}", response=ShootOut)
def rename(request: Request, shoot_id: int, payload: ShootIn) -> ShootOut:
    row = own_shoot(request.user, shoot_id)
    row.name = payload.name.strip() or row.name
    row.save(update_fields=["name"])
    return _shoot_out(row, row.photos.count(), "own")


@router.delete("/shoots/{shoot_id}", response={204: None})
def remove_shoot(request: Request, shoot_id: int) -> tuple[int, None]:
    """It can be had back for a while (closing_api)."""
    closing.remove_shoot(own_shoot(request.user, shoot_id))
    return 204, None


@router.post("/shoots/{shoot_id}/photos", response=Added)
def add(request: Request, shoot_id: int, file: File[UploadedFile]) -> Added:
    row = worked_shoot(request.user, shoot_id)
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
    rows = seen_shoot(request.user, shoot_id).refusals.all()
    return [RefusalOut.model_validate(r, from_attributes=True) for r in rows]


@router.delete("/shoots/{shoot_id}/refusals", response={204: None})
def forget_refusals(request: Request, shoot_id: int) -> tuple[int, None]:
    worked_shoot(request.user, shoot_id).refusals.all().delete()
    return 204, None


@router.post("/shoots/{shoot_id}/remove", response={204: None})
def remove(request: Request, shoot_id: int, payload: PhotosIn) -> tuple[int, None]:
    """Into the bin."""
    photo_bin.remove(worked_photos(request.user, shoot_id, payload.photos))
    return 204, None


@router.get("/shoots/{shoot_id}/bin", response=list[BinnedOut])
def in_bin(request: Request, shoot_id: int) -> list[BinnedOut]:
    rows = photo_bin.in_bin(seen_shoot(request.user, shoot_id))
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
    row = worked_shoot(request.user, shoot_id)
    return [photo_out(p) for p in photo_bin.put_back(row, payload.photos)]


@router.post("/shoots/{shoot_id}/move", response={204: None})
def move(request: Request, shoot_id: int, payload: MoveIn) -> tuple[int, None]:
    photos = photos_of(own_shoot(request.user, shoot_id), payload.photos)
    photo_bin.move(photos, own_shoot(request.user, payload.to))
    return 204, None


@router.get("/shoots/{shoot_id}/shares", response=list[ShareOut])
def shares(request: Request, shoot_id: int) -> list[ShareOut]:
    """With whom a shoot is shared."""
    rows = own_shoot(request.user, shoot_id).shares.select_related("person")
    return [_share_out(row) for row in rows.order_by("person__username")]


@router.put("/shoots/{shoot_id}/shares", response=ShareOut)
def share(request: Request, shoot_id: int, payload: ShareIn) -> ShareOut:
    """Share it with somebody, or otherwise than before."""
    shoot = own_shoot(request.user, shoot_id)
    return _share_out(sharing.share(shoot, payload.person.strip(), payload.may))


@router.delete("/shoots/{shoot_id}/shares/{int:share_id}", response={204: None})
def unshare(request: Request, shoot_id: int, share_id: int) -> tuple[int, None]:
    """By its owner, or by the person that it is shared with."""
    sharing.unshare(request.user, seen_shoot(request.user, shoot_id), share_id)
    return 204, None


def _share_out(row: Share) -> ShareOut:
    return ShareOut(id=row.id, person=row.person.get_username(), may=Share.May(row.may))


def _shoot_out(row: Shoot, photos: int, may: Access) -> ShootOut:
    return ShootOut(
        id=row.id,
        name=row.name,
        photos=photos,
        may=may,
        owner=row.owner.get_username(),
    )


def photo_out(photo: Photo) -> PhotoOut:
    return PhotoOut.model_validate(photo, from_attributes=True)
