"""Each duty gets the shape of its kind; the columns of all kinds go."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

from thermaxis.apps.garage.older_duties import ALL_COLUMNS, shape_from


def give_shapes(apps: Any, schema_editor: Any) -> None:
    """Write every duty's shape from what its columns and rows say; a circuit or run of another kind is let go."""
    for duty in apps.get_model("garage", "Duty").objects.order_by("pk").iterator():
        listed = {"stops": duty.stops.order_by("order").values(), "sections": duty.sections.order_by("order").values()}
        duty.shape = shape_from(vars(duty), listed)
        if duty.kind != "session":
            duty.circuit_id = None
        if duty.kind != "recorded":
            duty.run_id = None
        duty.save(update_fields=["shape", "circuit", "run"])


class Migration(migrations.Migration):
    dependencies = [("garage", "0001_squashed")]
    operations = [
        migrations.AddField(
            model_name="duty", name="shape", field=models.JSONField(default=dict), preserve_default=False
        ),
        migrations.RunPython(give_shapes, migrations.RunPython.noop),
        *(migrations.RemoveField(model_name="duty", name=name) for name in sorted({"kind"} | ALL_COLUMNS)),
        migrations.DeleteModel(name="DutyStop"),
        migrations.DeleteModel(name="DutySection"),
    ]
