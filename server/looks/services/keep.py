"""Keeping looks under names, each of which is one look's."""

from django.db import transaction

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from looks.models import KeptLook
from shoots.models import Use
from shoots.store import keeping_table, sweep

MOST = 200  # looks of one person


def looks_of(user: User) -> list[KeptLook]:
    return list(KeptLook.objects.filter(owner=user).select_related("use__stored"))


@again_when_deadlocked
def keep(user: User, data: bytes, name: str) -> KeptLook:
    """Keep a .cube table; one of a name that is there already takes its place.

    Raises TableError, and Refused (413) when there would be too many; then nothing is kept.
    """
    with keeping_table(data, name, user.id) as (_, use):
        User.objects.select_for_update().get(id=user.id)
        old = Use.objects.filter(look__owner=user, look__name=name)
        swept = list(old.values_list("stored_id", flat=True))
        old.delete()
        if KeptLook.objects.filter(owner=user).count() >= MOST:
            raise Refused(f"At most {MOST} looks can be kept; nothing was added", 413)
        row = KeptLook.objects.create(owner=user, name=name, use=use)
    sweep(swept)
    return row


@again_when_deadlocked
def forget(user: User, look_id: int) -> None:
    """Photos on which it lies keep it. Raises Missing."""
    with transaction.atomic():
        use = Use.objects.filter(look__owner=user, look__id=look_id).first()
        if use is None:
            raise Missing
        use.delete()
    sweep([use.stored_id])
