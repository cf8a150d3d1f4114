"""Where a watched shoot's files arrive, and where they go from there."""

from pathlib import Path

from django.conf import settings

from nubilis.deliver.names import free, safe
from shoots.models import Shoot
from shoots.services.folders import own_folder
from tether.models import Watch

TAKEN, REFUSED = "taken in", "refused"


def begin_watching(shoot: Shoot, **told: object) -> Watch:
    """Its folder is named once: whoever renames the shoot goes on putting files where they did."""
    new = {"folder": _new_folder(shoot), **told}
    watch, _ = Watch.objects.update_or_create(shoot=shoot, defaults=told, create_defaults=new)
    folder_of(shoot).mkdir(parents=True, exist_ok=True)
    return watch


def folder_of(shoot: Shoot) -> Path:
    """The one that is watched, or would be."""
    watch = Watch.objects.filter(shoot=shoot).first()
    return Path(settings.FOLDER_IN) / (watch.folder if watch else _new_folder(shoot))


def _new_folder(shoot: Shoot) -> str:
    """Below the folder for all; names may be alike, ids are not."""
    return f"{own_folder(shoot.owner)}/{safe(shoot.name)} {shoot.id}"


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
