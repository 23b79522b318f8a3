"""Keep what a tester, an eye or a soft pedal says of the fluid."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import FluidReading
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.messages.inspection import DAY_FROM
from thermaxis.core.planning.life.fluid import COLOURS
from thermaxis.core.said import day_text

READ_FLUID = Action("read_fluid", "Fluid tested", kind="reading", roles=DRIVERS, keys=Reach.READINGS)
REMOVE_FLUID_READING = Action(
    "remove_fluid_reading", "Fluid test taken out or brought back", kind="reading", roles=DRIVERS
)

LEAST_C, MOST_C, MOST_PERCENT = 100.0, 330.0, 10.0


def read_fluid(
    scope: Scope,
    machine: Machine,
    on: dt.date,
    *,
    boiling_C: float | None,
    water_percent: float | None,
    colour: str,
    overheated: bool,
) -> FluidReading:
    """Keep a reading of the fluid that is in. FieldError where it says nothing, or cannot be."""
    with act(scope, READ_FLUID, machine) as entry:
        standing = standing_of(machine)
        fill = standing.fill
        if boiling_C is None and water_percent is None and not colour and not overheated:
            raise FieldError("boiling_C", None, "a boiling point, its water, a colour, or that it was overheated")
        if boiling_C is not None and water_percent is not None:
            raise FieldError("water_percent", water_percent, "empty where a boiling point was read")
        if boiling_C is not None and not LEAST_C <= boiling_C <= MOST_C:
            raise FieldError.outside("boiling_C", boiling_C, Bounds(least=LEAST_C, most=MOST_C))
        if water_percent is not None and not 0 <= water_percent <= MOST_PERCENT:
            raise FieldError.outside("water_percent", water_percent, Bounds(least=0, most=MOST_PERCENT))
        if colour and colour not in COLOURS:
            raise FieldError("colour", colour, "one of " + ", ".join(COLOURS))
        if not fill.filled_on <= on <= standing.day:
            allowed = f"a day from {fill.filled_on.isoformat()} to today"
            raise FieldError("measured_on", on.isoformat(), allowed, DAY_FROM(first=day_text(fill.filled_on)))
        row = FluidReading.objects.create(
            workshop=scope.workshop,
            machine=machine,
            fill=fill,
            measured_on=on,
            boiling_C=boiling_C,
            water_percent=water_percent,
            colour=colour,
            overheated=overheated,
        )
        for name in ("boiling_C", "water_percent", "colour", "overheated"):
            entry.changed(name, None, getattr(row, name))
        entry.about(row)
    return row
