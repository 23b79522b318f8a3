"""Keep a pad measurement."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import PadReading
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.core.errors import FieldError

MOST_KM = 5_000_000.0


def measure(
    scope: Scope, machine: Machine, axle: str, thickness_m: float, odometer_km: float, on: dt.date
) -> PadReading:
    """Keep the thinnest pad thickness of an axle. FieldError where the reading cannot be.

    It cannot be thicker than new, thicker than measured before, or taken before the pads were put on. A higher odometer
    than the machine's moves the machine's on.
    """
    with act(scope, "measure", machine) as entry:
        standing = standing_of(machine)
        if axle not in AXLES:
            raise FieldError("axle", axle, "front or rear")
        mounting, pads = standing.axles[axle].pads, standing.pads(axle)
        rows = list(pads.readings.there())
        before = rows[-1] if rows else None
        # Pads told apart on one day: the thinnest of them is what the axle had then.
        most = pads.size.thickness_m
        if before is not None:
            most = min(row.thickness_m for row in rows if row.measured_on == before.measured_on)
        source = "measured before" if before else "new"
        if not 0 <= thickness_m <= most + 1e-9:
            raise FieldError("thickness_m", thickness_m, f"a number >= 0 and <= {most:g}, the thickness {source}")
        here = [row.odometer_km for row in rows if row.mounting_id == mounting.pk]
        least = max(here, default=mounting.from_km)
        if not least <= odometer_km <= MOST_KM:
            raise FieldError("odometer_km", odometer_km, f"a number >= {least:g}, the last one kept")
        if not mounting.from_on <= on <= standing.day + dt.timedelta(days=1):
            raise FieldError("measured_on", on.isoformat(), f"a day from {mounting.from_on.isoformat()} to today")
        move_on(machine, odometer_km)
        row = PadReading.objects.create(
            workshop=scope.workshop,
            pad_set=pads,
            mounting=mounting,
            size=pads.size,
            measured_on=on,
            odometer_km=odometer_km,
            thickness_m=thickness_m,
        )
        entry.about(pads, row)
    return row


def move_on(machine: Machine, odometer_km: float) -> None:
    """Move the machine's odometer on to a reading, where that is further."""
    if odometer_km > machine.odometer_km:
        machine.odometer_km = odometer_km
        machine.save(update_fields=["odometer_km"])
