"""Make the demo account and its shoot; what is there already stays as the person left it."""

import json

from django.conf import settings
from django.core.management.base import BaseCommand
from django.db import transaction

from accounts.demo import DEMO_NAME, DEMO_PASSWORD
from accounts.models import User
from nubilis.library.exchange import read_references
from nubilis.recipe.files import read_file
from references.services.keep import keep
from shoots.models import Shoot
from shoots.services.add_photo import add_photo
from shoots.store import keep_asset
from studio.services.save_recipe import save_recipe

FOLDER = settings.ROOT / "demo"


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args: object, **options: object) -> None:
        if User.objects.filter(username=DEMO_NAME).exists():
            return
        document = json.loads((FOLDER / "shoot.json").read_text())
        with transaction.atomic():
            user = User.objects.create_user(DEMO_NAME, password=DEMO_PASSWORD)
            shoot = Shoot.objects.create(owner=user, name=document["name"])
            for entry in document["photos"]:
                file = FOLDER / "photos" / entry["file"]
                photo, _ = add_photo(shoot, file, file.name, entry["title"], entry["caption"])
                if "recipe" in entry:
                    recipe, files = read_file((FOLDER / "recipes" / entry["recipe"]).read_bytes())
                    for sha256 in recipe.assets:
                        keep_asset(files(sha256), photo)
                    save_recipe(photo, 0, recipe, user)
            references = read_references((FOLDER / "references.json").read_text())
            keep(user, references, shoot.id)
        self.stdout.write(f"Demo shoot made: {shoot.name}, {len(document['photos'])} photos")
