"""What the commands of backing up and restoring share."""

from argparse import ArgumentParser
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from config.errors import Refused, one_line

MISSING = 3  # exit code: done, but for files that are gone


class KeptCommand(BaseCommand):
    """Each says what it does with the file."""

    def work(self, file: Path, tell: Callable[[str], Any]) -> dict[str, Any]:
        """Telling how far it is; the manifest. Raises Refused, OSError."""
        raise NotImplementedError

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **options: object) -> None:
        file = options["file"]
        assert isinstance(file, Path)
        try:
            told = self.work(file, self.stderr.write)
        except Refused as error:
            raise CommandError(one_line(error)) from error
        except OSError as error:
            raise CommandError(f"{error.strerror}: {error.filename}") from error
        rows, files = len(told["tables"]), len(told["files"])
        self.stdout.write(f"{rows} tables and {files} files, of {told['made']}")
        if missing := told.get("missing"):
            for name in missing:
                self.stderr.write(f"Missing in the store: {name}")
            raise CommandError(
                f"{len(missing)} files are missing. ./nubilis doctor tells whose they are.",
                returncode=MISSING,
            )
