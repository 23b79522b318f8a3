"""What devices for time codes were told stood in plain text: it is sealed."""

from django.db import migrations

from thermaxis.apps.accounts.sealing import is_sealed, sealed


def seal(apps, schema_editor):
    for device in apps.get_model("otp_totp", "TOTPDevice").objects.all():
        if not is_sealed(device.key):
            device.key = sealed(bytes.fromhex(device.key))
            device.save(update_fields=["key"])


class Migration(migrations.Migration):
    dependencies = [("accounts", "0004_answers_of_one_caller"), ("otp_totp", "0003_add_timestamps")]

    operations = [
        migrations.CreateModel(
            name="TimeCode",
            fields=[],
            options={"proxy": True, "indexes": [], "constraints": []},
            bases=("otp_totp.totpdevice",),
        ),
        migrations.RunPython(seal, migrations.RunPython.noop),
    ]
