"""What this process may have of the machine's memory, and what it has.

The system's own figure counts: photos, results, what is being computed, uploads, jobs, the program itself.
"""

import ctypes
import os
from collections.abc import Callable

from django.conf import settings

_PAGE = os.sysconf("SC_PAGE_SIZE")
# While a picture is computed, for each of those at once: planes of a view, tables, what the coder takes.
WORKING = 350 * 2**20
LEAST = 600 * 2**20  # of photos and results, however small the budget is


def budget() -> int:
    """Bytes, in each web process and worker."""
    return int(settings.MEMORY_MB) * 2**20


def resident() -> int:
    """Bytes of memory that this process has (proc(5), statm)."""
    with open("/proc/self/statm", "rb") as file:
        return int(file.read().split()[1]) * _PAGE


_HOLDERS: list[Callable[[int], None]] = []


def lets_go(holder: Callable[[int], None]) -> None:
    """holder: of what can be made again; told how many bytes are wanted beside."""
    _HOLDERS.append(holder)


def make_room(wanted: int) -> bool:
    """For work that takes so many bytes; whether it is within the budget then."""
    for holder in _HOLDERS:
        holder(wanted)
    return resident() + wanted <= budget()


def given_back() -> None:
    """What was let go of goes back to the system (malloc_trim(3))."""
    if trim := getattr(ctypes.CDLL(None), "malloc_trim", None):
        trim(0)
