from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0001_initial"),
    ]

    operations = [
        migrations.AddField(
            model_name="user",
            name="going",
            field=models.DateTimeField(null=True),
        ),
        migrations.AddField(
            model_name="user",
            name="removed",
            field=models.DateTimeField(null=True),
        ),
    ]
