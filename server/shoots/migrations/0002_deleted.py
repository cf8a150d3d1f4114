from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("shoots", "0001_initial"),
    ]

    operations = [
        migrations.AddField(
            model_name="shoot",
            name="going",
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name="shoot",
            name="removed",
            field=models.DateTimeField(null=True),
        ),
    ]
