"""What is wrong with this machine or its data; with --repair, what can be put right is."""

import sys
from argparse import ArgumentParser

from django.core.management.base import BaseCommand

from keeping.services.doctor import examine


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--repair", action="store_true")
        parser.add_argument("--deep", action="store_true", help="read every file")

    def handle(self, *args: object, **options: object) -> None:
        left = 0
        for finding in examine(deep=bool(options["deep"])):
            if options["repair"] and finding.mend is not None:
                finding.mend()
                self.stdout.write(f"{finding.text} Put right.")
                continue
            left += 1
            can = " ./nubilis doctor --repair puts it right." if finding.mend else ""
            self.stdout.write(finding.text + can)
        if not left:
            self.stdout.write("All is well.")
        sys.exit(1 if left else 0)
