"""The finder over HTTP: look, be told the progress, stop, and see again what was found."""

import json
from collections.abc import Iterator
from dataclasses import dataclass, fields
from typing import Any

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema
from pydantic import ValidationError

from nubilis.errors import NubilisError
from nubilis.find.finding import Finding, Told
from nubilis.find.look import Direction
from nubilis.planning import ADOPTED_AMOUNT, cast_of
from nubilis.recipe.document import Cast, Recipe
from nubilis.settle.base import Base
from shoots.models import Photo
from shoots.services.find import own_photo
from studio.engines import engines
from studio.models import KeptSurvey
from studio.services.looking import Said, Seen, look_in_steps

router = Router(tags=["studio"])


class LookIn(Schema):
    """recipe: as it stands, whose casts and dismissed findings count as said."""

    recipe: Recipe
    said: Said = Said()


@dataclass(frozen=True)
class FindingOut(Told):
    """A possible cast; adopted: the cast that it becomes."""

    adopted: Cast


class SurveyOut(Schema):
    """said: what it answers to; base: what the photo was settled by; others: how many photos of the
    shoot lent their palette."""

    findings: list[FindingOut]
    directions: list[Direction]
    said: Said
    base: Base
    others: int


class LastSurvey(Schema):
    """survey: of the last look, if there was any."""

    survey: SurveyOut | None


@router.get("/photos/{photo_id}/look", response=LastSurvey)
def kept(request: HttpRequest, photo_id: int) -> LastSurvey:
    return LastSurvey(survey=kept_survey(own_photo(request.user, photo_id)))


@router.post("/photos/{photo_id}/look")
def look(request: HttpRequest, photo_id: int, payload: LookIn) -> StreamingHttpResponse:
    """Lines of JSON: {"done": share}, and at last {"survey": SurveyOut} or {"detail": reason}. Whoever stops
    listening stops the work at its next step, and nothing is kept."""
    photo = own_photo(request.user, photo_id)
    response = StreamingHttpResponse(_told(photo, payload), content_type="application/x-ndjson")
    response.headers["Cache-Control"] = "no-store"
    return response


def kept_survey(photo: Photo) -> SurveyOut | None:
    """What was last seen; a document of an earlier version of the program counts as none."""
    row = KeptSurvey.objects.filter(photo=photo).first()
    if row is None:
        return None
    try:
        return SurveyOut.model_validate_json(row.document)
    except ValidationError:
        return None


def open_findings(survey: SurveyOut, recipe: Recipe) -> list[FindingOut]:
    """The findings that were neither adopted nor dismissed since."""
    adopted = {p.tainted.at for c in recipe.casts for p in c.pairs}
    dismissed = {(d.shift, d.box) for d in recipe.dismissed}
    return [
        f for f in survey.findings if f.tainted not in adopted and (f.shift, f.box) not in dismissed
    ]


def _told(photo: Photo, payload: LookIn) -> Iterator[bytes]:
    try:
        for step in look_in_steps(photo, payload.recipe, payload.said):
            if isinstance(step, Seen):
                out = _out(photo, payload, step)
                _keep(photo, out)
                yield _line({"survey": out.model_dump(mode="json")})
            else:
                yield _line({"done": step})
    except NubilisError as error:
        yield _line({"detail": " ".join(str(error).split())})


def _line(document: dict[str, Any]) -> bytes:
    return json.dumps(document).encode() + b"\n"


def _out(photo: Photo, asked: LookIn, seen: Seen) -> SurveyOut:
    engine = engines.get(photo)

    def finding(found: Finding) -> FindingOut:
        adopted = cast_of(engine, found, ADOPTED_AMOUNT)
        told = {f.name: getattr(found, f.name) for f in fields(Told)}
        return FindingOut(**told, adopted=adopted)

    return SurveyOut(
        findings=[finding(f) for f in seen.survey.findings],
        directions=list(seen.survey.directions),
        said=asked.said,
        base=asked.recipe.base,
        others=seen.others,
    )


def _keep(photo: Photo, out: SurveyOut) -> None:
    # Only while the photo is there: it may have been removed meanwhile.
    if Photo.objects.filter(id=photo.id).exists():
        document = out.model_dump_json()
        KeptSurvey.objects.update_or_create(photo=photo, defaults={"document": document})
