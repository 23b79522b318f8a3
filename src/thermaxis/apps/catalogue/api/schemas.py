"""The catalogue as the API gives it, and what a file of parts does. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.said import SaidOut

Source = Literal["measured", "maker", "estimate"]
TableName = Literal["compounds", "pad shapes", "rotors", "fluids"]


class MuOut(Wire):
    temperature_C: float
    mu: float
    provenance: Source


class OwnMuOut(Wire):
    """A reading of the workshop's own; `curve_mu` is what the catalogue's curve says there."""

    id: int
    temperature_C: float
    mu: float
    curve_mu: float
    measured_on: dt.date
    how: str


class PadShapeOut(Wire):
    shape: str
    area_m2: float
    thickness_m: float
    backing_m: float
    price: float
    provenance: Source


class CompoundOut(Wire):
    id: int
    name: str
    family: str
    provenance: Source
    window_low_C: float
    window_high_C: float
    limit_C: float
    bed_low_C: float
    bed_high_C: float
    noise: float
    dust: float
    wear_mm3_per_MJ: float
    rotor_wear_m: float
    rotor_wear_measured: bool
    bedding: str
    mu: list[MuOut]
    own: list[OwnMuOut]
    own_ratio: float
    own_sigma: float
    use_own: bool
    shapes: list[PadShapeOut]


class CatalogueRotorOut(Wire):
    id: int
    name: str
    mount: str
    provenance: Source
    outer_radius_m: float
    inner_radius_m: float
    thickness_m: float
    discard_thickness_m: float
    gap_m: float
    vanes: int
    material: str
    pattern: str
    two_piece: bool
    price: float
    mass_kg: float | None
    vane_shape: str
    coating: str


class CatalogueFluidOut(Wire):
    id: int
    name: str
    standard: str
    provenance: Source
    dry_C: float
    wet_C: float
    price: float


class CatalogueOut(Wire):
    currency: str
    compounds: list[CompoundOut]
    rotors: list[CatalogueRotorOut]
    fluids: list[CatalogueFluidOut]


class TableColumnOut(Wire):
    """A column the table wants: `needed` where no row can do without it."""

    field: str
    heading: str
    needed: bool
    kind: str
    words: list[str]


class PartText(Wire):
    """One part as its table writes it: a cell of text by field. Empty for a new one."""

    table: TableName
    columns: list[TableColumnOut]
    cells: dict[str, str]


class PartQuery(Wire):
    """Which part: its name, and where that is not enough its shape or mount."""

    name: str = Field("", max_length=120)
    second: str = Field("", max_length=24)


class PartAsk(Wire):
    """A part typed cell by cell; `before` holds the key of the one it is meant to change, if it is."""

    table: TableName
    cells: dict[str, Annotated[str, Field(max_length=2000)]]
    before: dict[str, Annotated[str, Field(max_length=200)]] = {}
    # What is hardly meant was looked at, and is.
    sure: bool = False


class ReadingAsk(Wire):
    temperature_C: float = Field(ge=-60, le=1500, allow_inf_nan=False)
    mu: float = Field(gt=0, le=2, allow_inf_nan=False)
    measured_on: dt.date
    how: str = Field("", max_length=200)


class UseOwnAsk(Wire):
    use_own: bool


class TableLookOut(Wire):
    """What is in a file: its headings, some of its rows, and which heading seems to hold which field."""

    headings: list[str]
    rows: int
    sample: list[list[str]]
    columns: list[TableColumnOut]
    mapping: dict[str, str]


class RowErrorOut(Wire):
    row: int
    column: str
    value: str
    allowed: str


class CellChangeOut(Wire):
    column: str
    before: str
    after: str


class RowDoubtOut(Wire):
    row: int
    column: str
    text: SaidOut


class TableImportOut(Wire):
    """What a file would do, or has done: rows added and changed by name, how many were there, errors by row.

    `changes` are the cells of the changed rows, in their order; `doubts` what is asked about before it is written;
    `without_shape` the new compounds nobody has said a pad shape of.
    """

    added: list[str]
    changed: list[str]
    changes: list[list[CellChangeOut]]
    doubts: list[RowDoubtOut]
    without_shape: list[str]
    same: int
    errors: list[RowErrorOut]
    written: bool
