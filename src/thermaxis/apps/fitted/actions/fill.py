"""Say which fluid is in a machine, and how old it is."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.fitted.actions.mount import pour
from thermaxis.apps.fitted.models import FluidFill
from thermaxis.apps.fitted.standing import FLUID_AGE, Standing, check_fluid_age, standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError

FILL = Action("fill", "Fluid changed", kind="parts")


def fill(scope: Scope, machine: Machine, fluid_id: int, age_months: float, on: dt.date) -> tuple[FluidFill, Standing]:
    """Put a fluid of the workshop's catalogue in, as old as it is said to be; also gives the machine as it was before.

    FieldError for another's fluid.
    """
    with act(scope, FILL, machine) as entry:
        before = standing_of(machine)
        fluid = Fluid.objects.of(scope.workshop).filter(pk=fluid_id).first()
        if fluid is None:
            raise FieldError("fluid_id", fluid_id, "a fluid of the catalogue")
        check_fluid_age(age_months)
        now = pour(machine, fluid.pk, on, age_months)
        machine.estimates = [path for path in machine.estimates if path != FLUID_AGE]
        machine.save(update_fields=["estimates"])
        entry.changed("fluid", before.fill.fluid.name, fluid.name)
        entry.changed(FLUID_AGE, before.fluid_months, age_months)
        entry.about(now)
    return now, before


def correct_fluid(standing: Standing, *, name: str | None = None, age_months: float | None = None) -> None:
    """Correct what is said of the fluid that is in; FieldError names what is not allowed. Called within an act."""
    row = standing.fill
    if name is not None:
        found = Fluid.objects.of(row.workshop).filter(name=name).first()
        if found is None:
            names = Fluid.objects.of(row.workshop).values_list("name", flat=True)
            raise FieldError("fluid", name, "one of " + ", ".join(names))
        row.fluid = found
    if age_months is not None:
        # Counted from today: the day it was filled is not known any better than before.
        row.age_months = check_fluid_age(age_months)
        row.filled_on = standing.day
    row.save()
