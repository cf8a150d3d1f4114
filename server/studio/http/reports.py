"""The proof sheet as a page, a PDF, JSON and CSV: of a photo, or of a shoot's treated photos."""

from collections.abc import Callable, Sequence
from typing import Literal, TypeVar

from django.http import HttpResponse
from ninja import Router

from config.computing import turn_of
from config.downloads import named
from config.requests import Request, numbers_of
from config.schema import Schema
from config.security import policy_of_page
from jobs.api import JobOut, job_out
from shoots.models import Photo
from shoots.services.find import seen_photo, seen_shoot, worked_shoot
from studio.services.paper import as_pdf, paper_of, treated, unprinted
from studio.services.report import as_csv, as_html, as_json, report_of
from studio.services.whole_shoot import start_proving

router = Router(tags=["studio"])
T = TypeVar("T")
Form = Literal["html", "pdf", "json", "csv"]
MEDIA = {
    "html": "text/html; charset=utf-8",
    "pdf": "application/pdf",
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
}


class NamedOut(Schema):
    id: int
    title: str


class SheetsOut(Schema):
    """treated: how many photos have a cast; missing: those whose sheet is not made yet."""

    treated: int
    missing: list[NamedOut]


@router.get("/photos/{int:photo_id}/report.{form}")
def of_photo(request: Request, photo_id: int, form: Form) -> HttpResponse:
    """Of the saved recipe."""
    photo = seen_photo(request.user, photo_id)
    return _answer(request, photo.title, [photo], form)


@router.get("/shoots/{int:shoot_id}/report.{form}")
def of_shoot(request: Request, shoot_id: int, form: Form, photos: str = "") -> HttpResponse:
    """Of every photo that has a cast; photos: ids with commas between, for some of them."""
    shoot = seen_shoot(request.user, shoot_id)
    some = numbers_of(photos)
    chosen = [p for p, _ in treated(shoot) if some is None or p.id in some]
    return _answer(request, shoot.name, chosen, form)


@router.get("/shoots/{int:shoot_id}/sheets", response=SheetsOut)
def sheets(request: Request, shoot_id: int, photos: str = "") -> SheetsOut:
    """What is still to be made before a shoot's proof sheet, or that of some photos, comes at once."""
    shoot = seen_shoot(request.user, shoot_id)
    some = numbers_of(photos)
    known = [(p, r) for p, r in treated(shoot) if some is None or p.id in some]
    missing = [NamedOut(id=p.id, title=p.title) for p in unprinted(shoot, known)]
    return SheetsOut(treated=len(known), missing=missing)


@router.post("/shoots/{int:shoot_id}/sheets", response=JobOut)
def make_sheets(request: Request, shoot_id: int, photos: str = "") -> JobOut:
    """Begin to make what is missing."""
    shoot = worked_shoot(request.user, shoot_id)
    return job_out(start_proving(request.user, shoot, numbers_of(photos)))


def _answer(request: Request, title: str, photos: Sequence[Photo], form: Form) -> HttpResponse:
    response = HttpResponse(_written(request, title, photos, form), content_type=MEDIA[form])
    if form == "html":
        response.headers["Content-Security-Policy"] = policy_of_page(response.content)
    else:
        named(response, f"proof.{form}")
    return response


def _written(request: Request, title: str, photos: Sequence[Photo], form: Form) -> str | bytes:
    if form == "pdf":
        return as_pdf(title, _each(request, photos, paper_of))
    reports = _each(request, photos, report_of)
    if form == "html":
        return as_html(title, reports)
    return as_json(reports) if form == "json" else as_csv(reports)


def _each(request: Request, photos: Sequence[Photo], make: Callable[[Photo], T]) -> list[T]:
    """A turn for each photo: others have theirs between."""
    made = []
    for photo in photos:
        with turn_of(request, photo.id, large=True):
            made.append(make(photo))
    return made
