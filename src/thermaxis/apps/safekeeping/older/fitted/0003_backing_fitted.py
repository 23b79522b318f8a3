"""A calibration fits the conductance from plates to caliper where it fitted the heat partition before.

Edition 2 of the model has no partition to fit. What was found of the cooling stays; of the conductance nothing was.
"""

from django.db import migrations

PRIOR_SIGMA = 0.25


def to_backing(fit):
    if fit is None:
        return None
    kept = {name: fit[name] for name in ("cooling", "cooling_sigma")}
    return {**kept, "backing": 1.0, "backing_sigma": PRIOR_SIGMA, "correlation": 0.0}


def convert(apps, schema_editor):
    for row in apps.get_model("fitted", "Calibration").objects.all():
        row.front, row.rear = to_backing(row.front), to_backing(row.rear)
        row.residuals = [{**entry, "part": "ring"} for entry in row.residuals]
        row.save(update_fields=["front", "rear", "residuals"])


class Migration(migrations.Migration):
    dependencies = [("fitted", "0002_initial")]

    operations = [migrations.RunPython(convert, migrations.RunPython.noop)]
