"""Keep a pad measurement, take one back, or bring it back."""

from __future__ import annotations

import datetime as dt

from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.compute import set_or_error
from thermaxis.apps.work.models import Measurement
from thermaxis.core.errors import FieldError


def measure(machine: Machine, axle: str, thickness_m: float, odometer_km: float, on: dt.date) -> Measurement:
    """Keep the thinnest pad thickness of an axle. FieldError where the reading cannot be.

    It cannot be thicker than new, thicker than measured before, or taken before the set was fitted. A higher odometer
    than the machine's moves the machine's on.
    """
    with change():
        machine.refresh_from_db()
        fitted = set_or_error(machine)
        if axle not in ("front", "rear"):
            raise FieldError("axle", axle, "front or rear")
        new = getattr(fitted, f"{axle}_pad").thickness_m
        rows = fitted.measurements.filter(axle=axle, removed_at=None)
        before = rows.last()
        # Pads told apart on one day: the thinnest of them is what the axle had then.
        most = min(row.thickness_m for row in rows if row.measured_on == before.measured_on) if before else new
        source = "measured before" if before else "new"
        if not 0 <= thickness_m <= most + 1e-9:
            raise FieldError("thickness_m", thickness_m, f"a number >= 0 and <= {most:g}, the thickness {source}")
        least = before.odometer_km if before else fitted.fitted_km
        if not least <= odometer_km <= 5_000_000:
            raise FieldError("odometer_km", odometer_km, f"a number >= {least:g}, the last one kept")
        if not fitted.fitted_on <= on <= dt.date.today() + dt.timedelta(days=1):
            raise FieldError("measured_on", on.isoformat(), f"a day from {fitted.fitted_on.isoformat()} to today")
        if odometer_km > machine.odometer_km:
            machine.odometer_km = odometer_km
            machine.save(update_fields=["odometer_km"])
        return Measurement.objects.create(
            workshop=machine.workshop, fitted_set=fitted, axle=axle, measured_on=on, odometer_km=odometer_km,
            thickness_m=thickness_m,
        )  # fmt: skip


def set_removed(measurement: Measurement, removed: bool) -> Measurement:
    """Take a measurement out of the account, or bring it back; the row stays."""
    measurement.removed_at = timezone.now() if removed else None
    measurement.save(update_fields=["removed_at"])
    return measurement
