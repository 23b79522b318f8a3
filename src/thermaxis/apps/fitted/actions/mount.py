"""Put things on a machine and take them off; what one change did is taken back as a whole."""

from __future__ import annotations

import datetime as dt

from django.db.models import QuerySet

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import (
    Disc,
    FluidFill,
    PadMounting,
    PadReading,
    PadSet,
    PadSize,
    RotorMounting,
    RotorPair,
    RotorReading,
    RotorSize,
)
from thermaxis.apps.fitted.parts import ROTOR_SIZE, PadPart, RotorPart
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Axle, Duty, Machine
from thermaxis.apps.log.act import Entry, act
from thermaxis.apps.log.action import ACTIONS, Action
from thermaxis.apps.log.models import LogEntry
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.messages.inspection import DAY_FROM
from thermaxis.core.said import day_text, verbatim

MOUNT_PADS = Action("mount_pads", "Pads put on", kind="parts")
MOUNT_ROTORS = Action("mount_rotors", "Rotors put on", kind="parts")

SIDES = {1: ("",), 2: ("left", "right"), 3: ("1", "2", "3"), 4: ("1", "2", "3", "4")}


def new_pads(machine: Machine, part: PadPart) -> PadSet:
    """A set out of its box."""
    size = PadSize.objects.create(area_m2=part.area_m2, thickness_m=part.thickness_m, backing_m=part.backing_m)
    return PadSet.objects.create(workshop=machine.workshop, pad=part.pad, shape=part.shape, size=size, price=part.price)


def new_rotors(machine: Machine, axle: Axle, part: RotorPart) -> RotorPair:
    """Rotors out of their boxes, one for each side."""
    values = {name: getattr(part.size, name) for name in ROTOR_SIZE}
    size = RotorSize.objects.create(**{name: values[name] for name in ROTOR_SIZE})
    pair = RotorPair.objects.create(
        workshop=machine.workshop,
        name=part.name,
        rotor=part.rotor,
        mount=axle.rotor_mount,
        size=size,
        two_piece=part.two_piece,
        price=part.price,
    )
    for side in sides(axle):
        Disc.objects.create(pair=pair, side=side, direction=side if part.directional else "")
    return pair


def sides(axle: Axle) -> tuple[str, ...]:
    """The sides of an axle that have a rotor; none has a name where there is one only."""
    return SIDES[axle.rotors]


def put_pads_on(
    machine: Machine,
    axle: str,
    pads: PadSet,
    on: dt.date,
    *,
    duty: Duty,
    entry: LogEntry | None,
    km: float | None = None,
) -> PadMounting:
    """Put a pad set on an axle; the one that is on comes off and keeps its history. `km` where it was before today."""
    row = PadMounting(pad_set=pads, duty=duty)
    _put_on(row, PadMounting.objects.filter(machine=machine), machine, axle, on, entry, km)
    return row


def put_rotors_on(
    machine: Machine,
    axle: str,
    pair: RotorPair,
    on: dt.date,
    *,
    duty: Duty,
    entry: LogEntry | None,
    km: float | None = None,
) -> RotorMounting:
    """Put rotors on an axle; those that are on come off and keep their history. `km` where it was before today."""
    row = RotorMounting(rotor_pair=pair, duty=duty)
    _put_on(row, RotorMounting.objects.filter(machine=machine), machine, axle, on, entry, km)
    return row


def _put_on(
    row: PadMounting | RotorMounting,
    mounted: QuerySet[PadMounting] | QuerySet[RotorMounting],
    machine: Machine,
    axle: str,
    on: dt.date,
    entry: LogEntry | None,
    km: float | None,
) -> None:
    """Take off what is on an axle, and put this on from the same day and distance."""
    km = machine.odometer_km if km is None else km
    there = mounted.filter(axle=axle, until_on=None).first()
    if there is not None:
        check_since(there, on, km)
    mounted.filter(axle=axle, until_on=None).update(until_on=on, until_km=km, ended_by=entry)
    row.workshop, row.machine, row.axle = machine.workshop, machine, axle
    row.from_on, row.from_km, row.begun_by = on, km, entry
    row.save()


def read_on(row: PadMounting | RotorMounting) -> list[tuple[dt.date, float]]:
    """The day and the odometer of everything that was read of something while it was on."""
    if isinstance(row, PadMounting):
        return list(PadReading.objects.there().filter(mounting=row).values_list("measured_on", "odometer_km"))
    return list(RotorReading.objects.there().filter(mounting=row).values_list("measured_on", "odometer_km"))


def check_since(before: PadMounting | RotorMounting, on: dt.date, km: float) -> None:
    """FieldError where something cannot have come off on a day and at a distance: it was not on yet, or was read
    there later.
    """
    read = read_on(before)
    first_on = max([before.from_on, *(day for day, _ in read)])
    least_km = max([before.from_km, *(kilometres for _, kilometres in read)])
    if on < first_on:
        said = DAY_FROM(first=day_text(first_on))
        raise FieldError("on", on.isoformat(), f"a day from {first_on.isoformat()} to today", said)
    if km < least_km - 1e-9:
        why = verbatim("where what was on before was put on or read")
        raise FieldError.outside("odometer_km", km, Bounds(least=least_km, why=why), ", where it was read before")


def mount_pads(scope: Scope, machine: Machine, pads: PadSet, axle: str, on: dt.date) -> PadMounting:
    """Put a pad set of the shelf on an axle: it goes on with its own history.

    SolveError if it is on a machine, or neither of the axle's shape nor ever on it.
    """
    with act(scope, MOUNT_PADS, machine, pads) as entry:
        if pads.mountings.filter(until_on=None).exists():
            raise SolveError("This set is on a machine already.")
        row = axle_of(machine, axle)
        been_here = pads.mountings.filter(machine=machine, axle=axle).exists()
        if not been_here and not (pads.shape and pads.shape == row.pad_shape):
            raise SolveError(f"This set does not suit the {axle} axle: it takes another shape.")
        entry.about(pads)
        return put_pads_on(machine, axle, pads, on, duty=duty_or_error(machine), entry=entry.saved())


def mount_rotors(scope: Scope, machine: Machine, pair: RotorPair, axle: str, on: dt.date) -> RotorMounting:
    """Put rotors of the shelf on an axle; SolveError as for pads."""
    with act(scope, MOUNT_ROTORS, machine, pair) as entry:
        if pair.mountings.filter(until_on=None).exists():
            raise SolveError("These rotors are on a machine already.")
        row = axle_of(machine, axle)
        been_here = pair.mountings.filter(machine=machine, axle=axle).exists()
        if not been_here and not (pair.mount and pair.mount == row.rotor_mount):
            raise SolveError(f"These rotors do not suit the {axle} axle: it takes another mount.")
        entry.about(pair)
        return put_rotors_on(machine, axle, pair, on, duty=duty_or_error(machine), entry=entry.saved())


def last_fitting(machine: Machine) -> LogEntry | None:
    """The change that last put something on the machine, unless what it put on has been given a history since."""
    begun = [
        *PadMounting.objects.filter(machine=machine, until_on=None).exclude(begun_by=None).select_related("begun_by"),
        *RotorMounting.objects.filter(machine=machine, until_on=None).exclude(begun_by=None).select_related("begun_by"),
    ]
    entries = [row.begun_by for row in begun if row.begun_by is not None]
    return max(entries, key=lambda entry: entry.pk, default=None)


def can_undo(machine: Machine) -> bool:
    """Whether the last fitting can be taken back."""
    entry = last_fitting(machine)
    return entry is not None and not _taken_back_with(entry) and not _history_since(machine, entry)


def take_back(entry: Entry, machine: Machine, of_job: LogEntry | None = None) -> LogEntry:
    """Take the last fitting back: what it took off is on again, what it put on is as if it had not been.

    `of_job`: it must be this one, which a job has made. SolveError where nothing was on before, or once what it put on
    has history of its own.
    """
    fitting = last_fitting(machine)
    if fitting is None:
        raise SolveError("There is no earlier set to go back to.")
    if of_job is not None and fitting.pk != of_job.pk:
        raise SolveError("Other parts have gone on since this job: it stays closed.")
    if of_job is None and (why := _taken_back_with(fitting)):
        raise SolveError(why)
    if _history_since(machine, fitting):
        raise SolveError("This set was bedded or measured: fit the other one instead, so that its history stays.")
    _still_free(fitting)
    for row in PadMounting.objects.filter(begun_by=fitting).select_related("pad_set"):
        row.delete()
        if not row.pad_set.mountings.exists() and row.pad_set.arrived_on is None:
            row.pad_set.delete()
    for pair_row in RotorMounting.objects.filter(begun_by=fitting).select_related("rotor_pair"):
        pair_row.delete()
        if not pair_row.rotor_pair.mountings.exists() and pair_row.rotor_pair.arrived_on is None:
            pair_row.rotor_pair.delete()
    PadMounting.objects.filter(ended_by=fitting).update(until_on=None, until_km=None, ended_by=None)
    RotorMounting.objects.filter(ended_by=fitting).update(until_on=None, until_km=None, ended_by=None)
    entry.changed("fitting", fitting.pk, None)
    return fitting


def _still_free(fitting: LogEntry) -> None:
    """SolveError where what a fitting took off is on another axle or machine by now."""
    pads = PadSet.objects.filter(mountings__ended_by=fitting).filter(mountings__until_on=None)
    rotors = RotorPair.objects.filter(mountings__ended_by=fitting).filter(mountings__until_on=None)
    thing = pads.first() or rotors.first()
    if thing is not None:
        raise SolveError(f"{thing} that came off is on another axle or machine now: take it off there first.")


def _history_since(machine: Machine, fitting: LogEntry) -> bool:
    telling = [name for name, action in ACTIONS.items() if action.gives_history]
    return LogEntry.objects.filter(machine=machine, pk__gt=fitting.pk, act__in=telling).exists()


def _taken_back_with(fitting: LogEntry) -> str:
    made_by = ACTIONS.get(fitting.act)
    return made_by.taken_back_with if made_by is not None else ""


def pour(machine: Machine, fluid_id: int, on: dt.date, age_months: float) -> FluidFill:
    """Put fluid in; what was in comes out."""
    FluidFill.objects.filter(machine=machine, until_on=None).update(until_on=on, until_km=machine.odometer_km)
    return FluidFill.objects.create(
        workshop=machine.workshop,
        machine=machine,
        fluid_id=fluid_id,
        filled_on=on,
        filled_km=machine.odometer_km,
        age_months=age_months,
    )
