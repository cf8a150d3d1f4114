"""Masks that were found or brought in leave the recipes, which name them by their content from now on."""

import json
from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.db import migrations, models

from nubilis.errors import NubilisError
from nubilis.recipe.asset import asset_of
from nubilis.recipe.versions import upgraded


def bring_up(apps, schema_editor):
    """Every step of every history, and every version, so that undo reaches through."""
    for name in ("Revision", "Version"):
        model = apps.get_model("studio", name)
        for row in model.objects.only("id", "document", "photo_id").iterator(chunk_size=100):
            try:
                document = upgraded(json.loads(row.document), _keeper(apps, row.photo_id))
            except (NubilisError, ValueError):
                continue  # it could not be read before either; it stays as it is
            model.objects.filter(id=row.id).update(document=json.dumps(document))


def _keeper(apps, photo_id):
    Stored, Use = (apps.get_model("shoots", name) for name in ("Stored", "Use"))

    def keep(data):
        asset = asset_of(data)
        path = Path(settings.ASSETS) / asset.sha256[:2] / asset.sha256
        if not path.is_file():
            path.parent.mkdir(parents=True, exist_ok=True)
            part = path.with_name(f"{path.name}.{uuid4().hex}.part")
            part.write_bytes(data)
            part.replace(path)
        stored, _ = Stored.objects.get_or_create(
            kind="asset", sha256=asset.sha256, defaults={"size_bytes": len(data)}
        )
        Use.objects.get_or_create(stored=stored, photo_id=photo_id)
        return asset

    return keep


def forget_surveys(apps, schema_editor):
    """They hold casts as the last version wrote them; looking again takes a second."""
    apps.get_model("studio", "KeptSurvey").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("studio", "0004_kept"), ("shoots", "0002_stored_use")]

    operations = [
        migrations.AddField("keptsurvey", "masks", models.JSONField(default=dict)),
        migrations.RunPython(forget_surveys, migrations.RunPython.noop),
        migrations.RunPython(bring_up, migrations.RunPython.noop),
    ]
