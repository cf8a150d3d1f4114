"""Where a watched shoot's files arrive, and where they go from there."""

from pathlib import Path

from django.conf import settings

from nubilis.deliver.names import free, safe
from shoots.models import Shoot

TAKEN, REFUSED = "taken in", "refused"


def folder_of(shoot: Shoot) -> Path:
    """Below the folder for all; names may be alike, ids are not."""
    own = Path(safe(shoot.owner.username)) / f"{safe(shoot.name)} {shoot.id}"
    return Path(settings.FOLDER_IN) / own


def told_of(shoot: Shoot) -> str:
    """How it is called to a person: below the folder that whoever runs the server knows."""
    return str(folder_of(shoot).relative_to(settings.FOLDER_IN))


def moved(file: Path, into: str, name: str = "") -> None:
    """Out of the way, beside, under its own name or another; counted up where one of that name is."""
    folder, named = file.parent / into, Path(name or file.name)
    folder.mkdir(exist_ok=True)
    stem = free(named.stem, [named.suffix], lambda name: (folder / name).exists())
    file.rename(folder / (stem + named.suffix))


def printable(name: str) -> str:
    """A file's name with a mark for each byte that is no letter of UTF-8."""
    return name.encode(errors="surrogateescape").decode(errors="replace")
