"""How much one person may keep."""

from django.conf import settings
from django.db.models import Sum

from accounts.models import User
from config.errors import Refused
from shoots.models import Photo


def used_bytes(person: User) -> int:
    """Of originals, those in the bin too."""
    told = Photo.everywhere.filter(shoot__owner=person).aggregate(sum=Sum("size_bytes"))
    return int(told["sum"] or 0)


def check_quota(person: User, more: int) -> None:
    """Raises Refused (413) when there would be too much."""
    most = settings.QUOTA_MB if person.quota_mb is None else person.quota_mb
    if most and used_bytes(person) + more > most * 10**6:
        raise Refused(f"There is room for {most} MB of photos; empty the bin, or ask for more", 413)
