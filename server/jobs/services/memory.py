"""Whether this process may, and this machine can, have the memory for a piece of work."""

from pathlib import Path

from config.memory import make_room
from jobs.models import Job

PER_PIXEL = 40  # bytes while a photo is opened and delivered
BASE = 300 * 2**20
_MEMINFO = Path("/proc/meminfo")


def available() -> int | None:
    """Bytes that programs could be given; None where that is not told."""
    try:
        for line in _MEMINFO.read_text().splitlines():
            if line.startswith("MemAvailable:"):
                return int(line.split()[1]) * 1024
    except (OSError, ValueError, IndexError):
        pass
    return None


def fits(job: Job) -> bool:
    """Work that is alone is always begun: it could wait for ever."""
    photo, free = job.photo, available()
    if photo is None:
        return True
    wanted = PER_PIXEL * photo.width * photo.height
    if make_room(wanted) and (free is None or free >= BASE + wanted):
        return True
    return not Job.objects.filter(state=Job.State.RUNNING, token__isnull=False).exists()
