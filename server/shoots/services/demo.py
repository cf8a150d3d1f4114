"""The demo account with its shoots."""

import json
from collections.abc import Collection
from typing import Any

from django.conf import settings
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


def make_demo(only: Collection[str] | None = None, **account: Any) -> Shoot:
    """The first of the demo's shoots, which is the newest. only: the photos of these titles, and the shoots
    that have any of them, else all; account: further fields of the person's."""
    document = json.loads((FOLDER / "shoots.json").read_text())
    with transaction.atomic():
        user = User.objects.create_user(DEMO_NAME, password=DEMO_PASSWORD, **account)
        # The newest is the one that opens.
        for entry in reversed(document["shoots"]):
            photos = [p for p in entry["photos"] if only is None or p["title"] in only]
            if photos:
                shoot = Shoot.objects.create(owner=user, name=entry["name"])
                for photo in photos:
                    _add(shoot, photo, user)
        references = read_references((FOLDER / "references.json").read_text())
        keep(user, references, shoot.id)
    return shoot


def _add(shoot: Shoot, entry: dict[str, str], user: User) -> None:
    file = FOLDER / "photos" / entry["file"]
    photo, _ = add_photo(shoot, file, file.name, entry["title"], entry["caption"])
    if "recipe" in entry:
        recipe, files = read_file((FOLDER / "recipes" / entry["recipe"]).read_bytes())
        for sha256 in recipe.assets:
            keep_asset(files(sha256), photo)
        save_recipe(photo, 0, recipe, user)
