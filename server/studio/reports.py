"""The proof sheet as a page, and its figures as JSON and CSV: of a photo, or of a shoot's treated photos."""

from collections.abc import Sequence
from typing import Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router

from shoots.models import Photo
from shoots.services.find import own_photo, own_shoot
from studio.services.report import PhotoReport, as_csv, as_html, as_json, report_of
from studio.services.save_recipe import current

router = Router(tags=["studio"])
Form = Literal["html", "json", "csv"]
MEDIA = {
    "html": "text/html; charset=utf-8",
    "json": "application/json",
    "csv": "text/csv; charset=utf-8",
}


@router.get("/photos/{int:photo_id}/report.{form}")
def of_photo(request: HttpRequest, photo_id: int, form: Form) -> HttpResponse:
    """Of the saved recipe."""
    photo = own_photo(request.user, photo_id)
    return _answer(photo.title, [report_of(photo)], form)


@router.get("/shoots/{int:shoot_id}/report.{form}")
def of_shoot(request: HttpRequest, shoot_id: int, form: Form) -> HttpResponse:
    """Of every photo that has a cast."""
    shoot = own_shoot(request.user, shoot_id)
    treated = [p for p in Photo.objects.filter(shoot=shoot) if current(p).recipe.casts]
    return _answer(shoot.name, [report_of(p) for p in treated], form)


def _answer(title: str, reports: Sequence[PhotoReport], form: Form) -> HttpResponse:
    if form == "html":
        text = as_html(title, reports)
    else:
        text = as_json(reports) if form == "json" else as_csv(reports)
    response = HttpResponse(text, content_type=MEDIA[form])
    if form != "html":
        response.headers["Content-Disposition"] = f'attachment; filename="proof.{form}"'
    return response
