"""The catalogue: what is in it, and its tables as files, out and in."""

from __future__ import annotations

from typing import Any, cast

from django.http import HttpResponse
from ninja import File, Form, Path, Query, Router
from ninja.files import UploadedFile
from pydantic import Field, TypeAdapter, ValidationError

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import CREW, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.catalogue.actions import keep_reading as readings
from thermaxis.apps.catalogue.actions.import_table import Plan, import_table, plan_import, write_part
from thermaxis.apps.catalogue.actions.keep_reading import REMOVE_READING
from thermaxis.apps.catalogue.api import schemas
from thermaxis.apps.catalogue.mapping import own_fit, table_rows, wear_of_rotor_m
from thermaxis.apps.catalogue.models import Fluid, OwnMu, Pad, Rotor
from thermaxis.apps.log.actions import set_removed
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.formats.catalogue_table import KEYS, columns_of, guess, read_rows, write_rows
from thermaxis.formats.table import read_table, write_csv, write_sheet

router = Router(auth=CREW)
SHOWN_ROWS, SHOWN_ERRORS = 4, 500
MAPPING = TypeAdapter(dict[str, str])
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class TableForm(Wire):
    table: schemas.TableName


class MappedForm(TableForm):
    """`mapping` is JSON: field to heading."""

    mapping: str = Field("{}", max_length=20_000)
    # What is hardly meant was looked at, and is.
    sure: bool = False


@router.get("/catalogue", response=schemas.CatalogueOut, operation_id="catalogue")
def catalogue(request: ScopedRequest) -> HttpResponse:
    return kept_answer(request, schemas.CatalogueOut, lambda: _catalogue(request))


def _catalogue(request: ScopedRequest) -> schemas.CatalogueOut:
    workshop = request.auth.workshop
    pads = (
        Pad.objects.of(workshop)
        .filter(as_found=False)
        .prefetch_related("mu_points", "variants", "own_mu")
        .order_by("name")
    )
    return schemas.CatalogueOut(
        currency=workshop.currency,
        compounds=[_compound_out(pad) for pad in pads],
        rotors=[schemas.CatalogueRotorOut.of(row) for row in Rotor.objects.of(workshop).order_by("name")],
        fluids=[schemas.CatalogueFluidOut.of(row) for row in Fluid.objects.of(workshop).order_by("name")],
    )


def _compound_out(pad: Pad) -> schemas.CompoundOut:
    fit = own_fit(pad)
    curve = tuple((point.temperature_C, point.mu) for point in pad.mu_points.all())
    return schemas.CompoundOut.of(
        pad,
        rotor_wear_m=wear_of_rotor_m(pad),
        rotor_wear_measured=pad.rotor_wear_m is not None,
        own_ratio=fit.ratio,
        own_sigma=fit.sigma,
        mu=pad.mu_points.all(),
        own=[
            schemas.OwnMuOut.of(row, curve_mu=friction_coefficient(row.temperature_C, curve))
            for row in pad.own_mu.all()
            if row.removed_at is None
        ],
        shapes=pad.variants.all(),
    )


def _columns(table: str) -> list[schemas.TableColumnOut]:
    return [schemas.TableColumnOut.of(column) for column in columns_of(table)]


@router.get("/catalogue/part/{table}", response=schemas.PartText, operation_id="part")
def part(request: ScopedRequest, table: str, query: Query[schemas.PartQuery]) -> schemas.PartText:
    """A part as text, to be changed; without a name the cells of a new one."""
    columns = _columns(table)
    cells = {column.field: str(columns_of(table)[i].default or "") for i, column in enumerate(columns)}
    if query.name:
        key = KEYS[table]
        wanted = (query.name, query.second)[: len(key)]
        row = next(
            (row for row in table_rows(table, request.auth.workshop) if tuple(row[name] for name in key) == wanted),
            None,
        )
        if row is None:
            raise NotThere
        _, (texts,) = write_rows(table, [row])
        cells = dict(zip((column.field for column in columns), texts, strict=True))
    return schemas.PartText(table=cast(schemas.TableName, table), columns=columns, cells=cells)


@router.put("/catalogue/part", response=schemas.TableImportOut, operation_id="keep_part")
def keep_part(request: ScopedRequest, payload: schemas.PartAsk) -> schemas.TableImportOut:
    """Add a part or change one; a cell that is not allowed is named as `cells.<field>`."""
    plan = write_part(request.auth, payload.table, payload.cells, payload.before, sure=payload.sure)
    return _import_out(payload.table, plan, written=True)


@router.post("/catalogue/compounds/{pad_id}/readings", response=schemas.CompoundOut, operation_id="keep_reading")
def keep_reading(request: ScopedRequest, pad_id: Path[RowId], payload: schemas.ReadingAsk) -> schemas.CompoundOut:
    pad = _pad(request, pad_id)
    readings.keep_reading(request.auth, pad, payload.temperature_C, payload.mu, payload.measured_on, payload.how)
    return _compound_out(_pad(request, pad_id))


@router.put("/catalogue/readings/{reading_id}/removed", response=schemas.CompoundOut, operation_id="remove_reading")
def remove_reading(request: ScopedRequest, reading_id: Path[RowId], payload: Removed) -> schemas.CompoundOut:
    row = request.auth.one(OwnMu.objects.filter(pad__workshop=request.auth.workshop), reading_id)
    set_removed(request.auth, REMOVE_READING, row, payload.removed)
    return _compound_out(_pad(request, row.pad_id))


@router.put("/catalogue/compounds/{pad_id}/use-own", response=schemas.CompoundOut, operation_id="use_own")
def use_own(request: ScopedRequest, pad_id: Path[RowId], payload: schemas.UseOwnAsk) -> schemas.CompoundOut:
    return _compound_out(readings.use_own(request.auth, _pad(request, pad_id), payload.use_own))


def _pad(request: ScopedRequest, pad_id: int) -> Pad:
    rows = Pad.objects.of(request.auth.workshop).prefetch_related("mu_points", "variants", "own_mu")
    return request.auth.one(rows, pad_id)


@router.get("/catalogue/file/{table}/{kind}", response=bytes, operation_id="catalogue_file")
def catalogue_file(request: ScopedRequest, table: str, kind: str) -> HttpResponse:
    columns_of(table)
    if kind not in ("csv", "xlsx"):
        raise FieldError("kind", kind, "csv or xlsx")
    headings, rows = write_rows(table, table_rows(table, request.auth.workshop))
    content = write_csv(headings, rows) if kind == "csv" else write_sheet(table, headings, rows)
    media_type = "text/csv; charset=utf-8" if kind == "csv" else XLSX
    return file_response(content, f"{table.replace(' ', '-')}.{kind}", media_type)


@router.post("/catalogue/look", response=schemas.TableLookOut, operation_id="look_at_table")
def look(request: ScopedRequest, file: File[UploadedFile], form: Form[TableForm]) -> schemas.TableLookOut:
    content = read_table(file.read())
    return schemas.TableLookOut(
        headings=list(content.headings),
        rows=len(content.rows),
        mapping=guess(form.table, content.headings),
        sample=[list(row) for _, row in content.rows[:SHOWN_ROWS]],
        columns=_columns(form.table),
    )


@router.post("/catalogue/read", response=schemas.TableImportOut, operation_id="read_table")
def read(request: ScopedRequest, file: File[UploadedFile], form: Form[MappedForm]) -> schemas.TableImportOut:
    rows = read_rows(form.table, read_table(file.read()), _mapping(form.mapping))
    return _import_out(form.table, plan_import(request.auth.workshop, form.table, rows), written=False)


@router.post("/catalogue/import", response=schemas.TableImportOut, operation_id="import_table")
def take_in(request: ScopedRequest, file: File[UploadedFile], form: Form[MappedForm]) -> schemas.TableImportOut:
    rows = read_rows(form.table, read_table(file.read()), _mapping(form.mapping))
    return _import_out(form.table, import_table(request.auth, form.table, rows, sure=form.sure), written=True)


def _mapping(text: str) -> dict[str, str]:
    try:
        return MAPPING.validate_json(text)
    except ValidationError as error:
        raise FieldError("mapping", text[:60], error.errors()[0]["msg"]) from None


def _import_out(table: str, plan: Plan, *, written: bool) -> schemas.TableImportOut:
    def names(rows: tuple[dict[str, Any], ...]) -> list[str]:
        return [", ".join(str(row[name]) for name in KEYS[table]) for row in rows]

    def differing(values: dict[str, Any], before: dict[str, Any]) -> list[schemas.CellChangeOut]:
        headings, (now, then) = write_rows(table, [values, before])
        return [
            schemas.CellChangeOut(column=heading, before=old, after=new)
            for heading, old, new in zip(headings, then, now, strict=True)
            if old != new
        ]

    return schemas.TableImportOut.of(
        plan,
        added=names(plan.added),
        changed=names(tuple((values for values, _ in plan.changed))),
        changes=[differing(*rows) for rows in plan.changed[:SHOWN_ERRORS]],
        doubts=plan.doubts[:SHOWN_ERRORS],
        written=written,
        errors=plan.errors[:SHOWN_ERRORS],
    )
