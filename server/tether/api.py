"""A shoot's watched folder, what arrives in it, and the simulated camera."""

from datetime import datetime

from ninja import Router

from config.operations import computes
from config.requests import Request
from config.schema import Schema
from jobs.models import OPEN, Job
from shoots.api import PhotoOut, photo_out
from shoots.services.find import own_photo, own_shoot, seen_shoot
from tether.models import Watch
from tether.services.camera import press
from tether.services.folder import begin_watching, told_of

router = Router(tags=["tether"])
LAST = 24  # arrivals that are told


class Arrival(Schema):
    """What became of a file. reason: why it was refused."""

    file: str
    state: Job.State
    photo: PhotoOut | None
    reason: str
    made: datetime


class WatchOut(Schema):
    """watched: whether the shoot's folder is; folder: its name below the server's folder for such; source:
    the photo whose treatment is laid on; arrivals: the latest first."""

    watched: bool
    folder: str
    source: int | None
    exposures: int
    arrivals: list[Arrival]


class WatchIn(Schema):
    """source: a photo of the shoot, None for no treatment."""

    source: int | None = None


class Pressed(Schema):
    file: str


@router.get("/shoots/{shoot_id}/watch", response=WatchOut)
def told(request: Request, shoot_id: int) -> WatchOut:
    shoot = seen_shoot(request.user, shoot_id)
    watch = Watch.objects.filter(shoot=shoot).first()
    jobs = list(Job.objects.filter(shoot=shoot, kind="take-in", parent=None)[:LAST])
    ids = [i for job in jobs for i in (job.result or {}).get("photo", ())]
    photos = {p.id: photo_out(p) for p in shoot.photos.filter(id__in=ids)}
    return WatchOut(
        watched=watch is not None,
        folder=told_of(shoot),
        source=watch.source_id if watch else None,
        exposures=watch.exposures if watch else 0,
        arrivals=[_arrival(job, photos) for job in jobs],
    )


def _arrival(job: Job, photos: dict[int, PhotoOut]) -> Arrival:
    found = next(iter((job.result or {}).get("photo", ())), None)
    return Arrival(
        file=job.arguments["file"],
        state=Job.State(job.state),
        photo=photos.get(found) if found else None,
        reason=job.error if job.state not in OPEN else "",
        made=job.made,
    )


@router.put("/shoots/{shoot_id}/watch", response=WatchOut)
def begin(request: Request, shoot_id: int, payload: WatchIn) -> WatchOut:
    """Watch the shoot's folder, which is made; or lay another treatment on what arrives from now on."""
    shoot = own_shoot(request.user, shoot_id)
    source = None if payload.source is None else own_photo(request.user, payload.source)
    begin_watching(shoot, source=source)
    return told(request, shoot_id)


@router.delete("/shoots/{shoot_id}/watch", response=WatchOut)
def end(request: Request, shoot_id: int) -> WatchOut:
    """Leave the folder alone; what lies there stays."""
    Watch.objects.filter(shoot=own_shoot(request.user, shoot_id)).delete()
    return told(request, shoot_id)


@router.post("/shoots/{shoot_id}/camera", response=Pressed)
@computes
def shoot_next(request: Request, shoot_id: int) -> Pressed:
    """Press the simulated camera's button."""
    shoot = own_shoot(request.user, shoot_id)
    return Pressed(file=press(begin_watching(shoot)))
