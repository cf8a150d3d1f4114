"""Proposals for a selection: made photo by photo, as work that can be followed and stopped."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from accounts.models import User
from batches.models import Batch, Proposal
from config.database import again_when_deadlocked
from config.errors import Missing, Refused, one_line
from jobs.models import Job
from jobs.progress import Progress
from jobs.services.start import start, start_each
from nubilis.errors import NubilisError
from nubilis.proof.casts import prove
from nubilis.recipe.asset import Asset
from nubilis.recipe.document import MOST_CASTS, Cast, Recipe
from nubilis.series.again import found_again
from nubilis.series.carry import MOST, Carried, Follower
from shoots.models import Photo, Shoot
from shoots.services.find import worked_photo
from shoots.store import keep_asset
from studio.engines import engines
from studio.services.copy_casts import copies, laid, renamed
from studio.services.findings import adopt, asks, last_survey, look, open_findings
from studio.services.looking import Said
from studio.services.people import found_anew, people_or_nobody
from studio.services.save_recipe import current

UNSURE = 0.5  # confidence of a finding below which somebody should look at what was made of it
Kind = Batch.Kind


@dataclass(frozen=True)
class Draft:
    """recipe: None when there is nothing to propose; casts: ids of those that are new."""

    recipe: Recipe | None
    casts: tuple[str, ...] = ()
    confidence: float = 1.0
    check: bool = False
    note: str = ""
    key: bool = False


def start_batch(
    owner: User,
    shoot: Shoot,
    kind: str,
    photos: Sequence[Photo],
    source: Photo | None,
    **arguments: Any,
) -> tuple[Batch, Job]:
    """Begin to propose. Raises Refused (422)."""
    if kind != Kind.ADOPT and (source is None or not current(source).recipe.casts):
        raise Refused("Choose a photo that has casts, to carry them over", 422)
    if kind == Kind.FOLLOW and len(photos) > MOST:
        raise Refused(f"At most {MOST} photos can be followed at once", 422)
    others = [p.id for p in photos if kind == Kind.FOLLOW or p != source]
    if kind == Kind.FOLLOW and source and source.id not in others:
        others = [p.id for p in _in_order(shoot, [*others, source.id])]
    if not others or others == [source and source.id]:
        raise Refused("Choose more photos than the one whose casts are carried over", 422)
    batch = Batch.objects.create(
        owner=owner,
        shoot=shoot,
        kind=kind,
        source=source,
        arguments={"photos": others, **arguments},
    )
    return batch, work_on(batch)


def work_on(batch: Batch) -> Job:
    photos = batch.arguments["photos"]
    if batch.kind == Kind.FOLLOW:
        return start(batch.owner, "treat", batch.shoot, batch=str(batch.id), photos=photos)
    return start_each(batch.owner, "treat", batch.shoot, photos, batch=str(batch.id))


def _in_order(shoot: Shoot, ids: Sequence[int]) -> list[Photo]:
    """As they were taken: their order is a series' own."""
    rows = shoot.photos.filter(id__in=ids).select_related("shoot")
    return sorted(rows, key=lambda p: (p.shot is None, p.shot or p.added, p.id))


def treat(job: Job, progress: Progress) -> dict[str, Any]:
    """The job "treat"."""
    batch = (
        Batch.objects.filter(id=job.arguments["batch"])
        .select_related("source__shoot", "owner")
        .first()
    )
    if batch is None:
        raise Missing
    if batch.source is not None:
        worked_photo(batch.owner, batch.source.id)
    if batch.kind == Kind.FOLLOW:
        _follow(batch, _in_order(batch.shoot, batch.arguments["photos"]), progress)
    elif job.photo and not job.photo.removed:
        _alone(batch, job.photo, progress)
    return {}


def _alone(batch: Batch, photo: Photo, progress: Progress) -> None:
    make = _adopted if batch.kind == Kind.ADOPT else _carried
    try:
        draft = make(batch, photo, progress.tell)
    except (NubilisError, Refused) as error:
        draft = Draft(None, note=one_line(error))
    _keep(batch, photo, batch.arguments["photos"].index(photo.id), draft)


def _adopted(batch: Batch, photo: Photo, tell: Callable[[float], None]) -> Draft:
    """What was found, as far as it is sure enough and of a cause that was asked for."""
    recipe = current(photo).recipe
    survey = last_survey(photo)
    if survey is None:
        for step in look(photo, recipe, Said()):
            if isinstance(step, float):
                tell(step)
            else:
                survey = step
    if survey is None or asks(survey, recipe):
        return Draft(None, note="Several readings are about as likely: answer its question first")
    least, causes = batch.arguments["least"], batch.arguments["causes"]
    found = open_findings(survey, recipe)
    chosen = [f for f in found if f.confidence >= least and (not causes or f.cause in causes)]
    if not chosen:
        return Draft(None, note="Nothing is that sure here" if found else "Nothing was found")
    casts = tuple(_modest(adopt(photo, f.id), batch.arguments["amount"]) for f in chosen)
    sure = min(f.confidence for f in chosen)
    return _with(recipe, casts, sure, sure < UNSURE, "Found with little confidence")


def _modest(cast: Cast, share: float) -> Cast:
    remedies = tuple(
        r.model_copy(update={"amount": round(r.amount * share, 2)}) for r in cast.remedies
    )
    return cast.model_copy(update={"remedies": remedies})


def _with(
    recipe: Recipe, casts: tuple[Cast, ...], confidence: float, check: bool, why: str
) -> Draft:
    if len(recipe.casts) + len(casts) > MOST_CASTS:
        return Draft(None, note=f"It would have more than {MOST_CASTS} casts")
    new = recipe.model_copy(update={"casts": (*recipe.casts, *casts)})
    ids = tuple(c.id for c in casts)
    return Draft(new, ids, confidence, check, why if check else "")


def _carried(batch: Batch, photo: Photo, tell: Callable[[float], None]) -> Draft:
    """Shapes keep their place, keys and people are found anew, samples by their material."""
    source = batch.source
    assert source is not None
    casts = copies(source, batch.arguments["casts"], mask_only=False)
    own = {c.shared_id: c for c in current(source).recipe.casts}
    here, there = ((engines.get(p), people_or_nobody(p)) for p in (source, photo))
    brought = []
    for i, cast in enumerate(casts):
        anew = found_anew(cast, photo)
        brought.append(found_again(own[cast.shared_id], anew, here, there))
        tell((i + 1) / len(casts))
    recipe = laid(brought, photo, current(photo).recipe)
    ids = tuple(c.id for c in recipe.casts[-len(brought) :])
    drawn = any(p.has_places for c in brought for p in c.mask.parts if p.on)
    note = "Shapes keep their place: see whether they fit" if drawn else ""
    return Draft(recipe, ids, 0.5 if drawn else 0.9, drawn, note)


def _follow(batch: Batch, photos: Sequence[Photo], progress: Progress) -> None:
    keys = _keys(batch, photos)

    def keep(i: int, data: bytes) -> Asset:
        return keep_asset(data, photos[i])

    titles = [p.title for p in photos]
    follower = Follower(lambda i: engines.get(photos[i]), titles, keys, keep)
    by_hand = set(_corrected(batch))
    for i, (photo, done) in enumerate(zip(photos, _steps(follower, progress), strict=True)):
        if photo.id not in by_hand:
            _keep(batch, photo, i, _of_frame(batch, photo, done))
        progress.reach(0.8 + 0.2 * (i + 1) / len(photos))


def _steps(follower: Follower, progress: Progress) -> Iterator[Carried]:
    for step in follower.carried():
        if isinstance(step, Carried):
            yield step
        else:
            progress.reach(step)


def _keys(batch: Batch, photos: Sequence[Photo]) -> dict[int, Recipe]:
    """The first key is the photo whose casts are followed; further ones were corrected: here, or on the photo
    itself, since the casts came to it."""
    source, wanted = batch.source, batch.arguments["casts"]
    assert source is not None
    recipe = current(source).recipe
    casts = tuple(c for c in recipe.casts if wanted is None or c.id in wanted)
    shared = {c.shared_id for c in casts}
    corrected = {
        p.photo_id: p.recipe for p in batch.proposals.filter(key=True).exclude(document="")
    }
    keys = {photos.index(source): recipe.model_copy(update={"casts": casts})}
    for i, photo in enumerate(photos):
        if photo == source:
            continue
        own = corrected.get(photo.id) or current(photo).recipe
        its = tuple(c for c in own.casts if c.shared_id in shared)
        if its and (photo.id in corrected or _by_hand(photo, its)):
            keys[i] = own.model_copy(update={"casts": its})
    return keys


def _corrected(batch: Batch) -> dict[int, Recipe]:
    """By photo, what was corrected on the proposals."""
    rows = batch.proposals.filter(key=True, corrected=True)
    return {p.photo_id: p.recipe for p in rows}


def _by_hand(photo: Photo, casts: Sequence[Cast]) -> bool:
    """Whether masks were changed on the photo itself since they came to it."""
    came = Proposal.objects.filter(photo=photo, batch__kind=Kind.FOLLOW).exclude(taken=None)
    last = came.order_by("-taken").first()
    if last is None:
        return any(c.touched_up for c in casts)
    masks = {c.shared_id: c.mask for c in last.recipe.casts}
    return any(masks.get(c.shared_id) != c.mask for c in casts)


def _of_frame(batch: Batch, photo: Photo, done: Carried) -> Draft:
    if photo == batch.source:
        return Draft(None, note="The casts come from here", key=True)
    recipe = current(photo).recipe
    links = {c.shared_id: c.linked() for c in _source_casts(batch)}
    casts = tuple(
        c.model_copy(update={"link": links.get(c.shared_id, c.link), "finding": None})
        for c in done.casts
    )
    own = {c.shared_id: c.id for c in recipe.casts}
    kept = tuple(c for c in recipe.casts if c.shared_id not in {n.shared_id for n in casts})
    new = tuple(
        c.model_copy(update={"id": own.get(c.shared_id, fresh.id)})
        for c, fresh in zip(casts, renamed(casts), strict=True)
    )
    if not done.followed:
        note = "Not followed: the shapes lie unmoved, and are switched off"
    else:
        note = "Followed with little confidence" if done.check else ""
    draft = _with(recipe.model_copy(update={"casts": kept}), new, done.confidence, done.check, note)
    return Draft(
        draft.recipe, draft.casts, done.confidence, done.check, note or draft.note, done.key
    )


def _source_casts(batch: Batch) -> Sequence[Cast]:
    return current(batch.source).recipe.casts if batch.source else ()


@again_when_deadlocked
def _keep(batch: Batch, photo: Photo, place: int, draft: Draft) -> None:
    """Only while both are there."""
    if not Batch.objects.filter(id=batch.id).exists() or not Photo.objects.filter(id=photo.id):
        return
    before, after = _figure(photo, draft)
    Proposal.objects.update_or_create(
        batch=batch,
        photo=photo,
        defaults={
            "place": place,
            "revision": photo.revision,
            "document": draft.recipe.model_dump_json() if draft.recipe else "",
            "before": before,
            "after": after,
            "confidence": draft.confidence,
            "to_check": draft.check,
            "note": draft.note,
            "key": draft.key,
        },
    )


def _figure(photo: Photo, draft: Draft) -> tuple[float | None, float | None]:
    """Of the strongest new cast."""
    if draft.recipe is None:
        return None, None
    proofs = [c for c in prove(engines.get(photo), draft.recipe).casts if c.id in draft.casts]
    told = [(p.before, p.after) for p in proofs if p.before is not None]
    return max(told, key=lambda t: t[0] or 0.0, default=(None, None))
