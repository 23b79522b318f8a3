"""Anti-lock brakes and the place of the hitch; what nobody has said of them is marked as an estimate.

Stops and weeks are parked afterwards, as the other duties are: their box was not there, so nobody has said 0.
"""

from django.db import migrations, models

WITHOUT_ANTI_LOCK = ("light_sports",)
PARKED_S = 900.0
HITCH = ("trailer.hitch_height_m", "trailer.hitch_overhang_m")


def mark(apps, schema_editor):
    for machine in apps.get_model("garage", "Machine").objects.all():
        machine.anti_lock = machine.vehicle_class not in WITHOUT_ANTI_LOCK
        new = [] if machine.kind == "motorcycle" else ["vehicle.anti_lock"]
        if machine.trailer_mass_kg is not None:
            new += HITCH
        machine.estimates = [*machine.estimates, *new]
        machine.save(update_fields=["anti_lock", "estimates"])


def park(apps, schema_editor):
    rows = apps.get_model("garage", "Duty").objects.filter(kind__in=("stops", "week"), then_s=0.0)
    rows.exclude(note="from a case file").update(then_s=PARKED_S)


def unmark(apps, schema_editor):
    for machine in apps.get_model("garage", "Machine").objects.all():
        machine.estimates = [path for path in machine.estimates if path not in ("vehicle.anti_lock", *HITCH)]
        machine.save(update_fields=["estimates"])


class Migration(migrations.Migration):
    dependencies = [("garage", "0001_initial")]

    operations = [
        migrations.AddField("machine", "anti_lock", models.BooleanField(default=True)),
        migrations.AddField("machine", "trailer_hitch_height_m", models.FloatField(default=0.45)),
        migrations.AddField("machine", "trailer_hitch_overhang_m", models.FloatField(default=1.1)),
        migrations.RunPython(mark, unmark),
        migrations.RunPython(park, migrations.RunPython.noop),
    ]
