"""Keeping, changing and bringing in reference colours."""

from collections.abc import Sequence

from django.db import transaction

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from nubilis.library.reference import Reference
from references.models import KeptReference
from shoots.models import Shoot
from shoots.services.find import seen_shoot

MOST = 2000


def own_reference(user: User, reference_id: int) -> KeptReference:
    """Raises Missing for other people's as for missing ones."""
    row = KeptReference.objects.filter(owner=user, id=reference_id).first()
    if row is None:
        raise Missing
    return row


@again_when_deadlocked
def keep(user: User, references: Sequence[Reference], shoot_id: int | None) -> list[KeptReference]:
    """Keep those that are not kept already in the same place, and return their rows.

    Raises Missing for another's shoot, Refused (413) when the library is full.
    """
    shoot = None if shoot_id is None else seen_shoot(user, shoot_id)
    with transaction.atomic():
        User.objects.select_for_update().get(id=user.id)
        there = KeptReference.objects.filter(owner=user)
        known = {row.reference for row in there if row.shoot_id == shoot_id}
        new = [r for r in dict.fromkeys(references) if r not in known]
        if len(there) + len(new) > MOST:
            raise Refused(f"A library holds {MOST} colours at most; nothing was added", 413)
        rows = []
        for one in new:
            row = KeptReference(owner=user)
            write(row, one, shoot)
            rows.append(row)
    return rows


def write(row: KeptReference, one: Reference, shoot: Shoot | None) -> None:
    row.name, row.group, row.note, row.shoot = one.name, one.group, one.note, shoot
    row.lightness, row.a, row.b = one.lab
    row.save()
