"""Ask for the first account when there is none."""

import getpass
import os
import sys

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError

from accounts.models import User
from accounts.services.names import folded


class Command(BaseCommand):
    """Reads NUBILIS_USER and NUBILIS_PASSWORD, or asks on the terminal."""

    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        if User.objects.filter(is_active=True).exists():
            return
        name, password = os.environ.get("NUBILIS_USER"), os.environ.get("NUBILIS_PASSWORD")
        if not (name and password):
            if not sys.stdin.isatty():
                raise CommandError(
                    "no account yet: set NUBILIS_USER and NUBILIS_PASSWORD, or start on a terminal"
                )
            name, password = self._ask()
        try:
            validate_password(password)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from error
        name = folded(name)
        User.objects.create_superuser(name, password=password)
        self.stdout.write(f"Account {name} made.")

    def _ask(self) -> tuple[str, str]:
        self.stdout.write("The first account:")
        name = input("  name: ").strip()
        if not name:
            raise CommandError("a name is needed")
        return name, getpass.getpass("  password: ")
