"""Start an inspection, enter its cells, finish it, overrule a verdict, take it out."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, field

from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.measure import MOST_KM, move_on
from thermaxis.apps.fitted.models import PadReading, RotorReading
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.inspect import inspecting
from thermaxis.apps.inspect.models import Inspection, InspectionCell, Overruling
from thermaxis.apps.log import actions as log
from thermaxis.apps.log.act import act, same
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.messages.inspection import DAY_FROM
from thermaxis.core.planning.inspection.cells import Doubt, Value, as_mm, cell_of, read_value
from thermaxis.core.planning.inspection.look import Wheel
from thermaxis.core.planning.inspection.sheet import assess
from thermaxis.core.said import Said, day_text, verbatim

START_INSPECTION = Action(
    "start_inspection", "Inspection begun", kind="reading", keys=Reach.READINGS, nearby=True, gives_history=True
)
CHANGE_INSPECTION = Action("change_inspection", "Inspection dated", kind="reading", nearby=True)
ENTER_CELLS = Action(
    "enter_cells",
    "Inspection written",
    kind="reading",
    keys=Reach.READINGS,
    nearby=True,
    quiet=True,
    gives_history=True,
)
FINISH_INSPECTION = Action("finish_inspection", "Inspection finished", kind="reading", gives_history=True)
REOPEN_INSPECTION = Action("reopen_inspection", "Inspection opened again", kind="reading")
REMOVE_INSPECTION = Action("remove_inspection", "Inspection taken out or brought back", kind="reading")
OVERRULE = Action("overrule", "Verdict set aside", kind="reading")

SOURCES = ("hand", "gauge")
# Said of a cell by a page that does not say what it saw there.
UNSEEN = object()


@dataclass(frozen=True, kw_only=True)
class Entry:
    """What is to stand in a cell (None empties it); `confirmed`: it was doubted and is right; `seen`: what stood there
    when it was typed.
    """

    value: object
    confirmed: bool = False
    source: str = "hand"
    seen: object = UNSEEN


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """Cells that ask before they are kept, that were refused, with what is allowed, or that hold what somebody else
    has entered meanwhile.
    """

    asks: dict[str, Doubt] = field(default_factory=dict)
    refused: dict[str, Said] = field(default_factory=dict)
    clashes: dict[str, object] = field(default_factory=dict)


def start_inspection(scope: Scope, machine: Machine, on: dt.date, odometer_km: float) -> Inspection:
    """Begin an inspection; where one is open, that one is gone on with, so that a repeated request makes no second."""
    with act(scope, START_INSPECTION, machine) as entry:
        open_one: Inspection | None = machine.inspections.there().filter(finished_at=None).first()
        if open_one is not None:
            entry.nothing = True
            return open_one
        standing = standing_of(machine)
        front, rear = standing.axles["front"], standing.axles["rear"]
        inspection = Inspection(
            workshop=scope.workshop,
            machine=machine,
            measured_on=on,
            odometer_km=odometer_km,
            front_pads=front.pads,
            rear_pads=rear.pads,
            front_rotors=front.rotors,
            rear_rotors=rear.rotors,
        )
        _check_head(inspection)
        inspection.save()
        entry.about(inspection)
    return inspection


def change_head(scope: Scope, inspection: Inspection, on: dt.date, odometer_km: float) -> Inspection:
    """Set day and odometer of an open inspection."""
    with act(scope, CHANGE_INSPECTION, inspection) as entry:
        _must_be_open(inspection)
        entry.changed("measured_on", inspection.measured_on, on)
        entry.changed("odometer_km", inspection.odometer_km, odometer_km)
        inspection.measured_on, inspection.odometer_km = on, odometer_km
        _check_head(inspection)
        inspection.save(update_fields=["measured_on", "odometer_km"])
    return inspection


def enter_cells(scope: Scope, inspection: Inspection, entries: Mapping[str, Entry]) -> Outcome:
    """Keep what is allowed, cell by cell; doubtful readings ask and wrong ones are refused without holding up the rest.

    Entering the same again changes nothing, so a page may repeat what it does not know to have arrived.
    """
    outcome = Outcome()
    with act(scope, ENTER_CELLS, inspection) as log_entry:
        _must_be_open(inspection)
        log_entry.about(inspection)
        wheels, before = inspecting.limits_of(inspection), inspecting.before_of(inspection)
        values = inspecting.values_of(inspection)
        # What the readings stand on comes first, in whatever order the page sends it.
        for name, entry in sorted(entries.items(), key=lambda item: "rotor_" in item[0]):
            try:
                cell = cell_of(name, [wheel.name for wheel in wheels])
                kept = values.get(name)
                if entry.seen is not UNSEEN and not same(kept, entry.seen) and not same(kept, entry.value):
                    outcome.clashes[name] = kept
                    continue
                if entry.value is None:
                    inspection.cells.filter(name=name).delete()
                    values.pop(name, None)
                    log_entry.changed(name, kept, None)
                    continue
                if entry.source not in SOURCES:
                    raise FieldError("source", entry.source, "one of " + ", ".join(SOURCES))
                value = read_value(name, cell, entry.value)
                if cell.kind == "length" and not entry.confirmed and values.get(name) != value:
                    doubt = inspecting.doubt_about(name, float(value), wheels, values, before)
                    if doubt is not None:
                        outcome.asks[name] = doubt
                        continue
                # What the rules themselves refuse never gets in.
                assess(wheels, {**values, name: value})
            except FieldError as error:
                asked = _was_mm(name, entry, error, wheels, values, before)
                if asked is not None:
                    outcome.asks[name] = asked
                else:
                    outcome.refused[name] = error.said
                continue
            values[name] = value
            log_entry.changed(name, kept, value)
            InspectionCell.objects.update_or_create(
                inspection=inspection,
                name=name,
                defaults={"value": value, "confirmed": entry.confirmed, "source": entry.source},
            )
    return outcome


def _was_mm(
    name: str,
    entry: Entry,
    error: FieldError,
    wheels: tuple[Wheel, ...],
    values: Mapping[str, Value],
    before: inspecting.Before | None,
) -> Doubt | None:
    """What is far too long for a length, and would be none had it been millimetres: a gauge left on mm, read as in."""
    if isinstance(entry.value, bool) or not isinstance(entry.value, int | float):
        return None
    millimetres = as_mm(float(entry.value))
    try:
        cell = cell_of(name, [wheel.name for wheel in wheels])
        if cell.kind != "length":
            return None
        read_value(name, cell, millimetres)
    except FieldError:
        return None
    if inspecting.doubt_about(name, millimetres, wheels, values, before) is not None:
        return None
    return Doubt(text=error.said, in_inches_m=None, in_mm_m=millimetres)


def finish(scope: Scope, inspection: Inspection) -> Inspection:
    """Close an inspection: what was found becomes readings of pads and rotors, the odometer moves on, limits are kept.

    SolveError where nothing was entered. Finishing twice changes nothing.
    """
    with act(scope, FINISH_INSPECTION, inspection) as entry:
        # Sent four times together, the first closes it and the others find it closed.
        if inspection.finished_at is not None:
            entry.nothing = True
            return inspection
        _must_be_open(inspection)
        wheels, values = inspecting.wheels_of(inspection), inspecting.values_of(inspection)
        if not values:
            raise SolveError("Nothing has been entered yet: measure at least one pad, or take the inspection out.")
        _check_head(inspection)
        PadReading.objects.bulk_create(inspecting.measurements_of(inspection))
        RotorReading.objects.bulk_create(inspecting.rotor_readings_of(inspection))
        move_on(inspection.machine, inspection.odometer_km)
        inspection.wheels = inspecting.kept_wheels(wheels)
        inspection.finished_at, inspection.engine_version = timezone.now(), __version__
        inspection.save(update_fields=["wheels", "finished_at", "engine_version"])
        entry.about(inspection)
    return inspection


def reopen(scope: Scope, inspection: Inspection) -> Inspection:
    """Go on with a finished inspection: its measurements leave the set until it is finished again."""
    with act(scope, REOPEN_INSPECTION, inspection) as entry:
        if inspection.finished_at is None:
            entry.nothing = True
            return inspection
        _must_be_the_only_one(inspection)
        inspection.padreadings.all().delete()
        inspection.rotorreadings.all().delete()
        inspection.finished_at, inspection.wheels = None, []
        inspection.save(update_fields=["finished_at", "wheels"])
        entry.about(inspection)
    return inspection


def set_removed(scope: Scope, inspection: Inspection, removed: bool) -> Inspection:
    """Take an inspection out with its readings, or bring all of it back."""
    with act(scope, REMOVE_INSPECTION, inspection):
        if not removed and inspection.finished_at is None:
            _must_be_the_only_one(inspection)
        log.set_removed(scope, REMOVE_INSPECTION, inspection, removed)
        inspection.padreadings.update(removed_at=inspection.removed_at)
        inspection.rotorreadings.update(removed_at=inspection.removed_at)
    return inspection


def overrule(scope: Scope, inspection: Inspection, subject: str, word: str | None, reason: str) -> Overruling | None:
    """Set a verdict aside with a reason, or take that back (`word` None); what was set aside before stays as a row.

    FieldError for a verdict that is not there, a word it cannot have, or no reason.
    """
    with act(scope, OVERRULE, inspection) as entry:
        entry.about(inspection)
        in_force = inspection.overrulings.filter(subject=subject, removed_at=None)
        if word is None:
            entry.changed(subject, ", ".join(row.word for row in in_force), None)
            in_force.update(removed_at=timezone.now())
            return None
        rulings = {ruling.subject: ruling for ruling in inspecting.assessment_of(inspection).rulings if ruling.choices}
        if subject not in rulings:
            raise FieldError("subject", subject, "one of " + ", ".join(rulings))
        ruling = rulings[subject]
        if word not in ruling.choices:
            raise FieldError("word", word, "one of " + ", ".join(ruling.choices))
        if not reason.strip():
            raise FieldError("reason", reason, "a reason, so that the next person can follow it")
        in_force.update(removed_at=timezone.now())
        entry.changed(subject, ruling.word, word)
        return Overruling.objects.create(
            inspection=inspection, subject=subject, computed=ruling.word, word=word, reason=reason.strip()
        )


def _must_be_open(inspection: Inspection) -> None:
    if inspection.finished_at is not None:
        raise SolveError("This inspection is finished: open it again to change it.")
    if inspection.removed_at is not None:
        raise SolveError("This inspection was taken out: bring it back to change it.")


def _must_be_the_only_one(inspection: Inspection) -> None:
    open_ones = inspection.machine.inspections.there().filter(finished_at=None).exclude(pk=inspection.pk)
    if open_ones.exists():
        raise SolveError("Another inspection of this machine is open: finish that one first.")


def _check_head(inspection: Inspection) -> None:
    on_it = (inspection.front_pads, inspection.rear_pads, inspection.front_rotors, inspection.rear_rotors)
    since_on, since_km = max(row.from_on for row in on_it), max(row.from_km for row in on_it)
    if not since_on <= inspection.measured_on <= timezone.localdate() + dt.timedelta(days=1):
        allowed, said = f"a day from {since_on.isoformat()} to today", DAY_FROM(first=day_text(since_on))
        raise FieldError("measured_on", inspection.measured_on.isoformat(), allowed, said)
    if not since_km <= inspection.odometer_km <= MOST_KM:
        bounds = Bounds(least=since_km, most=MOST_KM, why=verbatim("where the last part was fitted"))
        raise FieldError.outside("odometer_km", inspection.odometer_km, bounds, ", where the last part was fitted")
