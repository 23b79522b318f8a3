"""Say which hoses, or seals and boots, are on an axle, and how old they are."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import Hose
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.planning.life.hoses import KINDS, MOST_MONTHS, SEALS

FIT_HOSES = Action("fit_hoses", "Hoses, seals or boots said", kind="parts")


def fit_hoses(scope: Scope, machine: Machine, axle: str, kind: str, age_months: float, on: dt.date) -> Hose:
    """Put hoses, or new seals and boots, on an axle, as old as they are said to be; those before keep their history.

    What was said the same day is corrected, not kept beside it. FieldError names what is not allowed.
    """
    with act(scope, FIT_HOSES, machine) as entry:
        if not machine.axles.filter(position=axle).exists():
            raise FieldError("axle", axle, "an axle of this machine")
        if kind not in KINDS:
            raise FieldError("kind", kind, "one of " + ", ".join(KINDS))
        if not 0 <= age_months <= MOST_MONTHS:
            raise FieldError.outside("age_months", age_months, Bounds(least=0, most=MOST_MONTHS))
        what = SEALS if kind == SEALS else "hoses"
        on_it = Hose.objects.filter(machine=machine, axle=axle, what=what, until_on=None)
        before = on_it.first()
        km = machine.odometer_km
        if before is not None and before.fitted_on == on:
            on_it.update(kind=kind, age_months=age_months, fitted_km=km)
        else:
            on_it.update(until_on=on, until_km=km)
            Hose.objects.create(
                workshop=machine.workshop,
                machine=machine,
                axle=axle,
                what=what,
                kind=kind,
                age_months=age_months,
                fitted_on=on,
                fitted_km=km,
            )
        now = on_it.get()
        entry.changed(f"{axle}.{what}", before.kind if before else None, kind)
        entry.changed(f"{axle}.{what}.age_months", before.months_on(on) if before else None, age_months)
        entry.about(now)
    return now
