"""Write the OpenAPI document, from which the browser's types are made."""

import json
from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand

from config.api import api


class Command(BaseCommand):
    """manage.py api_document FILE."""

    help = __doc__
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, **options: object) -> None:
        document = json.dumps(api.get_openapi_schema(), indent=1)
        Path(str(options["file"])).write_text(document + "\n")
