"""Take rows of a file into the catalogue: all of them, or none."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import models

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.mapping import check_row, table_rows
from thermaxis.apps.catalogue.models import Fluid, MuPoint, Pad, PadVariant, Rotor
from thermaxis.apps.log.act import Entry, act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import catalogue as say
from thermaxis.core.said import Said
from thermaxis.formats.catalogue_table import KEYS, Read, RowError, columns_of, read_rows
from thermaxis.formats.table import Table

KEEP_PART = Action("keep_part", "Part of the catalogue kept", kind="catalogue")
IMPORT_TABLE = Action("import_table", "Catalogue read in", kind="catalogue")

# A ring no larger and no smaller is on a road car, motorcycle or van, in m of radius; pads are no thicker, in m.
LARGEST_M, SMALLEST_M, THICKEST_M = 0.215, 0.080, 0.024


@dataclass(frozen=True, kw_only=True)
class RowDoubt:
    """A cell that is allowed and hardly meant: its row, field and heading, the value in SI, and why."""

    row: int
    field: str
    column: str
    text: Said


@dataclass(frozen=True, kw_only=True)
class Plan:
    """What a file would do: rows to add, to change (each with what it is now), and as they are already; what is wrong
    with the others, and what is asked about before it is written. `without_shape` are compounds no axle is known to
    take.
    """

    added: tuple[dict[str, Any], ...]
    changed: tuple[tuple[dict[str, Any], dict[str, Any]], ...]
    same: int
    errors: tuple[RowError, ...]
    doubts: tuple[RowDoubt, ...]
    without_shape: tuple[str, ...]


def plan_import(workshop: Workshop, table: str, read: Read) -> Plan:
    """Compare the rows of a file with the catalogue; nothing is written."""
    columns = {column.field: column.heading for column in columns_of(table)}
    key = KEYS[table]
    known = {tuple(row[name] for name in key): row for row in table_rows(table, workshop)}
    compounds = set(Pad.objects.of(workshop).values_list("name", flat=True))
    added, changed, same, errors = [], [], 0, list(read.errors)
    doubts: list[RowDoubt] = []
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
            changed.append((values, before))
        else:
            same += 1
            continue
        doubts += [
            RowDoubt(row=number, field=field, column=columns[field], text=text)
            for field, text in _doubts(table, values)
            # What stands there already was asked about then.
            if before is None or before[field] != values[field]
        ]
    errors.sort(key=lambda error: error.row)
    shaped = set(PadVariant.objects.filter(pad__workshop=workshop).values_list("pad__name", flat=True))
    names = [values["name"] for values in added] if table == "compounds" else []
    return Plan(
        added=tuple(added),
        changed=tuple(changed),
        same=same,
        errors=tuple(errors),
        doubts=tuple(doubts),
        without_shape=tuple(name for name in names if name not in shaped),
    )


def _doubts(table: str, values: Mapping[str, Any]) -> list[tuple[str, Said]]:
    """Sizes that are allowed, and that no vehicle this is for has."""
    if table == "rotors":
        radius = values["outer_radius_m"]
        if radius > LARGEST_M:
            return [("outer_radius_m", say.DIAMETER_TYPED(across=radius))]
        if radius < SMALLEST_M:
            return [("outer_radius_m", say.SMALL_RING(across=radius))]
    if table == "pad shapes" and values["thickness_m"] > THICKEST_M:
        return [("thickness_m", say.THICK_PAD(thick=values["thickness_m"]))]
    return []


def import_table(scope: Scope, table: str, read: Read, *, sure: bool = False) -> Plan:
    """Write what `plan_import` says. FieldError, and nothing written, where any row is wrong, or hardly meant and
    nobody is `sure`.
    """
    with act(scope, IMPORT_TABLE) as entry:
        plan = plan_import(scope.workshop, table, read)
        if plan.errors:
            first = plan.errors[0]
            raise FieldError(
                "file",
                f"{len(plan.errors)} wrong cells",
                f"a file without errors; the first is in row {first.row}, {first.column}: {first.allowed}",
            )
        if plan.doubts and not sure:
            doubt = plan.doubts[0]
            raise FieldError("sure", False, f"true: row {doubt.row}, {doubt.column}, is hardly meant", doubt.text)
        _write_all(entry, scope.workshop, table, plan)
    return plan


def write_part(
    scope: Scope, table: str, cells: Mapping[str, str], before: Mapping[str, str], *, sure: bool = False
) -> Plan:
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
    with act(scope, KEEP_PART) as entry:
        workshop = scope.workshop
        if before:
            _rename(workshop, table, before, read)
        plan = plan_import(workshop, table, read)
        if plan.errors:
            first = plan.errors[0]
            field = next(column.field for column in columns if column.heading == first.column)
            raise FieldError(f"cells.{field}", first.value, first.allowed)
        if plan.doubts and not sure:
            doubt = plan.doubts[0]
            asked = "what is meant: send it again with `sure` if it is right"
            raise FieldError(f"cells.{doubt.field}", cells[doubt.field], asked, doubt.text)
        if not before and (plan.changed or plan.same):
            name = KEYS[table][0]
            raise FieldError(f"cells.{name}", cells.get(name, ""), "a name the catalogue does not have yet")
        _write_all(entry, workshop, table, plan)
    return plan


def _write_all(entry: Entry, workshop: Workshop, table: str, plan: Plan) -> None:
    for values in (*plan.added, *(row for row, _ in plan.changed)):
        _write(workshop, table, values)
    entry.changed(f"{table}.added", 0, len(plan.added))
    entry.changed(f"{table}.changed", 0, len(plan.changed))


def _part_named(workshop: Workshop, table: str, before: Mapping[str, str]) -> models.Model:
    """The one part of the catalogue with this key. FieldError where the key is not the table's, or no part has it."""
    key = KEYS[table]
    if set(before) != set(key):
        raise FieldError("before", ", ".join(sorted(before))[:80], "the key of the part: " + ", ".join(key))
    name, second = before[key[0]], before[key[-1]]
    # Spelled out by column: what a request names never becomes the name of a lookup.
    found: models.Model | None
    if table == "pad shapes":
        found = PadVariant.objects.filter(pad__workshop=workshop, pad__name=name, shape=second).first()
    elif table == "rotors":
        found = Rotor.objects.of(workshop).filter(name=name, mount=second).first()
    elif table == "compounds":
        found = Pad.objects.of(workshop).filter(name=name).first()
    else:
        found = Fluid.objects.of(workshop).filter(name=name).first()
    if found is None:
        raise FieldError(f"before.{key[0]}", name, "a part of the catalogue: it may have been renamed since")
    return found


def _rename(workshop: Workshop, table: str, before: Mapping[str, str], read: Read) -> None:
    """Give the part with the key `before` the key of the row, so that it is changed and not added beside itself."""
    row = _part_named(workshop, table, before)
    if not read.rows:
        return
    _, values = read.rows[0]
    now = {name: values[name] for name in KEYS[table]}
    if now == before:
        return
    name = KEYS[table][0]
    if any(all(row[key] == now[key] for key in now) for row in table_rows(table, workshop)):
        raise FieldError(f"cells.{name}", str(now[name]), "a name no other part has")
    if isinstance(row, PadVariant):
        if now["pad"] != before["pad"]:
            raise FieldError("cells.pad", now["pad"], f"{before['pad']}: a shape stays with its compound")
        row.shape = now["shape"]
    elif isinstance(row, Rotor):
        row.name, row.mount = now["name"], now["mount"]
    elif isinstance(row, Pad | Fluid):
        row.name = now["name"]
    row.save()


def _write(workshop: Workshop, table: str, values: Mapping[str, Any]) -> None:
    """Write one row, over the one with its key where there is one."""
    if table == "pad shapes":
        pad = Pad.objects.of(workshop).get(name=values["pad"])
        PadVariant.objects.update_or_create(pad=pad, shape=values["shape"], defaults=_without(values, "pad", "shape"))
    elif table == "compounds":
        rest = _without(values, "name", "mu")
        pad, _ = Pad.objects.update_or_create(workshop=workshop, name=values["name"], defaults=rest)
        pad.mu_points.all().delete()
        MuPoint.objects.bulk_create(
            MuPoint(pad=pad, temperature_C=temperature, mu=mu, provenance=source)
            for temperature, mu, source in values["mu"]
        )
    elif table == "rotors":
        rest = _without(values, "name", "mount")
        Rotor.objects.update_or_create(workshop=workshop, name=values["name"], mount=values["mount"], defaults=rest)
    else:
        Fluid.objects.update_or_create(workshop=workshop, name=values["name"], defaults=_without(values, "name"))


def _without(values: Mapping[str, Any], *names: str) -> dict[str, Any]:
    return {name: value for name, value in values.items() if name not in names}
