"""The catalogue: what is in it, and its tables as files, out and in."""

from __future__ import annotations

import dataclasses
from typing import Annotated, Any, cast

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Path, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field, TypeAdapter, ValidationError

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.catalogue.actions import keep_reading as readings
from thermaxis.apps.catalogue.actions.import_table import Plan, import_table, plan_import, write_part
from thermaxis.apps.catalogue.api import schemas
from thermaxis.apps.catalogue.mapping import OWN_SHAPE, own_fit, table_rows, wear_of_rotor_m
from thermaxis.apps.catalogue.models import Fluid, OwnMu, Pad, Rotor
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.formats.catalogue_table import KEYS, columns_of, guess, read_rows, write_rows
from thermaxis.formats.table import read_table, write_csv, write_sheet

router = Router()
PartId = Annotated[int, Field(ge=1, le=2**53)]
SHOWN_ROWS, SHOWN_ERRORS = 4, 500
MAPPING = TypeAdapter(dict[str, str])
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class TableForm(Schema):
    table: schemas.TableName


class MappedForm(TableForm):
    """`mapping` is JSON: field to heading."""

    mapping: str = Field("{}", max_length=20_000)


@router.get("/catalogue", response=schemas.CatalogueOut, operation_id="catalogue")
def catalogue(request: HttpRequest) -> Any:
    workshop = workshop_of(request)
    pads = Pad.objects.of(workshop).prefetch_related("mu_points", "variants", "own_mu").order_by("name")
    return schemas.CatalogueOut(
        currency=workshop.currency, compounds=[_compound_out(pad) for pad in pads],
        rotors=[
            schemas.CatalogueRotorOut.from_orm(row)
            for row in Rotor.objects.of(workshop).filter(own=False).order_by("name")
        ],
        fluids=[schemas.CatalogueFluidOut.from_orm(row) for row in Fluid.objects.of(workshop).order_by("name")],
    )  # fmt: skip


def _compound_out(pad: Pad) -> schemas.CompoundOut:
    fields = ("id", "name", "family", "provenance", "window_low_C", "window_high_C", "limit_C", "bed_low_C",
              "bed_high_C", "noise", "dust", "wear_mm3_per_MJ", "bedding", "use_own")  # fmt: skip
    fit = own_fit(pad)
    curve = tuple((point.temperature_C, point.mu) for point in pad.mu_points.all())
    return schemas.CompoundOut(
        **{name: getattr(pad, name) for name in fields}, rotor_wear_m=wear_of_rotor_m(pad),
        rotor_wear_measured=pad.rotor_wear_m is not None, own_ratio=fit.ratio, own_sigma=fit.sigma,
        mu=[schemas.MuOut.from_orm(point) for point in pad.mu_points.all()],
        own=[
            schemas.OwnMuOut(
                id=row.pk, temperature_C=row.temperature_C, mu=row.mu, measured_on=row.measured_on, how=row.how,
                curve_mu=friction_coefficient(row.temperature_C, curve),
            )
            for row in pad.own_mu.all() if row.removed_at is None
        ],
        shapes=[schemas.PadShapeOut.from_orm(row) for row in pad.variants.all() if not OWN_SHAPE.match(row.shape)],
    )  # fmt: skip


def _columns(table: str) -> list[schemas.TableColumnOut]:
    return [
        schemas.TableColumnOut(
            field=column.field, heading=column.heading, needed=column.needed, kind=column.kind,
            words=list(column.words),
        )
        for column in columns_of(table)
    ]  # fmt: skip


@router.get("/catalogue/part/{table}", response=schemas.PartText, operation_id="part")
def part(request: HttpRequest, table: str, query: Query[schemas.PartQuery]) -> Any:
    """A part as text, to be changed; without a name the cells of a new one."""
    columns = _columns(table)
    cells = {column.field: str(columns_of(table)[i].default or "") for i, column in enumerate(columns)}
    if query.name:
        key = KEYS[table]
        wanted = (query.name, query.second)[: len(key)]
        row = next(
            (row for row in table_rows(table, workshop_of(request)) if tuple(row[name] for name in key) == wanted), None
        )
        if row is None:
            raise Http404
        _, (texts,) = write_rows(table, [row])
        cells = dict(zip((column.field for column in columns), texts, strict=True))
    return schemas.PartText(table=cast(schemas.TableName, table), columns=columns, cells=cells)


@router.put("/catalogue/part", response=schemas.TableImportOut, operation_id="keep_part")
def keep_part(request: HttpRequest, payload: schemas.PartAsk) -> Any:
    """Add a part or change one; a cell that is not allowed is named as `cells.<field>`."""
    workshop = workshop_of(request)
    plan = write_part(workshop, payload.table, payload.cells, payload.before)
    return _import_out(payload.table, plan, written=True)


@router.post("/catalogue/compounds/{pad_id}/readings", response=schemas.CompoundOut, operation_id="keep_reading")
def keep_reading(request: HttpRequest, pad_id: Path[PartId], payload: schemas.ReadingAsk) -> Any:
    pad = _pad(request, pad_id)
    readings.keep_reading(pad, payload.temperature_C, payload.mu, payload.measured_on, payload.how)
    return _compound_out(_pad(request, pad_id))


@router.put("/catalogue/readings/{reading_id}/removed", response=schemas.CompoundOut, operation_id="remove_reading")
def remove_reading(request: HttpRequest, reading_id: Path[PartId], payload: schemas.GoneAsk) -> Any:
    row = get_object_or_404(OwnMu, pk=reading_id, pad__workshop=workshop_of(request))
    readings.set_removed(row, payload.removed)
    return _compound_out(_pad(request, row.pad_id))


@router.put("/catalogue/compounds/{pad_id}/use-own", response=schemas.CompoundOut, operation_id="use_own")
def use_own(request: HttpRequest, pad_id: Path[PartId], payload: schemas.UseOwnAsk) -> Any:
    return _compound_out(readings.use_own(_pad(request, pad_id), payload.use_own))


def _pad(request: HttpRequest, pad_id: int) -> Pad:
    rows = Pad.objects.of(workshop_of(request)).prefetch_related("mu_points", "variants", "own_mu")
    return get_object_or_404(rows, pk=pad_id)


@router.get("/catalogue/file/{table}/{kind}", response=bytes, operation_id="catalogue_file")
def catalogue_file(request: HttpRequest, table: str, kind: str) -> Any:
    columns_of(table)
    if kind not in ("csv", "xlsx"):
        raise FieldError("kind", kind, "csv or xlsx")
    headings, rows = write_rows(table, table_rows(table, workshop_of(request)))
    content = write_csv(headings, rows) if kind == "csv" else write_sheet(table, headings, rows)
    response = HttpResponse(content, content_type="text/csv; charset=utf-8" if kind == "csv" else XLSX)
    response["Content-Disposition"] = f'attachment; filename="{table.replace(" ", "-")}.{kind}"'
    return response


@router.post("/catalogue/look", response=schemas.TableLookOut, operation_id="look_at_table")
def look(request: HttpRequest, file: File[UploadedFile], form: Form[TableForm]) -> Any:
    content = read_table(file.read())
    return schemas.TableLookOut(
        headings=list(content.headings), rows=len(content.rows), mapping=guess(form.table, content.headings),
        sample=[list(row) for _, row in content.rows[:SHOWN_ROWS]],
        columns=_columns(form.table),
    )  # fmt: skip


@router.post("/catalogue/read", response=schemas.TableImportOut, operation_id="read_table")
def read(request: HttpRequest, file: File[UploadedFile], form: Form[MappedForm]) -> Any:
    rows = read_rows(form.table, read_table(file.read()), _mapping(form.mapping))
    return _import_out(form.table, plan_import(workshop_of(request), form.table, rows), written=False)


@router.post("/catalogue/import", response=schemas.TableImportOut, operation_id="import_table")
def take_in(request: HttpRequest, file: File[UploadedFile], form: Form[MappedForm]) -> Any:
    rows = read_rows(form.table, read_table(file.read()), _mapping(form.mapping))
    return _import_out(form.table, import_table(workshop_of(request), form.table, rows), written=True)


def _mapping(text: str) -> dict[str, str]:
    try:
        return MAPPING.validate_json(text)
    except ValidationError as error:
        raise FieldError("mapping", text[:60], error.errors()[0]["msg"]) from None


def _import_out(table: str, plan: Plan, *, written: bool) -> schemas.TableImportOut:
    def names(rows: tuple[dict[str, Any], ...]) -> list[str]:
        return [", ".join(str(row[name]) for name in KEYS[table]) for row in rows]

    return schemas.TableImportOut(
        added=names(plan.added), changed=names(plan.changed), same=plan.same, written=written,
        errors=[schemas.RowErrorOut(**dataclasses.asdict(error)) for error in plan.errors[:SHOWN_ERRORS]],
    )  # fmt: skip
