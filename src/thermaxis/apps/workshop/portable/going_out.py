"""A workshop, or one machine with its log, as a file: every row, every value, nothing rounded."""

from __future__ import annotations

import base64
import datetime as dt
from collections.abc import Iterator
from typing import Any

from django.db import models

from thermaxis import __version__
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.workshop.portable.tables import SECRETS, columns, is_owned, neighbours, tables

FORMAT = "thermaxis-workshop/1"
Rows = dict[type[models.Model], dict[int, models.Model]]


def workshop_document(workshop: Workshop) -> dict[str, Any]:
    """Everything a workshop has, but its people."""
    return _document(workshop, _of_workshop(workshop), "workshop")


def machine_document(machine: Machine) -> dict[str, Any]:
    """One machine with everything it needs and everything that happened to it."""
    return _document(machine.workshop, _of_machine(machine), "machine")


def _document(workshop: Workshop, rows: Rows, what: str) -> dict[str, Any]:
    return {
        "format": FORMAT,
        "what": what,
        "program": __version__,
        "workshop": workshop.name,
        "currency": workshop.currency,
        "tables": {
            model._meta.label: [_written(row) for _, row in sorted(rows[model].items())]
            for model in tables()
            if rows.get(model)
        },
    }


def _of_workshop(workshop: Workshop) -> Rows:
    """Rows that name the workshop, rows that hang on them, and what either refers to."""
    rows: Rows = {model: {} for model in tables()}
    for model in tables():
        if is_owned(model):
            rows[model] = {row.pk: row for row in model._default_manager.filter(workshop=workshop)}
    _complete(rows)
    return rows


def _of_machine(machine: Machine) -> Rows:
    """Rows that name the machine, what they refer to, and what hangs on that; nothing of another machine."""
    rows: Rows = {model: {} for model in tables()}
    rows[Machine][machine.pk] = machine
    for model in tables():
        if is_owned(model) and any(field.name == "machine" for field in columns(model)):
            rows[model] = {row.pk: row for row in model._default_manager.filter(machine=machine)}
    _complete(rows, machine)
    _without_others(rows, machine)
    return rows


def _complete(rows: Rows, machine: Machine | None = None) -> None:
    """What rows that are in name and what hangs on them, until nothing more comes."""
    before = -1
    while (count := sum(map(len, rows.values()))) != before:
        before = count
        _referred(rows)
        _hanging(rows, machine)


def _hanging(rows: Rows, machine: Machine | None) -> None:
    """Rows that would go with a row that is in: ticks of a job, points of a curve; readings of a thing."""
    for model in tables():
        if is_owned(model) and machine is None:
            continue
        for field in neighbours(model):
            if field.remote_field.on_delete is not models.CASCADE or field.null:
                continue
            parents = list(rows[field.related_model])
            for chunk in _chunks(parents):
                for row in model._default_manager.filter(models.Q((f"{field.name}__in", chunk))):
                    if machine is None or getattr(row, "machine_id", machine.pk) in (None, machine.pk):
                        rows[model].setdefault(row.pk, row)


def _referred(rows: Rows) -> None:
    """Rows that a row that is in names."""
    for model in tables():
        for field in neighbours(model):
            near = field.related_model
            wanted = {getattr(row, field.attname) for row in rows[model].values()} - {None} - set(rows[near])
            for chunk in _chunks(sorted(wanted)):
                for row in near._default_manager.filter(pk__in=chunk):
                    rows[near][row.pk] = row


def _without_others(rows: Rows, machine: Machine) -> None:
    """Take out what belongs to other machines, and what cannot stand without it."""
    for row in list(rows[Machine].values()):
        if row.pk != machine.pk:
            del rows[Machine][row.pk]
    while out := [(model, pk) for model in tables() for pk, row in rows[model].items() if not _stands(row, rows)]:
        for model, pk in out:
            del rows[model][pk]


def _stands(row: models.Model, rows: Rows) -> bool:
    """Whether every row that this one needs is in; one it only may name, and that is not, it lets go of."""
    for field in neighbours(type(row)):
        value = getattr(row, field.attname)
        if value is None or value in rows[field.related_model]:
            continue
        if not field.null:
            return False
        setattr(row, field.attname, None)
    return True


def _chunks(numbers: list[int]) -> Iterator[list[int]]:
    for start in range(0, len(numbers), 500):
        yield numbers[start : start + 500]


def _written(row: models.Model) -> dict[str, Any]:
    found: dict[str, Any] = {"id": row.pk}
    secrets = SECRETS.get(row._meta.label, ())
    for field in columns(type(row)):
        value = getattr(row, field.attname)
        if field.name in secrets:
            value = None
        elif isinstance(field, models.ForeignKey) and field not in neighbours(type(row)):
            # A person: by name, for numbers of people mean nothing elsewhere.
            person = getattr(row, field.name)
            value = person.get_username() if person is not None else None
        found[field.name] = _plain(value)
    return found


def _plain(value: Any) -> Any:
    if isinstance(value, bytes | memoryview):
        return base64.b64encode(bytes(value)).decode("ascii")
    if isinstance(value, dt.datetime | dt.date | dt.time):
        return value.isoformat()
    return value
