"""A simulated camera on a cable: it shoots the demo's scenes as raw files into the shoot's folder."""

from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.db.models import F

from config.errors import Refused
from nubilis.camera.shoot import write_shot
from nubilis.photo.read import read_photo
from shoots.services.quota import check_quota
from tether.models import Watch
from tether.services.folder import folder_of

SCENES = settings.ROOT / "demo/photos"


def press(watch: Watch) -> str:
    """Shoot the next scene; the file's name. It appears in the folder once it is whole. Raises Refused."""
    scenes = sorted(Path(SCENES).glob("*.png"))
    if not scenes:
        raise Refused("The camera's scenes are missing on the server's disk", 409)
    Watch.objects.filter(id=watch.id).update(exposures=F("exposures") + 1)
    watch.refresh_from_db()
    number = watch.exposures - 1
    folder = folder_of(watch.shoot)
    name = f"QW_{watch.exposures:04d}.dng"
    beside = folder / f".{uuid4().hex}.dng"
    try:
        write_shot(beside, read_photo(scenes[number % len(scenes)]), number)
        check_quota(watch.shoot.owner, beside.stat().st_size)
        beside.rename(folder / name)
    finally:
        beside.unlink(missing_ok=True)
    return name
