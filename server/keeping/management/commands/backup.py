"""Everything that people have made, into one file."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from keeping.management.kept_command import KeptCommand
from keeping.services.backup import backup


class Command(KeptCommand):
    help = __doc__

    def work(self, file: Path, tell: Callable[[str], Any]) -> dict[str, Any]:
        return backup(file, tell)
