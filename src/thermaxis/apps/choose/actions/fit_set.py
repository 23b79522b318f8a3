"""Fit a chosen set to a machine, or take that back; what it was chosen by is kept as a decision."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Collection
from typing import Any

from thermaxis import __version__
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.actions.date_fitting import PLACES, check_day
from thermaxis.apps.fitted.actions.mount import new_pads, new_rotors, put_pads_on, put_rotors_on, take_back
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.parts import AXLES, Parts, rotors_on
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.duty_mapping import duty_facts, duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.core.errors import FieldError
from thermaxis.formats.case_file import write_case

FIT_SET = Action("fit_set", "Set fitted", kind="parts")
UNDO_FIT = Action("undo_fit", "Fitting taken back", kind="parts")


def fit_set(
    scope: Scope,
    machine: Machine,
    key: str,
    *,
    on: dt.date,
    content: dict[str, Any],
    title: str,
    note: str = "",
    renew: Collection[str] = (),
    odometer_km: float | None = None,
) -> Decision:
    """Fit the candidate with this key at the odometer of today, or of the day it went on. FieldError if the machine
    does not take it, or what is on now cannot have come off then.

    Only what differs from what is on is changed, and what `renew` names: the rest stays, with its history. A set that
    is on already gets new pads. `content` is what was shown when it was chosen; the case behind it is kept too.
    """
    for index, place in enumerate(renew):
        if place not in PLACES:
            raise FieldError(f"renew[{index}]", place, "one of " + ", ".join(PLACES))
    with act(scope, FIT_SET, machine) as entry:
        standing = standing_of(machine)
        check_day(standing.day, on)
        if odometer_km is not None and odometer_km > machine.odometer_km:
            # Whoever reads it off beside the car knows better than what was kept.
            machine.odometer_km = odometer_km
            machine.save(update_fields=["odometer_km"])
        chosen = choices_of(standing).with_key(key)
        if chosen is None:
            raise FieldError("key", key, "a candidate this machine takes")
        duty = duty_or_error(machine)
        facts = duty_facts(machine, duty)
        case = CaseBuilder(standing, facts.duty, facts.conditions).case(chosen)
        wanted = set(renew) | _different(standing, chosen) or {f"{axle}_pads" for axle in AXLES}
        row = entry.saved()
        for axle in machine.axles.all():
            place = axle.position
            if f"{place}_pads" in wanted:
                pads = new_pads(machine, chosen.pads(place))
                put_pads_on(machine, place, pads, on, duty=duty, entry=row, km=odometer_km)
                entry.changed(f"{place}.pads", standing.pads(place).pad.name, pads.pad.name)
                entry.about(pads)
            if f"{place}_rotors" in wanted:
                pair = new_rotors(machine, axle, chosen.rotors(place))
                put_rotors_on(machine, place, pair, on, duty=duty, entry=row, km=odometer_km)
                entry.changed(f"{place}.rotors", standing.rotors(place).name, pair.name)
                entry.about(pair)
        decision = Decision.objects.create(
            workshop=scope.workshop,
            machine=machine,
            fitting=row,
            title=title,
            note=note,
            content=content,
            inputs=json.loads(write_case(case)),
            engine_version=__version__,
        )
        entry.about(decision)
    return decision


def _different(standing: Standing, chosen: Parts) -> set[str]:
    """What of a choice is not on the machine."""
    pads = {f"{axle}_pads" for axle in AXLES if chosen.pads(axle).pad.pk != standing.pads(axle).pad_id}
    rotors = {f"{axle}_rotors" for axle in AXLES if chosen.rotors(axle).key != rotors_on(standing.rotors(axle)).key}
    return pads | rotors


def undo_fit(scope: Scope, machine: Machine) -> Standing:
    """Take the last fitting back: what was on before it is on again. Refused once the new parts have a history."""
    with act(scope, UNDO_FIT, machine) as entry:
        fitting = take_back(entry, machine)
        Decision.objects.filter(machine=machine, fitting=fitting).update(fitting=None)
        return standing_of(machine)
