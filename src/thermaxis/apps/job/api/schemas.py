"""Jobs as the API takes and gives them. SI, the unit in the name; torques in N m."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from thermaxis.apps.accounts.api.fields import AxleName, Finite, RowId
from thermaxis.apps.accounts.api.said import SaidOut

Work = Literal["pads", "pads_rotors", "clean", "swap", "caliper", "hose", "flush", "parking", "heat_check"]
StepKey = Annotated[str, Field(min_length=1, max_length=60)]


class FastenerOut(Schema):
    """One kind of fastener; torque null is to be looked up in the vehicle's manual, or `words` say why there is none.

    `usual_low_Nm` and `usual_high_Nm` are what its thread usually bears, where it is known.
    """

    kind: str
    label: str
    drive: str
    size_m: float | None
    counter_hold_m: float | None
    thread: str
    torque_Nm: float | None
    words: str
    source: str
    page: str
    treatment: str
    single_use: bool
    left_hand: bool
    usual_low_Nm: float | None
    usual_high_Nm: float | None


class FastenersOut(Schema):
    """The fasteners of both axles, and the words their fields can have."""

    front: list[FastenerOut]
    rear: list[FastenerOut]
    drives: list[str]
    threads: list[str]
    treatments: list[str]


FastenerValue = bool | Finite | Annotated[str, Field(max_length=200)] | None


class FastenerAsk(Schema):
    """What the manual says of one kind of fastener; `sure`: what is hardly meant was looked at, and is."""

    axle: AxleName
    kind: str = Field(max_length=20)
    changes: dict[str, FastenerValue] = Field(min_length=1, max_length=12)
    seen: dict[str, FastenerValue] = Field(default={}, max_length=12)
    sure: bool = False


class OptionOut(Schema):
    option: str
    label: str
    reason: str


class SchoolOut(Schema):
    """A point mechanics disagree on: what is taken here, and the options with their reasons."""

    point: str
    label: str
    taken: str
    chosen: bool
    options: list[OptionOut]


class StepOut(Schema):
    """One step; `torque_Nm` is what is wanted, `reached_Nm` what was."""

    key: str
    id: str
    phase: Literal["before", "corner", "close"]
    corner: str
    text: str
    tool: str
    uses: str
    caution: str
    check: str
    school: str
    fastener: str
    tighten: bool
    minutes: float
    blocks: bool
    gate: str
    source: str
    torque_Nm: float | None
    # The blocking steps it comes after; and what else holds it: the service tool, a torque, Fit.
    waits_for: list[str]
    held: SaidOut | None
    done: bool
    words: str
    reached_Nm: float | None
    by: str
    at: dt.datetime | None
    rechecked_by: str
    rechecked_at: dt.datetime | None
    took_s: float | None


class NoteOut(Schema):
    """What is worth knowing, and nothing to tick."""

    text: str
    school: str


class LeftOutOut(Schema):
    """A step of the library that does not belong to this job, and why."""

    text: str
    reason: SaidOut


class BledOut(Schema):
    corner: str
    volume_m3: float
    strokes: int


class BleedingOut(Schema):
    """Corners in order, strokes for each, refill after so many, fluid to buy."""

    stroke_m3: float
    corners: list[BledOut]
    refill_after: int
    buy_m3: float


class CostOut(Schema):
    """Money in the workshop's; null where nobody has said, or it cannot be told."""

    parts_price: float
    parts_said: bool
    consumables_price: float | None
    rate_per_hour: float | None
    quote: float | None
    took_s: float
    expected_s: float
    own_jobs: int
    total_price: float


class LastingOut(Schema):
    """What it costs by what is driven; null where there is no duty or nothing goes on."""

    per_1000_km_price: float | None
    per_hour_price: float | None


class ServiceOut(Schema):
    """The service tool: how far it has got, and how long what is under way still takes."""

    state: Literal["", "connected", "released", "homing", "home", "learned"]
    left_s: float
    took_s: float


class JobPhotoOut(Schema):
    id: int
    corner: str
    when: Literal["before", "after"]
    taken_at: dt.datetime
    removed: bool


class JobRow(Schema):
    id: int
    axle: AxleName
    work: Work
    label: str
    parts: str
    started_at: dt.datetime
    started_by: str
    closed_on: dt.date | None
    abandoned: bool
    ticked: int
    steps: int


class JobOut(Schema):
    """A job with its sheet. A closed one reads as it was when it was closed."""

    id: int
    machine_id: int
    axle: AxleName
    work: Work
    label: str
    parts: str
    started_at: dt.datetime
    started_by: str
    closed_at: dt.datetime | None
    closed_on: dt.date | None
    closed_km: float | None
    abandoned: bool
    note: str
    corners: list[str]
    steps: list[StepOut]
    notes: list[NoteOut]
    schools: list[SchoolOut]
    fasteners: list[FastenerOut]
    values: dict[str, float]
    bleeding: BleedingOut | None
    cost: CostOut
    service: ServiceOut | None
    push_school: str
    push_reason: SaidOut
    against: list[SaidOut]
    photos: list[JobPhotoOut]
    off: dict[str, str]
    bolts_due_km: float | None
    bolts_done: bool
    cautions: dict[str, str]


class JobsOut(Schema):
    """The jobs of a machine, the open ones first, and what can be begun on each axle."""

    jobs: list[JobRow]
    works: list[OptionOut]
    intended: bool


class StartAsk(Schema):
    axle: AxleName
    work: Work
    # A set of the shelf, for a swap.
    pad_set_id: RowId | None = None


class MarkIn(Schema):
    """One thing said of a step, when by the device's clock; a torque may come from a wrench."""

    key: StepKey
    kind: Literal["done", "words", "open", "recheck"]
    words: str = Field("", max_length=200)
    torque_Nm: Finite | None = None
    source: Literal["hand", "wrench"] = "hand"
    at: dt.datetime | None = None


class MarksAsk(Schema):
    """Marks in the order they were made; said twice they change nothing."""

    marks: list[MarkIn] = Field(min_length=1, max_length=400)


class RefusedMark(Schema):
    place: int
    key: str
    reason: SaidOut


class MarkedOut(Schema):
    """The job afterwards, and the marks that were not taken, with why."""

    job: JobOut
    refused: list[RefusedMark]


class ValuesAsk(Schema):
    values: dict[str, Finite | None] = Field(min_length=1, max_length=60)
    seen: dict[str, Finite | None] = Field(default={}, max_length=60)


class OptionAsk(Schema):
    """Another school on a point; empty: the default again."""

    point: str = Field(max_length=20)
    option: str = Field(max_length=20)


class CostAsk(Schema):
    costs: dict[str, Finite | None] = Field(min_length=1, max_length=6)
    seen: dict[str, Finite | None] = Field(default={}, max_length=6)


class NoteAsk(Schema):
    note: str = Field(max_length=4000)
    seen: str = Field("", max_length=4000)


class AbandonedAsk(Schema):
    abandoned: bool


class BoltsAsk(Schema):
    done: bool


class OffAsk(Schema):
    """What becomes of what came off; scrap needs a reason."""

    pads: Literal["shelf", "scrap"] = "shelf"
    pads_reason: str = Field("", max_length=200)
    rotors: Literal["shelf", "scrap"] = "shelf"
    rotors_reason: str = Field("", max_length=200)


class CloseAsk(Schema):
    """Close on a day at an odometer, or reopen."""

    closed: bool
    on: dt.date | None = None
    odometer_km: Finite | None = None
    off: OffAsk = OffAsk(pads_reason="", rotors_reason="")


class ToolAsk(Schema):
    """One thing asked of the service tool; the fault is the stand-in's, to try what follows."""

    action: Literal["connect", "release", "home", "leave", "reset", "sensors"]
    fault: Literal["", "low voltage", "stall", "lost contact"] = ""
    seed: int = Field(0, ge=0, le=2**31)


class ToolOut(Schema):
    done: bool
    text: SaidOut
    volts: float | None
    sensors: list[str]
    service: ServiceOut


class WrenchAsk(Schema):
    """One tightening with the stand-in of a torque wrench."""

    key: StepKey
    story: Literal["good", "over", "under"] = "good"
    seed: int = Field(0, ge=0, le=2**31)


class WrenchOut(Schema):
    peak_Nm: float
