"""Add, change or remove duties and circuits."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.duty_mapping import elements_of
from thermaxis.apps.garage.mapping import under
from thermaxis.apps.garage.models import Circuit, CircuitElement, Duty, DutyPart, Machine, RecordedRun
from thermaxis.apps.garage.shapes import Day, Plan, Recorded, Session, Shape, stored
from thermaxis.apps.log.act import act, must_be_version
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.log.actions import set_removed
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.duty.lap import Element, check_length

SAVE_DUTY = Action("save_duty", "Duty saved", kind="duty", roles=DRIVERS)
REMOVE_DUTY = Action("remove_duty", "Duty taken out or brought back", kind="duty", roles=DRIVERS)
SAVE_CIRCUIT = Action("save_circuit", "Circuit saved", kind="duty", roles=DRIVERS)


def save_duty(
    scope: Scope,
    duty: Duty | None,
    plan: Plan,
    words: dict[str, Any],
    *,
    circuit: Circuit | None,
    run: RecordedRun | None,
    parts: Sequence[Duty],
    version: int | None = None,
) -> Duty:
    """Write a plan, which has been driven and is therefore sound, as a new duty or over an existing one; all or none.

    `words` are name, use, note and events_per_month; `parts` the stored duties of a day, in the plan's order. Clash
    where the existing one is not of this `version` any more.
    """
    with act(scope, SAVE_DUTY, *([duty] if duty else [])) as entry:
        if duty is not None and version is not None:
            must_be_version(duty.version, version, duty.name)
        if isinstance(plan.shape, Day):
            with under("shape"):
                _check_day(scope.workshop, duty, plan.shape, parts)
        if duty is None:
            duty = Duty(workshop=scope.workshop)
        else:
            duty.version += 1
        shape, before = stored(plan.shape), duty.shape or {}
        for name in sorted(shape.keys() | before.keys()):
            if duty.pk is not None and not isinstance(shape.get(name, before.get(name)), list):
                entry.changed(name, before.get(name), shape.get(name))
        duty.shape = shape
        columns = {
            "event_km": plan.event_km,
            "then_s": plan.then_s,
            "then_speed_mps": plan.then_speed_mps,
            "circuit": circuit if plan.kind == Session.kind else None,
            "run": run if plan.kind == Recorded.kind else None,
            "air_C": plan.conditions.air_C,
            "altitude_m": plan.conditions.altitude_m,
            "duct_factor": plan.conditions.duct_factor,
            "without_trailer": plan.conditions.without_trailer,
            "battery_full": plan.conditions.battery_full,
            **words,
        }
        for name, value in columns.items():
            if duty.pk is not None:
                entry.changed(name, getattr(duty, name), value)
            setattr(duty, name, value)
        duty.save()
        _replace_parts(duty, plan.shape, parts)
        entry.about(duty)
    return duty


def _check_day(workshop: Workshop, duty: Duty | None, day: Day, parts: Sequence[Duty]) -> None:
    """Refuse a day in a day, in whichever order the two were made; as things stand inside the transaction."""
    if len(parts) != len(day.parts):
        raise FieldError("parts", len(parts), "the duties of the day")
    kinds = {row.pk: row for row in Duty.objects.of(workshop).filter(pk__in=[part.pk for part in parts])}
    for index, part in enumerate(parts):
        now = kinds.get(part.pk)
        if duty is not None and part.pk == duty.pk:
            raise FieldError(f"parts[{index}].duty_id", duty.name, "another duty than the day itself")
        if now is None or now.removed_at is not None or now.kind == Day.kind:
            raise FieldError(f"parts[{index}].duty_id", part.name, "a duty that is there and is not a day itself")
    if duty is not None:
        days = [row.duty.name for row in DutyPart.objects.filter(part=duty).select_related("duty")]
        if days:
            raise FieldError("kind", "day", f"another kind: this duty is part of {', '.join(days)[:120]}")


def _replace_parts(duty: Duty, shape: Shape, parts: Sequence[Duty]) -> None:
    duty.parts.all().delete()
    if isinstance(shape, Day):
        DutyPart.objects.bulk_create(
            DutyPart(duty=duty, order=i, part=part, times=entry.times, gap_s=entry.gap_s)
            for i, (part, entry) in enumerate(zip(parts, shape.parts, strict=True))
        )


def set_duty_removed(scope: Scope, duty: Duty, removed: bool) -> Duty:
    """Take a duty out of the list, or bring it back. SolveError while a machine or a day still uses it."""
    with act(scope, REMOVE_DUTY, duty):
        if removed:
            users = [machine.name for machine in Machine.objects.filter(duty=duty, removed_at=None)]
            users += [part.duty.name for part in DutyPart.objects.filter(part=duty, duty__removed_at=None)]
            if users:
                raise SolveError(f"{duty.name} is in use: {', '.join(users)}. Choose another duty there first.")
        return set_removed(scope, REMOVE_DUTY, duty, removed)


def save_circuit(
    scope: Scope,
    circuit: Circuit | None,
    name: str,
    closed: bool,
    elements: Sequence[Element],
    version: int | None = None,
) -> Circuit:
    """Write a circuit with its elements; duties on it follow. FieldError for a closed one without a corner, Clash where
    the existing one is not of this `version` any more.
    """
    check_length(elements)
    if closed and all(element.radius_m is None for element in elements):
        raise FieldError("elements", len(elements), "at least one corner on a closed circuit")
    with act(scope, SAVE_CIRCUIT, *([circuit] if circuit else [])) as entry:
        if circuit is None:
            circuit = Circuit.objects.create(workshop=scope.workshop, name=name, closed=closed)
        else:
            if version is not None:
                must_be_version(circuit.version, version, circuit.name)
            entry.changed("name", circuit.name, name)
            entry.changed("closed", circuit.closed, closed)
            circuit.name, circuit.closed, circuit.version = name, closed, circuit.version + 1
            circuit.save()
        entry.about(circuit)
        if elements_of(circuit) != tuple(elements):
            circuit.elements.all().delete()
            CircuitElement.objects.bulk_create(
                CircuitElement(
                    circuit=circuit, order=i, length_m=element.length_m, radius_m=element.radius_m, grade=element.grade
                )
                for i, element in enumerate(elements)
            )
    return circuit
