"""What is wanted of deliveries, kept under names, each of which is one person's one order."""

from django.db import transaction

from accounts.models import User
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from delivery.models import Preset
from delivery.services.order import Order

MOST = 100


@again_when_deadlocked
def keep(user: User, name: str, order: Order) -> Preset:
    """One of a name that is there already takes its place. Raises Refused (413)."""
    with transaction.atomic():
        User.objects.select_for_update().get(id=user.id)
        there = Preset.objects.filter(owner=user)
        if not there.filter(name=name).exists() and there.count() >= MOST:
            raise Refused(f"At most {MOST} orders can be kept", 413)
        document = order.model_dump(mode="json")
        row, _ = Preset.objects.update_or_create(
            owner=user, name=name, defaults={"document": document}
        )
    return row


def forget(user: User, preset_id: int) -> None:
    """Raises Missing."""
    if not Preset.objects.filter(owner=user, id=preset_id).delete()[0]:
        raise Missing
