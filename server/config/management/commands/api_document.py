"""Write what the browser's types, words and resting values are made of: the OpenAPI document, and the kinds
of parts and remedies."""

import json
from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand

from config.api import api
from nubilis.recipe.kinds import described

KINDS = "// Made from the core's registries; never written by hand.\nexport const KINDS = {} as const;\n"


class Command(BaseCommand):
    """manage.py api_document FOLDER."""

    help = __doc__
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folder", type=Path)

    def handle(self, *args: object, **options: object) -> None:
        folder = Path(str(options["folder"]))
        document = json.dumps(api.get_openapi_schema(), indent=1)
        (folder / "openapi.json").write_text(document + "\n")
        (folder / "kinds.ts").write_text(KINDS.format(json.dumps(described(), indent=1)))
