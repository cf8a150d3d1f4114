import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def forget(apps, schema_editor):
    """They are kept for a day, and can be made again; files without rows are swept away."""
    apps.get_model("delivery", "Delivery").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [
        ("delivery", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.RunPython(forget, migrations.RunPython.noop),
        migrations.RemoveField(model_name="delivery", name="file_format"),
        migrations.RemoveField(model_name="delivery", name="name"),
        migrations.AddField(
            model_name="delivery",
            name="stem",
            field=models.CharField(default="", max_length=200),
            preserve_default=False,
        ),
        migrations.AddField(
            model_name="delivery",
            name="tail",
            field=models.CharField(default="", max_length=40),
            preserve_default=False,
        ),
        migrations.CreateModel(
            name="Preset",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("name", models.CharField(max_length=60)),
                ("document", models.JSONField()),
                (
                    "owner",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="presets",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={"ordering": ["name"]},
        ),
        migrations.AddConstraint(
            model_name="preset",
            constraint=models.UniqueConstraint(
                fields=("owner", "name"), name="one_preset_of_a_name"
            ),
        ),
    ]
