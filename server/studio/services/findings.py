"""What was found at a photo: kept, called by names that last, and adopted."""

import base64
import math
from collections.abc import Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import fields, replace
from typing import Any

import numpy as np
from django.db import IntegrityError
from pydantic import BaseModel, ValidationError

from config.database import again_when_deadlocked
from config.errors import Refused
from nubilis.cast.direction import angle_between
from nubilis.find.adopt import adopted, adopted_amount, mask_file
from nubilis.find.cause import Box
from nubilis.find.choice import Choice
from nubilis.find.finding import Finding, Told
from nubilis.find.look import Direction
from nubilis.recipe.document import Cast, Recipe
from nubilis.settle.base import Base
from shoots.models import Photo
from shoots.store import keep_asset
from studio.engines import engines
from studio.models import KeptSurvey
from studio.services.looking import Looked, Said, look_in_steps
from studio.services.memory import known_objects
from studio.services.save_recipe import current

# Two looks speak of the same when it lies in the same place and goes the same way.
SAME_PLACE, SAME_WAY = 0.5, 30.0  # overlap of the boxes, over their union; degrees


class Surveyed(BaseModel):
    """findings: also those that only the choices speak of; choices: the answers to the finder's one question;
    close: where they should be looked at closely; said: what it answers to; base: what the photo was settled
    by; others: how many photos of the shoot lent their palette; known: ids of findings that were dismissed on
    a neighbouring photo, with its title."""

    findings: list[Told]
    directions: list[Direction]
    choices: list[Choice]
    close: Box
    said: Said
    base: Base
    others: int
    known: dict[str, str] = {}


def look(photo: Photo, recipe: Recipe, said: Said) -> Iterator[float | Surveyed]:
    """Yields the share done after each step, and at last what was seen, which is kept. Raises
    NubilisError."""
    for step in look_in_steps(photo, recipe, said):
        yield _kept(photo, recipe, said, step) if isinstance(step, Looked) else step


def last_survey(photo: Photo) -> Surveyed | None:
    """What was last seen; a document of an earlier version of the program counts as none."""
    row = KeptSurvey.objects.filter(photo=photo).first()
    return read_survey(row) if row else None


def open_findings(survey: Surveyed, recipe: Recipe) -> list[Told]:
    """Those that the finder holds for likely, and are neither adopted nor dismissed, here or on a
    neighbouring photo of the same view."""
    closed = {c.finding for c in recipe.casts} | {d.id for d in recipe.dismissed}
    closed |= survey.known.keys()
    return [f for f in survey.findings if not f.alternative and f.id not in closed]


def asks(survey: Surveyed, recipe: Recipe) -> bool:
    """Whether the finder's question is open: it is put once, and only where nothing is treated yet."""
    return bool(survey.choices) and not (recipe.answered or recipe.casts or recipe.dismissed)


def with_questions(photos: Iterable[Photo]) -> list[int]:
    """Ids of the photos whose question is open."""
    by_id = {p.id: p for p in photos}
    rows = KeptSurvey.objects.filter(photo__in=by_id).order_by("photo").defer("masks")
    seen = ((by_id[row.photo_id], read_survey(row)) for row in rows)
    asking = ((p, s) for p, s in seen if s is not None and s.choices)
    return [p.id for p, s in asking if asks(s, current(p).recipe)]


def adopt(photo: Photo, finding_id: str) -> Cast:
    """The cast that a finding of the last look becomes; its mask is kept with the photo. Raises
    Refused (404), NubilisError."""
    row = KeptSurvey.objects.filter(photo=photo).first()
    survey = read_survey(row) if row else None
    found = next((f for f in survey.findings if f.id == finding_id), None) if survey else None
    if row is None or found is None:
        raise Refused("That is not among what was last found; please look again", 404)
    mask = keep_asset(base64.b64decode(row.masks[finding_id]), photo)
    return adopted(engines.get(photo), found, mask, adopted_amount(found))


def read_survey(row: KeptSurvey) -> Surveyed | None:
    """None for a document of an earlier version of the program."""
    try:
        return Surveyed.model_validate_json(row.document)
    except ValidationError:
        return None


def _kept(photo: Photo, recipe: Recipe, said: Said, seen: Looked) -> Surveyed:
    found = (*seen.survey.findings, *seen.survey.alternatives)
    before = last_survey(photo)
    told = named_alike([_told(f) for f in found], before.findings if before else [])
    now = {f.id: t.id for f, t in zip(found, told, strict=True)}
    survey = Surveyed(
        findings=told,
        directions=list(seen.survey.directions),
        choices=[
            replace(c, findings=tuple(now[i] for i in c.findings)) for c in seen.survey.choices
        ],
        close=seen.survey.close,
        said=said,
        base=recipe.base,
        others=seen.others,
        known=known_objects(photo, told),
    )
    masks = {
        t.id: base64.b64encode(mask_file(f)).decode() for t, f in zip(told, found, strict=True)
    }
    row = {"document": survey.model_dump_json(), "masks": masks}
    _keep(photo, row)
    return survey


@again_when_deadlocked
def _keep(photo: Photo, row: dict[str, Any]) -> None:
    """Only while the photo is there: it may have been removed meanwhile."""
    with suppress(IntegrityError):
        KeptSurvey.objects.update_or_create(photo=photo, defaults=row)


def _told(found: Finding) -> Told:
    return Told(**{f.name: getattr(found, f.name) for f in fields(Told)})


def named_alike(found: Sequence[Told], before: Sequence[Told]) -> list[Told]:
    """The findings, each under the id that the same one had before."""
    free = list(before)
    named = []
    for one in found:
        known = next((b for b in free if _same(one, b)), None)
        if known is not None:
            free.remove(known)
            one = replace(one, id=known.id)
        named.append(one)
    return named


def _same(one: Told, other: Told) -> bool:
    way = angle_between(np.array(one.shift), np.array(other.shift))
    return way < SAME_WAY and _overlap(one.box, other.box) > SAME_PLACE


def _overlap(
    one: tuple[float, float, float, float], other: tuple[float, float, float, float]
) -> float:
    wide = min(one[2], other[2]) - max(one[0], other[0])
    high = min(one[3], other[3]) - max(one[1], other[1])
    both = max(wide, 0.0) * max(high, 0.0)
    whole = sum(math.prod((b[2] - b[0], b[3] - b[1])) for b in (one, other)) - both
    return both / whole if whole else 0.0
