"""Whether whoever began a piece of work may still have it done."""

from accounts.models import User
from config.errors import Refused
from jobs.models import Job
from shoots.models import Photo, Shoot
from shoots.services.find import shared_with

NOT_ANY_MORE = "This is no longer shared with you for editing. Nothing was saved."


def need_rights(job: Job) -> None:
    """On the shoot that it is about, and on where its photo is by now. Asked whenever it is started, begun,
    gone on with, and ended. Raises Refused (403)."""
    shoots = {job.shoot_id}
    if job.photo_id is not None:
        shoots.update(Photo.everywhere.filter(id=job.photo_id).values_list("shoot", flat=True))
    person = User.objects.filter(id=job.owner_id, is_active=True).first()
    if person is None or _to_work_on(person, shoots) < len(shoots):
        raise Refused(NOT_ANY_MORE, 403)


def _to_work_on(person: User, shoots: set[int]) -> int:
    return Shoot.objects.filter(shared_with(person, to_work=True), id__in=shoots).count()
