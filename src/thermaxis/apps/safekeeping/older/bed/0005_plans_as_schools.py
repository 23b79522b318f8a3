"""Plans that were kept before there were schools: moderate, then hard brakings, as rows of today."""

from __future__ import annotations

import itertools
from typing import Any

from django.db import migrations


def one_school(apps: Any, schema_editor: Any) -> None:
    """Write every older plan as the school it was, with what was known of it then."""
    records = apps.get_model("bed", "BeddingRecord")
    for record in records.objects.all():
        if "school" not in record.order:
            record.plan = as_school(record.order, record.plan)
            record.order = {
                "school": "moderate",
                "top_speed_mps": record.order["top_speed_mps"],
                "hard_g": record.order["hard_g"],
            }
            record.save(update_fields=["plan", "order"])


def as_school(order: dict[str, Any], plan: dict[str, Any]) -> dict[str, Any]:
    """An older plan in today's shape; limits it was not held to are not said of it."""
    names = ("from_mps", "to_mps", "decel_g", "then_s", "then_mps")
    rows, steps = [], []
    alike = itertools.groupby(plan["stops"], key=lambda stop: (stop["phase"], *(stop[name] for name in names)))
    for (phase, *values), group in alike:
        row = dict(zip(names, values, strict=True))
        rows.append({"phase": phase, "times": len(list(group)), "last_s": None, "stretch": 0, **row})
    for place, stop in enumerate(plan["stops"]):
        braking_s = (stop["from_mps"] - stop["to_mps"]) / (9.80665 * stop["decel_g"])
        item = {
            "phase": stop["phase"],
            "first": place,
            "stops": 1,
            **{name: stop[name] for name in names},
            "way_m": braking_s * (stop["from_mps"] + stop["to_mps"]) / 2.0 + stop["then_s"] * stop["then_mps"],
            "time_s": braking_s + stop["then_s"],
        }
        steps.append({"item": item, "front_C": stop["front_C"], "rear_C": stop["rear_C"]})
    window = {"low_C": order["window_low_C"], "high_C": order["window_high_C"]}
    inside = {
        axle: sum(stop[f"{axle}_C"] >= order["window_low_C"] for stop in plan["stops"]) for axle in ("front", "rear")
    }
    return {
        "school": "moderate",
        "rows": rows,
        "steps": steps,
        "reached": plan["reached"],
        "rear_reached": plan["rear_reached"],
        "inside_front": inside["front"],
        "inside_rear": inside["rear"],
        "peak_front_C": plan["peak_front_C"],
        "peak_rear_C": plan["peak_rear_C"],
        "hottest_fluid_C": 0.0,
        "cool_down_s": plan["cool_down_s"],
        "duration_s": sum(step["item"]["time_s"] for step in steps),
        "way_m": sum(step["item"]["way_m"] for step in steps),
        "wear_front_mm": 0.0,
        "wear_rear_mm": 0.0,
        "limits": [],
        "closed": None,
        "text": plan["text"],
        "needs": None,
        "rear": None,
        "remarks": [],
        "refused": None,
        "windows": {"front": window, "rear": window},
        "rider": False,
    }


class Migration(migrations.Migration):
    dependencies = [("bed", "0004_bedding")]
    operations = [migrations.RunPython(one_school, migrations.RunPython.noop)]
