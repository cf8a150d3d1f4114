"""Following pieces of long work, stopping them, and taking them up again."""

from uuid import UUID

from django.db.models import Count, Q, Sum
from ninja import Router

from config.requests import Request
from config.schema import Schema
from jobs.models import OPEN, Job
from jobs.services import start as jobs
from shoots.services.find import own_shoot, seen_photo, seen_shoot

router = Router(tags=["jobs"])


class JobOut(Schema):
    """done, total: of the photos that it goes through, those first in `photos`; share: of the whole, 0..1;
    troubles: with single photos; error: why it failed; person: who began it; delivery: what came of one;
    files: how many it came to; folder: into which they were put; notes: what they have no place for; changed,
    casts: how many photos were given casts, and how many each; batch: whose proposals it makes."""

    id: UUID
    kind: str
    state: Job.State
    over: bool
    photos: list[int]
    done: int
    total: int
    share: float
    troubles: list[str]
    error: str
    cancelled: bool
    person: str
    delivery: UUID | None
    folder: str
    notes: list[str]
    files: int
    changed: int
    casts: int
    batch: UUID | None


def job_out(job: Job) -> JobOut:
    result = job.result or {}
    state, share = _now(job)
    return JobOut(
        id=job.id,
        kind=job.kind,
        state=state,
        over=job.over,
        photos=_photos(job),
        done=job.done,
        total=job.total,
        share=share,
        troubles=job.troubles,
        error=job.error,
        cancelled=job.cancelled,
        person=job.owner.username,
        delivery=result.get("delivery"),
        folder=next(iter(result.get("folder", ())), ""),
        notes=list(dict.fromkeys(result.get("notes", ()))),
        files=len(result.get("deliveries", ())),
        changed=len(result.get("changed", ())),
        casts=result.get("casts", 0),
        batch=job.arguments.get("batch"),
    )


def _photos(job: Job) -> list[int]:
    """What is over first: whoever does the parts may do them in any order."""
    photos: list[int] = job.arguments.get("photos", [])
    if not photos:
        return photos
    over = job.parts.exclude(state__in=OPEN).order_by("ended").values_list("photo_id", flat=True)
    first = {photo: i for i, photo in enumerate(over)}
    return sorted(photos, key=lambda p: first.get(p, len(first)))


def _now(job: Job) -> tuple[Job.State, float]:
    """As its parts say, while it has any that are under way."""
    state = Job.State(job.state)
    if state != Job.State.RUNNING or job.token is not None:
        return state, job.share
    told = job.parts.aggregate(begun=Count("begun"), share=Sum("share", filter=Q(state=state)))
    begun = Job.State.RUNNING if told["begun"] else Job.State.WAITING
    return begun, min((job.done + (told["share"] or 0.0)) / max(job.total, 1), 1.0)


@router.get("/jobs/{job_id}", response=JobOut)
def one(request: Request, job_id: UUID) -> JobOut:
    return job_out(jobs.own_job(request.user, job_id))


@router.delete("/jobs/{job_id}", response=JobOut)
def cancel(request: Request, job_id: UUID) -> JobOut:
    """Ask it to stop, which it does at its next step."""
    jobs.cancel(jobs.own_job(request.user, job_id))
    return job_out(jobs.own_job(request.user, job_id))


@router.post("/jobs/{job_id}/take-up", response=JobOut)
def take_up(request: Request, job_id: UUID) -> JobOut:
    """Do what is left of it, as a job of its own."""
    return job_out(jobs.take_up(jobs.own_job(request.user, job_id)))


@router.get("/shoots/{shoot_id}/jobs", response=list[JobOut])
def of_shoot(request: Request, shoot_id: int) -> list[JobOut]:
    """The newest of each kind, of the shoot as a whole."""
    return [job_out(j) for j in jobs.latest(request.user, seen_shoot(request.user, shoot_id))]


@router.get("/shoots/{shoot_id}/work", response=list[JobOut])
def under_way(request: Request, shoot_id: int) -> list[JobOut]:
    """All that is under way on a shoot of one's own, whoever began it."""
    return [job_out(j) for j in jobs.under_way(own_shoot(request.user, shoot_id))]


@router.get("/photos/{photo_id}/jobs", response=list[JobOut])
def of_photo(request: Request, photo_id: int) -> list[JobOut]:
    """The newest of each kind, of one photo."""
    photo = seen_photo(request.user, photo_id)
    return [job_out(j) for j in jobs.latest(request.user, photo.shoot, photo)]
