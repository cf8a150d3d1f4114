"""What is proposed, taken: one step of each photo's history, which can be taken back photo by photo or all at
once."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone

from accounts.models import User
from batches.models import Batch, Proposal
from config.database import again_when_deadlocked
from config.errors import Missing, Refused, one_line
from nubilis.errors import RecipeError
from shoots.models import Photo
from shoots.services.find import shared_with
from studio.models import ToCheck
from studio.services.save_recipe import save_recipe, undo

KEPT = timedelta(days=7)


@dataclass(frozen=True)
class Taken:
    """photos: how many changed; left: those that did not, each with why."""

    photos: int
    left: list[str]


def own_batch(user: User, batch_id: UUID) -> Batch:
    """As long as its shoot is shared to be worked on. Raises Missing."""
    there = Batch.objects.filter(shared_with(user, to_work=True, shoot="shoot__"), owner=user)
    row = there.filter(id=batch_id).select_related("source", "shoot").first()
    if row is None:
        raise Missing
    return row


def own_proposal(user: User, batch_id: UUID, photo_id: int) -> Proposal:
    """Of a photo that is still there. Raises Missing."""
    own = within_reach(own_batch(user, batch_id), user).filter(photo=photo_id)
    row = own.select_related("photo__shoot", "batch__source").first()
    if row is None or not row.document:
        raise Missing
    return row


def within_reach(batch: Batch, user: User) -> QuerySet[Proposal]:
    """Of photos that are still there, and in a shoot that a person may work on."""
    shared = shared_with(user, to_work=True, shoot="photo__shoot__")
    return batch.proposals.filter(shared, photo__removed=None)


def take(batch: Batch, photos: Sequence[int] | None, author: User) -> Taken:
    """photos: ids, None for all that are proposed. Photos that have moved on since are left as they are."""
    rows = (
        within_reach(batch, author)
        .filter(taken=None)
        .exclude(document="")
        .exclude(photo=batch.source_id)
    )
    rows = rows if photos is None else rows.filter(photo__in=photos)
    done, left = 0, []
    for row in rows.select_related("photo__shoot"):
        try:
            state = save_recipe(row.photo, row.revision, row.recipe, author)
        except (Refused, RecipeError) as error:
            left.append(f"{row.photo.title}: {one_line(error)}")
            continue
        done += 1
        Proposal.objects.filter(id=row.id).update(taken=state.revision, undone=False)
        if row.to_check:
            _mark(row, state.revision)
    return Taken(done, left)


def _mark(row: Proposal, revision: int) -> None:
    ToCheck.say(row.photo, revision, row.note or "Carried over with little confidence")


def take_back(batch: Batch, author: User) -> Taken:
    """The whole: one step back on each photo that still stands as it was taken."""
    done, left = 0, []
    rows = within_reach(batch, author).exclude(taken=None).filter(undone=False)
    for row in rows.select_related("photo"):
        photo = Photo.objects.filter(id=row.photo_id).first()
        if photo is None:
            continue
        try:
            if photo.revision != row.taken:
                raise Refused("it was worked on since", 409)
            _one_back(row, photo, author)
            done += 1
        except Refused as error:
            if not _is_back(row):  # by somebody who was faster with the same
                left.append(f"{photo.title}: {one_line(error)}")
    return Taken(done, left)


@again_when_deadlocked
def _one_back(row: Proposal, photo: Photo, author: User) -> None:
    with transaction.atomic():
        undo(photo, photo.revision, author)
        # It can be taken again, on top of the step that took it back.
        told = {"taken": None, "undone": True, "revision": photo.revision + 1}
        Proposal.objects.filter(id=row.id).update(**told)


def _is_back(row: Proposal) -> bool:
    return Proposal.objects.filter(id=row.id, undone=True).exists()


def forget_old() -> None:
    Batch.objects.filter(made__lt=timezone.now() - KEPT).delete()
