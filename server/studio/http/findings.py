"""The finder over HTTP: look, be told the progress, stop, see again what was found, and adopt it."""

import json
from collections.abc import Iterator
from typing import Any

from django.http import StreamingHttpResponse
from ninja import Router

from config.errors import one_line
from config.operations import computes
from config.requests import Request, numbers_of
from config.schema import Schema
from jobs.api import JobOut, job_out
from nubilis.errors import NubilisError
from nubilis.recipe.document import Cast, Recipe
from shoots.models import Photo
from shoots.services.find import seen_photo, seen_shoot, worked_photo, worked_shoot
from studio.services import findings
from studio.services.findings import Surveyed
from studio.services.looking import Said
from studio.services.whole_shoot import start_looking

router = Router(tags=["studio"])


class LookIn(Schema):
    """recipe: as it stands, whose casts and dismissed findings count as said."""

    recipe: Recipe
    said: Said = Said()


class LastSurvey(Schema):
    """survey: of the last look, if there was any."""

    survey: Surveyed | None


@router.get("/photos/{photo_id}/look", response=LastSurvey)
def last(request: Request, photo_id: int) -> LastSurvey:
    return LastSurvey(survey=findings.last_survey(seen_photo(request.user, photo_id)))


@router.post("/photos/{photo_id}/look")
@computes(large=True)
def look(request: Request, photo_id: int, payload: LookIn) -> StreamingHttpResponse:
    """Lines of JSON: {"done": share}, and at last {"survey": Surveyed} or {"detail": reason}. Whoever stops
    listening stops the work at its next step, and nothing is kept."""
    photo = seen_photo(request.user, photo_id)
    response = StreamingHttpResponse(_told(photo, payload), content_type="application/x-ndjson")
    response.headers["Cache-Control"] = "no-store"
    return response


@router.post("/shoots/{shoot_id}/look", response=JobOut)
def look_at_all(request: Request, shoot_id: int, photos: str = "") -> JobOut:
    """Begin to look at every photo of a shoot; photos: ids with commas between, for some of them."""
    shoot = worked_shoot(request.user, shoot_id)
    return job_out(start_looking(request.user, shoot, numbers_of(photos)))


class Questions(Schema):
    """photos: ids of those on which the finder asks which picture is right, as they stand on the sheet."""

    photos: list[int]


@router.get("/shoots/{shoot_id}/questions", response=Questions)
def questions(request: Request, shoot_id: int) -> Questions:
    shoot = seen_shoot(request.user, shoot_id)
    return Questions(photos=findings.with_questions(shoot.photos.all()))


@router.post("/photos/{photo_id}/findings/{finding_id}/adopt", response=Cast)
@computes
def adopt(request: Request, photo_id: int, finding_id: str) -> Cast:
    """The cast that a finding becomes, to be added to the recipe."""
    return findings.adopt(worked_photo(request.user, photo_id), finding_id)


def _told(photo: Photo, asked: LookIn) -> Iterator[bytes]:
    try:
        for step in findings.look(photo, asked.recipe, asked.said):
            if isinstance(step, Surveyed):
                yield _line({"survey": step.model_dump(mode="json")})
            else:
                yield _line({"done": step})
    except NubilisError as error:
        yield _line({"detail": one_line(error)})


def _line(document: dict[str, Any]) -> bytes:
    return json.dumps(document).encode() + b"\n"
