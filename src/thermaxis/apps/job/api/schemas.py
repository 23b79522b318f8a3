"""Jobs as the API takes and gives them. SI, the unit in the name; torques in N m."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, Finite, RowId
from thermaxis.apps.accounts.api.said import SaidOut

Work = Literal["pads", "pads_rotors", "clean", "swap", "caliper", "hose", "flush", "parking", "heat_check"]
StepKey = Annotated[str, Field(min_length=1, max_length=60)]


class FastenerOut(Wire):
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


class FastenersOut(Wire):
    """The fasteners of both axles, and the words their fields can have."""

    front: list[FastenerOut]
    rear: list[FastenerOut]
    drives: list[str]
    threads: list[str]
    treatments: list[str]


FastenerValue = bool | Finite | Annotated[str, Field(max_length=200)] | None


class FastenerAsk(Wire):
    """What the manual says of one kind of fastener; `sure`: what is hardly meant was looked at, and is."""

    axle: AxleName
    kind: str = Field(max_length=20)
    changes: dict[str, FastenerValue] = Field(min_length=1, max_length=12)
    seen: dict[str, FastenerValue] = Field(default={}, max_length=12)
    sure: bool = False


class OptionOut(Wire):
    option: str
    label: str
    reason: str


class SchoolOut(Wire):
    """A point mechanics disagree on: what is taken here, and the options with their reasons."""

    point: str
    label: str
    taken: str
    chosen: bool
    options: list[OptionOut]


class StepOut(Wire):
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


class NoteOut(Wire):
    """What is worth knowing, and nothing to tick."""

    text: str
    school: str


class LeftOutOut(Wire):
    """A step of the library that does not belong to this job, and why."""

    text: str
    reason: SaidOut


class BledOut(Wire):
    corner: str
    volume_m3: float
    strokes: int


class BleedingOut(Wire):
    """Corners in order, strokes for each, refill after so many, fluid to buy."""

    stroke_m3: float
    corners: list[BledOut]
    refill_after: int
    buy_m3: float


class CostOut(Wire):
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


class LastingOut(Wire):
    """What it costs by what is driven; null where there is no duty or nothing goes on."""

    per_1000_km_price: float | None
    per_hour_price: float | None


class ServiceOut(Wire):
    """The service tool: how far it has got, and how long what is under way still takes."""

    state: Literal["", "connected", "released", "homing", "home", "learned"]
    left_s: float
    took_s: float


class JobPhotoOut(Wire):
    id: int
    corner: str
    when: Literal["before", "after"]
    taken_at: dt.datetime
    removed: bool


class JobHead(Wire):
    id: int
    axle: AxleName
    work: Work
    label: str
    parts: str
    started_at: dt.datetime
    started_by: str
    closed_on: dt.date | None
    abandoned: bool


class JobRow(JobHead):
    ticked: int
    steps: int


class JobOut(JobHead):
    """A job with its sheet. A closed one reads as it was when it was closed."""

    machine_id: int
    closed_at: dt.datetime | None
    closed_km: float | None
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


class JobsOut(Wire):
    """The jobs of a machine, the open ones first, and what can be begun on each axle."""

    jobs: list[JobRow]
    works: list[OptionOut]
    intended: bool


class StartAsk(Wire):
    axle: AxleName
    work: Work
    # A set of the shelf, for a swap.
    pad_set_id: RowId | None = None


class MarkIn(Wire):
    """One thing said of a step, when by the device's clock; a torque may come from a wrench."""

    key: StepKey
    kind: Literal["done", "words", "open", "recheck"]
    words: str = Field("", max_length=200)
    torque_Nm: Finite | None = None
    source: Literal["hand", "wrench"] = "hand"
    at: dt.datetime | None = None


class MarksAsk(Wire):
    """Marks in the order they were made; said twice they change nothing."""

    marks: list[MarkIn] = Field(min_length=1, max_length=400)


class RefusedMark(Wire):
    place: int
    key: str
    reason: SaidOut


class MarkedOut(Wire):
    """The job afterwards, and the marks that were not taken, with why."""

    job: JobOut
    refused: list[RefusedMark]


class ValuesAsk(Wire):
    values: dict[str, Finite | None] = Field(min_length=1, max_length=60)
    seen: dict[str, Finite | None] = Field(default={}, max_length=60)


class OptionAsk(Wire):
    """Another school on a point; empty: the default again."""

    point: str = Field(max_length=20)
    option: str = Field(max_length=20)


class CostAsk(Wire):
    costs: dict[str, Finite | None] = Field(min_length=1, max_length=6)
    seen: dict[str, Finite | None] = Field(default={}, max_length=6)


class NoteAsk(Wire):
    note: str = Field(max_length=4000)
    seen: str = Field("", max_length=4000)


class AbandonedAsk(Wire):
    abandoned: bool


class BoltsAsk(Wire):
    done: bool


class OffAsk(Wire):
    """What becomes of what came off; scrap needs a reason."""

    pads: Literal["shelf", "scrap"] = "shelf"
    pads_reason: str = Field("", max_length=200)
    rotors: Literal["shelf", "scrap"] = "shelf"
    rotors_reason: str = Field("", max_length=200)


class CloseAsk(Wire):
    """Close on a day at an odometer, or reopen."""

    closed: bool
    on: dt.date | None = None
    odometer_km: Finite | None = None
    off: OffAsk = OffAsk(pads_reason="", rotors_reason="")


class ToolAsk(Wire):
    """One thing asked of the service tool; the fault is the stand-in's, to try what follows."""

    action: Literal["connect", "release", "home", "leave", "reset", "sensors"]
    fault: Literal["", "low voltage", "stall", "lost contact"] = ""
    seed: int = Field(0, ge=0, le=2**31)


class ToolOut(Wire):
    done: bool
    text: SaidOut
    volts: float | None
    sensors: list[str]
    service: ServiceOut


class WrenchAsk(Wire):
    """One tightening with the stand-in of a torque wrench."""

    key: StepKey
    story: Literal["good", "over", "under"] = "good"
    seed: int = Field(0, ge=0, le=2**31)


class WrenchOut(Wire):
    peak_Nm: float
