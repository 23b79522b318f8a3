"""Start an inspection, enter its cells, finish it, overrule a verdict, take it out."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, field

from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import inspecting
from thermaxis.apps.work.compute import set_or_error
from thermaxis.apps.work.models import Inspection, InspectionCell, Measurement, Overruling
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.inspection.cells import Doubt, cell_of, read_value
from thermaxis.core.planning.inspection.sheet import assess

MOST_KM = 5_000_000.0
SOURCES = ("hand", "gauge")


@dataclass(frozen=True, kw_only=True)
class Entry:
    """What is to stand in a cell (None empties it); `confirmed`: it was doubted and is right."""

    value: object
    confirmed: bool = False
    source: str = "hand"


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """Cells that ask before they are kept, and cells that were refused, with what is allowed."""

    asks: dict[str, Doubt] = field(default_factory=dict)
    refused: dict[str, str] = field(default_factory=dict)


def start_inspection(machine: Machine, on: dt.date, odometer_km: float) -> Inspection:
    """Begin an inspection; where one is open, that one is gone on with, so that a repeated request makes no second."""
    with change():
        open_one: Inspection | None = machine.inspections.filter(finished_at=None, removed_at=None).first()
        if open_one is not None:
            return open_one
        inspection = Inspection(
            workshop=machine.workshop, machine=machine, fitted_set=set_or_error(machine), measured_on=on,
            odometer_km=odometer_km,
        )  # fmt: skip
        _check_head(inspection)
        inspection.save()
    return inspection


def change_head(inspection: Inspection, on: dt.date, odometer_km: float) -> Inspection:
    """Set day and odometer of an open inspection."""
    with change():
        inspection.refresh_from_db()
        _must_be_open(inspection)
        inspection.measured_on, inspection.odometer_km = on, odometer_km
        _check_head(inspection)
        inspection.save(update_fields=["measured_on", "odometer_km"])
    return inspection


def enter_cells(inspection: Inspection, entries: Mapping[str, Entry]) -> Outcome:
    """Keep what is allowed, cell by cell; doubtful readings ask and wrong ones are refused without holding up the rest.

    Entering the same again changes nothing, so a page may repeat what it does not know to have arrived.
    """
    outcome = Outcome()
    with change():
        inspection.refresh_from_db()
        _must_be_open(inspection)
        wheels, before = inspecting.limits_of(inspection), inspecting.before_of(inspection)
        values = inspecting.values_of(inspection)
        # What the readings stand on comes first, in whatever order the page sends it.
        for name, entry in sorted(entries.items(), key=lambda item: "rotor_" in item[0]):
            try:
                cell = cell_of(name, [wheel.name for wheel in wheels])
                if entry.value is None:
                    inspection.cells.filter(name=name).delete()
                    values.pop(name, None)
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
                outcome.refused[name] = error.allowed
                continue
            values[name] = value
            InspectionCell.objects.update_or_create(
                inspection=inspection, name=name,
                defaults={"value": value, "confirmed": entry.confirmed, "source": entry.source},
            )  # fmt: skip
    return outcome


def finish(inspection: Inspection) -> Inspection:
    """Close an inspection: its pads become measurements of the set, the odometer moves on, its limits are kept.

    SolveError where nothing was entered. Finishing twice changes nothing.
    """
    with change():
        # Sent four times together, the first closes it and the others find it closed.
        inspection.refresh_from_db()
        if inspection.finished_at is not None:
            return inspection
        _must_be_open(inspection)
        wheels, values = inspecting.wheels_of(inspection), inspecting.values_of(inspection)
        if not values:
            raise SolveError("Nothing has been entered yet: measure at least one pad, or take the inspection out.")
        _check_head(inspection)
        machine = inspection.machine
        Measurement.objects.bulk_create(inspecting.measurements_of(inspection))
        if inspection.odometer_km > machine.odometer_km:
            machine.odometer_km = inspection.odometer_km
            machine.save(update_fields=["odometer_km"])
        inspection.wheels = inspecting.kept_wheels(wheels)
        inspection.finished_at, inspection.engine_version = timezone.now(), __version__
        inspection.save(update_fields=["wheels", "finished_at", "engine_version"])
    return inspection


def reopen(inspection: Inspection) -> Inspection:
    """Go on with a finished inspection: its measurements leave the set until it is finished again."""
    with change():
        inspection.refresh_from_db()
        if inspection.finished_at is None:
            return inspection
        if inspection.machine.inspections.filter(finished_at=None, removed_at=None).exists():
            raise SolveError("Another inspection of this machine is open: finish that one first.")
        inspection.measurements.all().delete()
        inspection.finished_at, inspection.wheels = None, []
        inspection.save(update_fields=["finished_at", "wheels"])
    return inspection


def set_removed(inspection: Inspection, removed: bool) -> Inspection:
    """Take an inspection out with its measurements, or bring both back."""
    when = timezone.now() if removed else None
    with change():
        inspection.refresh_from_db()
        open_ones = inspection.machine.inspections.filter(finished_at=None, removed_at=None).exclude(pk=inspection.pk)
        if not removed and inspection.finished_at is None and open_ones.exists():
            raise SolveError("Another inspection of this machine is open: finish that one first.")
        inspection.removed_at = when
        inspection.save(update_fields=["removed_at"])
        inspection.measurements.update(removed_at=when)
    return inspection


def overrule(inspection: Inspection, subject: str, word: str | None, reason: str) -> Overruling | None:
    """Set a verdict aside with a reason, or take that back (`word` None); what was set aside before stays as a row.

    FieldError for a verdict that is not there, a word it cannot have, or no reason.
    """
    with change():
        inspection.refresh_from_db()
        in_force = inspection.overrulings.filter(subject=subject, removed_at=None)
        if word is None:
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
        return Overruling.objects.create(
            inspection=inspection, subject=subject, computed=ruling.word, word=word, reason=reason.strip()
        )


def _must_be_open(inspection: Inspection) -> None:
    if inspection.finished_at is not None:
        raise SolveError("This inspection is finished: open it again to change it.")
    if inspection.removed_at is not None:
        raise SolveError("This inspection was taken out: bring it back to change it.")


def _check_head(inspection: Inspection) -> None:
    fitted = inspection.fitted_set
    if not fitted.fitted_on <= inspection.measured_on <= dt.date.today() + dt.timedelta(days=1):
        raise FieldError(
            "measured_on", inspection.measured_on.isoformat(), f"a day from {fitted.fitted_on.isoformat()} to today"
        )
    if not fitted.fitted_km <= inspection.odometer_km <= MOST_KM:
        raise FieldError(
            "odometer_km", inspection.odometer_km, f"a number >= {fitted.fitted_km:g}, where the set was fitted"
        )
