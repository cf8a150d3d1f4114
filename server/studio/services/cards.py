"""What the contact sheet says of each photo of a shoot, known for hundreds at once without computation."""

from collections.abc import Iterable, Sequence
from contextlib import suppress
from datetime import datetime
from typing import Literal

from django.db import IntegrityError
from django.db.models import F
from django.utils import timezone
from pydantic import BaseModel

from config.database import again_when_deadlocked, if_there_is_room
from nubilis.engine.acting import active_casts
from nubilis.recipe.document import Recipe
from nubilis.recipe.kinds import letter
from shoots.models import Photo
from studio.models import KeptCard, KeptSurvey, Revision, ToCheck
from studio.services.dials import Dial, kept_dials, open_dials
from studio.services.findings import Surveyed, asks, open_findings, read_survey
from studio.services.save_recipe import present_rows

Standing = Literal["untouched", "asks", "found", "treated", "check", "delivered"]
CARD = 1  # raised when a card says something else of the same photo


class Card(BaseModel):
    """state: how far the work on it is; letters: of its casts that act; dials: of its casts and of what was
    found besides, None when they must be asked for; severity: the worst of them as it stands, CIEDE2000;
    kinds: of the casts that were found; names: of its casts; check: why somebody should look at it."""

    photo: int
    state: Standing
    letters: list[str]
    dials: list[Dial] | None
    severity: float
    kinds: list[str]
    names: list[str]
    check: str = ""


def cards(photos: Sequence[Photo]) -> list[Card]:
    """In the order of the photos."""
    looked = dict(KeptSurvey.objects.filter(photo__in=photos).values_list("photo_id", "made"))
    checks = {c.photo_id: c for c in ToCheck.objects.filter(photo__in=photos)}
    measured = set(_measured(photos))
    states = {p.id: _state(p, looked.get(p.id), checks.get(p.id), measured) for p in photos}
    rows = KeptCard.objects.filter(photo__in=photos)
    known = {r.photo_id: r.document for r in rows if r.state == states[r.photo_id]}
    new = _made([p for p in photos if p.id not in known], checks)
    _keep({p: c for p, c in new.items() if p.revision or p.id in looked}, states)
    made = {p.id: c for p, c in new.items()}
    return [made.get(p.id) or Card.model_validate(known[p.id]) for p in photos]


@again_when_deadlocked
def _keep(new: dict[Photo, Card], states: dict[int, str]) -> None:
    """Those that took some reading; of an untouched photo there is nothing to read."""
    rows = [
        KeptCard(photo=p, state=states[p.id], document=c.model_dump(), made=timezone.now())
        for p, c in new.items()
    ]
    told = ["state", "document", "made"]
    with if_there_is_room(), suppress(IntegrityError):  # a photo went for good meanwhile
        KeptCard.objects.bulk_create(rows, update_conflicts=True, update_fields=told)


def _state(photo: Photo, looked: datetime | None, check: ToCheck | None, measured: set[int]) -> str:
    """Of all that a card depends on."""
    stamp = looked.timestamp() if looked else 0
    checked = check.revision if check else ""
    known = photo.id in measured
    return f"{CARD} {photo.revision} {stamp} {photo.delivered} {checked} {known:d}"


def _measured(photos: Sequence[Photo]) -> Iterable[int]:
    """Ids of those whose casts' dials are known."""
    worked_on = [p.id for p in photos if p.revision]
    rows = Revision.objects.filter(photo__in=worked_on, number=F("photo__revision"))
    return rows.filter(figures__isnull=False).values_list("photo_id", flat=True)


def _made(photos: Sequence[Photo], checks: dict[int, ToCheck]) -> dict[Photo, Card]:
    now = present_rows([p for p in photos if p.revision])
    seen = KeptSurvey.objects.filter(photo__in=photos).defer("masks")
    surveys = {row.photo_id: read_survey(row) for row in seen}
    return {p: _card(p, now.get(p.id), surveys.get(p.id), checks.get(p.id)) for p in photos}


def _card(
    photo: Photo, row: Revision | None, survey: Surveyed | None, check: ToCheck | None
) -> Card:
    recipe = row.recipe if row else Recipe()
    found = open_findings(survey, recipe) if survey else []
    own = kept_dials(row) if row else []
    dials = None if own is None else [*own, *open_dials(found)]
    acting = {c.id for c in active_casts(recipe)}
    why = check.why if check and check.revision == photo.revision else ""
    left = [d.after if d.after is not None else d.before for d in dials or [] if d.on]
    adopted = {c.finding for c in recipe.casts}
    kinds = [f.cause for f in survey.findings if f in found or f.id in adopted] if survey else []
    return Card(
        photo=photo.id,
        state=_standing(photo, recipe, bool(acting), survey, bool(found), why),
        letters=[letter(i) for i, c in enumerate(recipe.casts) if c.id in acting],
        dials=dials,
        severity=max((v for v in left if v is not None), default=0.0),
        kinds=list(dict.fromkeys(kinds)),
        names=[c.name for c in recipe.casts if c.name],
        check=why,
    )


def _standing(
    photo: Photo, recipe: Recipe, treated: bool, survey: Surveyed | None, found: bool, why: str
) -> Standing:
    if why:
        return "check"
    if photo.delivered == photo.revision:
        return "delivered"
    if treated:
        return "treated"
    if survey and asks(survey, recipe):
        return "asks"
    return "found" if found else "untouched"


def looked_over(photo: Photo) -> None:
    """Somebody has looked, and it is right."""
    ToCheck.objects.filter(photo=photo).delete()
