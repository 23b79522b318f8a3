"""What was answered is stored for one caller in one workshop. Earlier answers are dropped: some held secrets."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("accounts", "0003_machine_stamps"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.DeleteModel(name="ChangeKey"),
        migrations.CreateModel(
            name="ChangeKey",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=64)),
                ("operation", models.CharField(max_length=200)),
                ("fingerprint", models.CharField(max_length=64)),
                ("caller", models.CharField(max_length=40)),
                ("secret", models.BooleanField(default=False)),
                ("made_at", models.DateTimeField(auto_now_add=True, db_index=True)),
                ("status", models.PositiveSmallIntegerField(null=True)),
                ("media_type", models.CharField(blank=True, max_length=80)),
                ("content", models.BinaryField(default=b"")),
                (
                    "user",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "workshop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="+", to="accounts.workshop"
                    ),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("user", "key"), name="one_change_per_key")],
            },
        ),
    ]
