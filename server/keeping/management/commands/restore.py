"""What a backup holds, onto an empty machine."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from keeping.management.kept_command import KeptCommand
from keeping.services.backup import restore


class Command(KeptCommand):
    help = __doc__

    def work(self, file: Path, tell: Callable[[str], Any]) -> dict[str, Any]:
        return restore(file, tell)
