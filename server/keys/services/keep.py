"""Keeping colour keys under names, each of which is one key's."""

from collections.abc import Sequence

from django.db import transaction

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Refused
from keys.models import KeptKey
from nubilis.mask.named_key import MOST, NamedKey


@again_when_deadlocked
def keep(user: User, keys: Sequence[NamedKey]) -> int:
    """Keep keys; one of a name that is there already takes its place. Returns how many are new.

    Raises Refused (413) when there would be too many; then nothing is kept.
    """
    with transaction.atomic():
        User.objects.select_for_update().get(id=user.id)
        there = set(KeptKey.objects.filter(owner=user).values_list("name", flat=True))
        new = {k.name for k in keys} - there
        if len(there) + len(new) > MOST:
            raise Refused(f"At most {MOST} keys can be kept; nothing was added", 413)
        kept = [
            KeptKey.objects.update_or_create(
                owner=user, name=key.name, defaults={"document": key.model_dump_json()}
            )
            for key in keys
        ]
    return sum(made for _, made in kept)
