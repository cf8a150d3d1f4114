"""Sharing a shoot: to look at, or to work on."""

from accounts.models import User
from accounts.services.names import folded
from accounts.services.note import note
from config.database import again_when_deadlocked
from config.errors import Missing, Refused
from shoots.models import Share, Shoot

MOST = 100  # people for each shoot


@again_when_deadlocked
def share(shoot: Shoot, name: str, may: Share.May) -> Share:
    """Raises Refused: 404 when nobody is called so, 422 for the owner, 413 for too many."""
    person = User.objects.filter(username=folded(name), is_active=True).first()
    if person is None:
        raise Refused(f"There is no account called {name}", 404)
    if person.id == shoot.owner_id:
        raise Refused("The shoot is yours already", 422)
    if shoot.shares.exclude(person=person).count() >= MOST:
        raise Refused(f"A shoot can be shared with {MOST} people at most", 413)
    row, new = Share.objects.get_or_create(shoot=shoot, person=person, defaults={"may": may})
    if not new:
        row.may = may
        row.save(update_fields=["may"])
    note(shoot.owner.username, f"{shoot.name} is shared with {name} to {may}")
    return row


def unshare(user: User, shoot: Shoot, share_id: int) -> None:
    """Raises Missing, also for other people's shares of a shoot that is shared with one."""
    rows = shoot.shares.filter(id=share_id)
    if shoot.owner_id != user.id:
        rows = rows.filter(person=user)
    row = rows.select_related("person").first()
    if row is None:
        raise Missing
    row.delete()
    note(user.username, f"{shoot.name} is not shared with {row.person.username} any more")
