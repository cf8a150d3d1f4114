"""What a backup holds, onto an empty machine."""

from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from config.errors import Refused, one_line
from keeping.services.backup import restore


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **options: object) -> None:
        file = options["file"]
        assert isinstance(file, Path)
        try:
            told = restore(file, self.stderr.write)
        except Refused as error:
            raise CommandError(one_line(error)) from error
        except OSError as error:
            raise CommandError(f"{error.strerror}: {error.filename}") from error
        rows = len(told["tables"])
        self.stdout.write(f"{rows} tables and {len(told['files'])} files, of {told['made']}")
