"""Events, forecasts, changes and orders as the API takes and gives them. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, RowId, State
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.life.api.schemas import PadLimit

PartKind = Literal["pads", "rings", "fluid", "hoses", "seals"]
Survival = Literal["survives", "take spares", "change before", "look"]


class EventAsk(Wire):
    """An event as it is to be: no `starts_at` is a whole day, no pads what is on that day, no fluid what is in."""

    name: str = Field(max_length=120)
    on: dt.date
    until_on: dt.date | None = None
    starts_at: dt.time | None = None
    ends_at: dt.time | None = None
    duty_id: RowId
    sessions: float = Field(1.0, ge=0.1, le=50, allow_inf_nan=False)
    front_pads_id: RowId | None = None
    rear_pads_id: RowId | None = None
    fluid_id: RowId | None = None
    road_km: float = Field(0.0, ge=0, le=5000, allow_inf_nan=False)
    air_C: float | None = Field(None, ge=-60, le=70, allow_inf_nan=False)
    note: str = Field("", max_length=500)


class PlanAsk(EventAsk):
    """An event, or `times` of it `every_days` apart."""

    every_days: int | None = Field(None, ge=1, le=366)
    times: int = Field(1, ge=1, le=52)


class ChangeAsk(EventAsk):
    version: int = Field(ge=1, le=2**31)


class DrivenAsk(Wire):
    """What became of an event: so much of it was driven, the odometer after it; or it was left out.

    `back_on`: a set that was on for it alone has come off again.
    """

    sessions: float = Field(1.0, ge=0, le=50, allow_inf_nan=False)
    odometer_km: float = Field(ge=0, le=5_000_000, allow_inf_nan=False)
    left_out: bool = False
    back_on: bool = True


class EventOut(Wire):
    """An event. `series` is what recurring ones have in common, `fluid` what will be in by then, fresh."""

    id: int
    version: int
    machine_id: int
    machine: str
    name: str
    on: dt.date
    until_on: dt.date | None
    starts_at: dt.time | None
    ends_at: dt.time | None
    duty_id: int
    duty: str
    sessions: float
    front_pads_id: int | None
    front_pads: str | None
    rear_pads_id: int | None
    rear_pads: str | None
    fluid_id: int | None
    fluid: str | None
    road_km: float
    air_C: float | None
    note: str
    series: str
    source: Literal["hand", "ics", "csv"]
    state: Literal["planned", "driven", "left out"]
    driven_sessions: float | None
    driven_km: float | None
    removed: bool


class AheadOut(Wire):
    """An event on the axis; no number where it is one at the usual pace. The fluid's margin as P10, P50 and P90."""

    event_id: int | None
    name: str
    on: dt.date
    duty: str
    margin_low_K: float
    margin_K: float
    margin_high_K: float


class LastsOut(Wire):
    """How likely a part holds through an event, nothing where it is not on; `left` of its life when it begins.

    For a ring that holds and may have hairlines by then the word is look, and the chance that it has none.
    """

    chance: float | None
    word: Survival | None
    left: float


class ExplainedOut(Wire):
    formula: str
    lines: list[SaidOut]
    taken: list[SaidOut]
    source: str


class ForecastOut(Wire):
    """A part along the events; `until` are the events it holds, P10, P50 and P90. Thicknesses for pads and rings."""

    key: str
    kind: PartKind
    axle: AxleName | None
    name: str
    thing_id: int
    on_it: bool
    now_m: float | None
    new_m: float | None
    limit_m: float | None
    age_months: float | None
    due_on: dt.date | None
    limits: list[PadLimit]
    chances: list[LastsOut]
    until_low: float
    until: float
    until_high: float
    readings: int
    state: State
    notes: list[SaidOut]
    explained: ExplainedOut


class OrderAsk(Wire):
    """A line of the order list; a part of the catalogue goes on the shelf when it has come. `version` when changed."""

    name: str = Field(max_length=160)
    kind: Literal["pads", "rotors", "fluid", "other"] = "other"
    machine_id: RowId | None = None
    event_id: RowId | None = None
    axle: AxleName | None = None
    variant_id: RowId | None = None
    rotor_id: RowId | None = None
    supplier: str = Field("", max_length=120)
    quantity: int = Field(1, ge=1, le=50)
    price: float | None = Field(None, ge=0, le=1e6, allow_inf_nan=False)
    lead_days: int | None = Field(None, ge=0, le=365)
    order_by: dt.date | None = None
    note: str = Field("", max_length=240)
    version: int = Field(0, ge=0, le=2**31)


class TickAsk(Wire):
    ordered_on: dt.date | None = None
    arrived_on: dt.date | None = None


class OrderOut(Wire):
    """A line of the order list; `on_shelf` names what came out of the box."""

    id: int
    version: int
    name: str
    kind: Literal["pads", "rotors", "fluid", "other"]
    machine_id: int | None
    machine: str | None
    event_id: int | None
    event: str | None
    axle: AxleName | None
    variant_id: int | None
    rotor_id: int | None
    supplier: str
    quantity: int
    price: float | None
    lead_days: int | None
    order_by: dt.date | None
    note: str
    ordered_on: dt.date | None
    arrived_on: dt.date | None
    on_shelf: str
    removed: bool


class ChangeOut(Wire):
    """A change: of which part, before which event, why, what it throws away and what waiting would risk, the order."""

    key: str
    part: str
    before: int
    event: str
    on: dt.date
    reasons: list[SaidOut]
    lost: float
    risk: float
    order_by: dt.date | None
    late: bool
    order: SaidOut
    draft: OrderAsk | None
    ordered: OrderOut | None


class FluidReadingOut(Wire):
    id: int
    measured_on: dt.date
    boiling_C: float | None
    water_share: float | None
    colour: str
    overheated: bool
    removed: bool


class FluidReadingAsk(Wire):
    """What a tester, an eye or a soft pedal says of the fluid that is in."""

    measured_on: dt.date
    boiling_C: float | None = Field(None, ge=-60, le=1000, allow_inf_nan=False)
    water_share: float | None = Field(None, ge=0, le=1, allow_inf_nan=False)
    colour: Literal["", "clear", "amber", "brown", "black"] = ""
    overheated: bool = False


class SeasonOut(Wire):
    """A machine's season: events, every part along them, what to change, what is on order, how right it has been.

    `usual` says that nothing is planned: the axis has events of its duty at the usual pace. `waiting` are past events
    of which nobody has said what became of them.
    """

    usual: bool
    currency: str
    odometer_km: float
    axis: list[AheadOut]
    planned: list[EventOut]
    waiting: list[EventOut]
    over: list[EventOut]
    forecasts: list[ForecastOut]
    changes: list[ChangeOut]
    orders: list[OrderOut]
    fluid_readings: list[FluidReadingOut]
    readings: int
    inside: int
    feed: str | None


class FeedAsk(Wire):
    shared: bool


class FeedOut(Wire):
    token: str | None


class ZoneForm(Wire):
    """The time zone whose clock the times of a file are read by."""

    zone: str = Field("UTC", max_length=60)


class TakeInForm(ZoneForm):
    duty_id: RowId


class ComingOut(Wire):
    """An event of a file, and what becomes of it here."""

    name: str
    on: dt.date
    until_on: dt.date
    starts_at: dt.time | None
    what: Literal["new", "moved", "cancelled", "same", "over"]


class ReadyQuery(Wire):
    """In which air; the duty's or the event's own unless given."""

    air_C: float | None = Field(None, ge=-60, le=70, allow_inf_nan=False)


class ReadyPdfQuery(ReadyQuery):
    system: Literal["metric", "imperial"] = "metric"


class ReadyReason(Wire):
    state: State
    text: SaidOut
    stage: str


class AlongOut(Wire):
    """What is taken along; a tool with its size in m."""

    name: str
    size_m: float | None


class ReadyOut(Wire):
    """Go, look or no-go, the gravest reason first; and what to take along."""

    event_id: int
    name: str
    machine: str
    on: dt.date
    duty: str
    word: Literal["go", "look", "no-go"]
    air_C: float
    reasons: list[ReadyReason]
    take: list[AlongOut]
