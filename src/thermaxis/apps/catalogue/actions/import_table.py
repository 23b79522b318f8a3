"""Take rows of a file into the catalogue: all of them, or none."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import models, transaction

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.mapping import check_row, table_rows
from thermaxis.apps.catalogue.models import Fluid, MuPoint, Pad, PadVariant, Rotor
from thermaxis.core.errors import FieldError
from thermaxis.formats.catalogue_table import KEYS, Read, RowError, columns_of, read_rows
from thermaxis.formats.table import Table


@dataclass(frozen=True, kw_only=True)
class Plan:
    """What a file would do: rows to add, to change, and as they are already; and what is wrong with the others."""

    added: tuple[dict[str, Any], ...]
    changed: tuple[dict[str, Any], ...]
    same: int
    errors: tuple[RowError, ...]


def plan_import(workshop: Workshop, table: str, read: Read) -> Plan:
    """Compare the rows of a file with the catalogue; nothing is written."""
    columns = {column.field: column.heading for column in columns_of(table)}
    key = KEYS[table]
    known = {tuple(row[name] for name in key): row for row in table_rows(table, workshop)}
    compounds = set(Pad.objects.of(workshop).values_list("name", flat=True))
    added, changed, same, errors = [], [], 0, list(read.errors)
    for number, values in read.rows:
        try:
            check_row(table, values)
            if table == "pad shapes" and values["pad"] not in compounds:
                raise FieldError("pad", values["pad"], "a compound of the catalogue: take its compounds in first")
        except FieldError as error:
            field = error.path.split("[")[0]
            heading = columns.get(field, field)
            errors.append(RowError(row=number, column=heading, value=str(error.value)[:80], allowed=error.allowed))
            continue
        before = known.get(tuple(values[name] for name in key))
        if before is None:
            added.append(values)
        elif any(before[name] != value for name, value in values.items()):
            changed.append(values)
        else:
            same += 1
    errors.sort(key=lambda error: error.row)
    return Plan(added=tuple(added), changed=tuple(changed), same=same, errors=tuple(errors))


def import_table(workshop: Workshop, table: str, read: Read) -> Plan:
    """Write what `plan_import` says. FieldError, and nothing written, where any row is wrong."""
    plan = plan_import(workshop, table, read)
    if plan.errors:
        first = plan.errors[0]
        raise FieldError(
            "file", f"{len(plan.errors)} wrong cells",
            f"a file without errors; the first is in row {first.row}, {first.column}: {first.allowed}",
        )  # fmt: skip
    with transaction.atomic():
        for values in (*plan.added, *plan.changed):
            _write(workshop, table, values)
    return plan


def write_part(workshop: Workshop, table: str, cells: Mapping[str, str], before: Mapping[str, str]) -> Plan:
    """Write one part typed cell by cell, by the same rules as a row of a file.

    `before` is the key of the part it changes; a part with the new key must not be another one. FieldError names the
    cell as `cells.<field>`.
    """
    columns = columns_of(table)
    for field in cells:
        if field not in {column.field for column in columns}:
            raise FieldError(f"cells.{field}", cells[field], "one of " + ", ".join(column.field for column in columns))
    headings = tuple(column.heading for column in columns)
    row = tuple(cells.get(column.field, "").strip() for column in columns)
    decimal = "," if any("," in cell and "." not in cell for cell in row if cell[:1].isdigit()) else "."
    read = read_rows(
        table,
        Table(headings=headings, rows=((1, row),), decimal=decimal),
        {column.field: column.heading for column in columns},
    )
    with transaction.atomic():
        if before:
            _rename(workshop, table, dict(before), read)
        plan = plan_import(workshop, table, read)
        if plan.errors:
            first = plan.errors[0]
            field = next(column.field for column in columns if column.heading == first.column)
            raise FieldError(f"cells.{field}", first.value, first.allowed)
        if not before and (plan.changed or plan.same):
            name = KEYS[table][0]
            raise FieldError(f"cells.{name}", cells.get(name, ""), "a name the catalogue does not have yet")
        for values in (*plan.added, *plan.changed):
            _write(workshop, table, values)
    return plan


def _rename(workshop: Workshop, table: str, before: dict[str, str], read: Read) -> None:
    """Give the part with the key `before` the key of the row, so that it is changed and not added beside itself."""
    if not read.rows:
        return
    _, values = read.rows[0]
    now = {name: values[name] for name in KEYS[table]}
    if {name: before.get(name) for name in now} == now:
        return
    name = KEYS[table][0]
    if any(all(row[key] == now[key] for key in now) for row in table_rows(table, workshop)):
        raise FieldError(f"cells.{name}", str(now[name]), "a name no other part has")
    if table == "pad shapes":
        rows = PadVariant.objects.filter(pad__workshop=workshop, pad__name=before.get("pad"), shape=before.get("shape"))
        if now["pad"] != before.get("pad"):
            raise FieldError("cells.pad", now["pad"], f"{before.get('pad')}: a shape stays with its compound")
        rows.update(shape=now["shape"])
        return
    model: type[models.Model] = {"compounds": Pad, "rotors": Rotor, "fluids": Fluid}[table]
    model._default_manager.filter(workshop=workshop, **before).update(**now)


def _write(workshop: Workshop, table: str, values: dict[str, Any]) -> None:
    if table == "pad shapes":
        pad = Pad.objects.of(workshop).get(name=values["pad"])
        rest = {name: value for name, value in values.items() if name not in ("pad", "shape")}
        PadVariant.objects.update_or_create(pad=pad, shape=values["shape"], defaults=rest)
        return
    if table == "compounds":
        rest = {name: value for name, value in values.items() if name not in ("name", "mu")}
        pad, _ = Pad.objects.update_or_create(workshop=workshop, name=values["name"], defaults=rest)
        pad.mu_points.all().delete()
        MuPoint.objects.bulk_create(
            MuPoint(pad=pad, temperature_C=temperature, mu=mu, provenance=source)
            for temperature, mu, source in values["mu"]
        )
        return
    model: type[models.Model] = Rotor if table == "rotors" else Fluid
    key = {name: values[name] for name in KEYS[table]}
    if table == "rotors":
        key["own"] = False
    rest = {name: value for name, value in values.items() if name not in key}
    model._default_manager.update_or_create(workshop=workshop, **key, defaults=rest)
