"""Keep a pad measurement."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import PadReading
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.messages.inspection import DAY_FROM, MEASURED_BEFORE
from thermaxis.core.said import day_text, verbatim

MEASURE = Action("measure", "Pads measured", kind="reading", roles=DRIVERS, keys=Reach.READINGS, gives_history=True)
REMOVE_MEASUREMENT = Action(
    "remove_measurement", "Measurement taken out or brought back", kind="reading", roles=DRIVERS
)

MOST_KM = 5_000_000.0


def measure(
    scope: Scope, machine: Machine, axle: str, thickness_m: float, odometer_km: float, on: dt.date
) -> PadReading:
    """Keep the thinnest pad thickness of an axle. FieldError where the reading cannot be.

    It cannot be thicker than new, thicker than measured before, or taken before the pads were put on. A higher odometer
    than the machine's moves the machine's on.
    """
    with act(scope, MEASURE, machine) as entry:
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
        if not 0 <= thickness_m <= most + 1e-9:
            why = MEASURED_BEFORE(day=day_text(before.measured_on)) if before else verbatim("its thickness when new")
            source = ", the thickness " + ("measured before" if before else "new")
            raise FieldError.outside("thickness_m", thickness_m, Bounds(least=0, most=most, why=why), source)
        here = [row.odometer_km for row in rows if row.mounting_id == mounting.pk]
        least = max(here, default=mounting.from_km)
        if not least <= odometer_km <= MOST_KM:
            bounds = Bounds(least=least, most=MOST_KM, why=verbatim("the last one kept for these pads"))
            raise FieldError.outside("odometer_km", odometer_km, bounds, ", the last one kept")
        if not mounting.from_on <= on <= standing.day + dt.timedelta(days=1):
            allowed = f"a day from {mounting.from_on.isoformat()} to today"
            said = DAY_FROM(first=day_text(mounting.from_on))
            raise FieldError("measured_on", on.isoformat(), allowed, said)
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
