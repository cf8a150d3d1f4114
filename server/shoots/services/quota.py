"""How much one person may keep."""

from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.models import Q, Sum

from accounts.models import User
from config.errors import Refused
from shoots.models import Photo, Stored
from shoots.services.folders import own_folder


def used_bytes(person: User) -> int:
    """Of originals, those in the bin too; of what recipes and looks refer to; and of files in watched
    folders."""
    photos = Photo.everywhere.filter(shoot__owner=person).aggregate(sum=Sum("size_bytes"))["sum"]
    used = Q(uses__photo__shoot__owner=person) | Q(uses__owner=person)
    rows = Stored.objects.filter(used, kind=Stored.Kind.ASSET, there=True).distinct()
    assets = sum(size for _, size in rows.values_list("id", "size_bytes"))
    return int(photos or 0) + assets + _incoming(person)


def _incoming(person: User) -> int:
    folder = Path(settings.FOLDER_IN) / own_folder(person)
    return sum(path.stat().st_size for path in folder.rglob("*") if path.is_file())


def check_quota(person: User, more: int) -> None:
    """Within a transaction nobody else's file of this person's comes between. Raises Refused (413) when there
    would be too much."""
    most = settings.QUOTA_MB if person.quota_mb is None else person.quota_mb
    if not most:
        return
    if connection.in_atomic_block:
        User.objects.select_for_update().get(id=person.id)
    if used_bytes(person) + more > most * 10**6:
        raise Refused(f"There is room for {most} MB. Empty the bin, or ask for more.", 413)
