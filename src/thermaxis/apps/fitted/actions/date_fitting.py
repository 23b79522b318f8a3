"""Say when what is on a machine was put on: parts fitted last year, or found on it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Collection

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.mount import check_since, read_on
from thermaxis.apps.fitted.models import PadMounting, RotorMounting
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.said import verbatim

DATE_FITTING = Action("date_fitting", "Day of fitting said", kind="parts")

PLACES = tuple(f"{axle}_{part}" for axle in ("front", "rear") for part in ("pads", "rotors"))


def date_fitting(scope: Scope, machine: Machine, places: Collection[str], on: dt.date, odometer_km: float) -> Standing:
    """Correct the day and the odometer at which these places got what is on them; what was there before ended then.

    FieldError for a place that is none, a day to come, a distance beyond the machine's, and where a reading stands
    against it: of these parts before that day, or of those before them after it.
    """
    for index, place in enumerate(places):
        if place not in PLACES:
            raise FieldError(f"places[{index}]", place, "one of " + ", ".join(PLACES))
    with act(scope, DATE_FITTING, machine) as entry:
        standing = standing_of(machine)
        check_day(standing.day, on)
        if not 0 <= odometer_km <= machine.odometer_km:
            why = verbatim("what the odometer shows today")
            bounds = Bounds(least=0, most=machine.odometer_km, why=why)
            raise FieldError.outside("odometer_km", odometer_km, bounds, ", the odometer of today")
        for place in dict.fromkeys(places):
            axle, part = place.split("_")
            row = standing.axles[axle].pads if part == "pads" else standing.axles[axle].rotors
            _check_own(row, on, odometer_km)
            before = _before(row)
            if before is not None:
                check_since(before, on, odometer_km)
                before.until_on, before.until_km = on, odometer_km
                before.save(update_fields=["until_on", "until_km"])
            entry.changed(f"{place}.from_on", row.from_on.isoformat(), on.isoformat())
            entry.changed(f"{place}.from_km", row.from_km, odometer_km)
            row.from_on, row.from_km = on, odometer_km
            row.save(update_fields=["from_on", "from_km"])
            entry.about(row)
    return standing_of(machine)


def check_day(today: dt.date, on: dt.date) -> None:
    """FieldError for a day that is not there yet, wherever on earth it is asked from, or in another age."""
    if not dt.date(1950, 1, 1) <= on <= today + dt.timedelta(days=1):
        raise FieldError("on", on.isoformat(), "a day up to today")


def _check_own(row: PadMounting | RotorMounting, on: dt.date, odometer_km: float) -> None:
    """A reading of what is on was made while it was on."""
    read = read_on(row)
    first_on, first_km = min((day for day, _ in read), default=on), min((km for _, km in read), default=odometer_km)
    if on > first_on:
        raise FieldError("on", on.isoformat(), f"a day up to {first_on.isoformat()}, when it was read")
    if odometer_km > first_km:
        bounds = Bounds(least=0, most=first_km, why=verbatim("where it was read"))
        raise FieldError.outside("odometer_km", odometer_km, bounds, ", where it was read")


def _before(row: PadMounting | RotorMounting) -> PadMounting | RotorMounting | None:
    """What was on the same axle last, before this."""
    rows = type(row).objects.filter(machine=row.machine, axle=row.axle)
    return rows.exclude(until_on=None).order_by("until_on", "pk").last()
