from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor

from nubilis.deliver.names import safe


def as_it_is_called_now(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    for watch in apps.get_model("tether", "Watch").objects.select_related("shoot__owner"):
        shoot = watch.shoot
        watch.folder = f"{safe(shoot.owner.username)}/{safe(shoot.name)} {shoot.id}"
        watch.save(update_fields=["folder"])


class Migration(migrations.Migration):
    dependencies = [
        ("tether", "0001_initial"),
        ("shoots", "0002_deleted"),
    ]

    operations = [
        migrations.AddField(
            model_name="watch",
            name="folder",
            field=models.CharField(default="", max_length=500),
            preserve_default=False,
        ),
        migrations.RunPython(as_it_is_called_now, migrations.RunPython.noop),
    ]
