"""What the bed stage takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, RowId
from thermaxis.apps.accounts.api.said import SaidOut

Token = Field(min_length=1, max_length=64)
Word = Literal["begun", "partly", "bedded", "overheated"]


class RowIO(Wire):
    """Brakings alike, each followed by driving on."""

    phase: str = Field("leaflet", max_length=12)
    times: int = Field(1, ge=1, le=600)
    from_mps: float = Field(gt=0, le=100, allow_inf_nan=False)
    to_mps: float = Field(ge=0, le=100, allow_inf_nan=False)
    decel_g: float = Field(gt=0, le=1.5, allow_inf_nan=False)
    then_s: float = Field(ge=0, le=3600, allow_inf_nan=False)
    then_mps: float = Field(ge=0, le=100, allow_inf_nan=False)
    last_s: float | None = Field(None, ge=0, le=3600, allow_inf_nan=False)
    stretch: int = Field(0, ge=0, le=99)


LeafletRows = list[RowIO]


class MakersAsk(Wire):
    """A leaflet's rows, whole; none take them out. `version` is that of the rows that were seen."""

    rows: list[RowIO] = Field(max_length=120)
    version: int = Field(ge=0, le=2**31)


class MakersOut(Wire):
    rows: list[RowIO]
    version: int


class ItemOut(Wire):
    """One thing to do: a braking, or a stretch of `stops`; `stop` is the number of its last, from 1, `how` it feels."""

    phase: str
    stop: int
    stops: int
    from_mps: float
    to_mps: float
    decel_g: float
    how: str
    then_s: float
    then_mps: float
    way_m: float
    time_s: float
    front_C: float | None
    rear_C: float | None


class KeptOut(Wire):
    """A limit of a plan, kept or not."""

    name: str
    kept: bool
    value: float
    limit: float
    quantity: str
    text: SaidOut


class WindowOut(Wire):
    low_C: float
    high_C: float


class PlanOut(Wire):
    """A school on this machine. `refused` says why it is not to be driven, `needs` what would reach the window."""

    school: str
    label: str
    what: str
    suits: str
    front: WindowOut
    rear: WindowOut
    items: list[ItemOut]
    reached: bool
    rear_reached: bool
    kept: bool
    inside_front: int
    inside_rear: int
    peak_front_C: float
    peak_rear_C: float
    hottest_fluid_C: float
    cool_down_s: float
    duration_s: float
    way_m: float
    wear_front_m: float
    wear_rear_m: float
    limits: list[KeptOut]
    closed: SaidOut | None
    text: SaidOut
    needs: SaidOut | None
    rear_text: SaidOut | None
    remarks: list[SaidOut]
    refused: SaidOut | None


class SchoolsOut(Wire):
    """Every school side by side; `default` is taken unless somebody picks. `words` are the compound's own."""

    pad: str
    pad_id: int
    rear_pad: str
    words: str
    default: str
    reason: SaidOut
    allowed_g: float
    allowed_mps: float
    makers: MakersOut
    plans: list[PlanOut]


class CurveOut(Wire):
    t_s: list[float]
    front_surface_C: list[float]
    rear_surface_C: list[float]


class PlanRecordOut(Wire):
    id: int
    made_at: dt.datetime
    done_on: dt.date | None
    school: str
    label: str
    top_speed_mps: float
    hard_g: float
    stops: int
    run_id: int | None
    run_ended: bool
    removed: bool


class KeptPlanOut(PlanRecordOut):
    """A plan as it was kept, with what it reaches drawn again."""

    plan: PlanOut
    curve: CurveOut


class DoneAsk(Wire):
    done: bool


# --- the run -----------------------------------------------------------------------------------------------------


class RunAsk(Wire):
    """`token`: begun again with it, it is the same run."""

    token: str = Token


class EventIn(Wire):
    """What the passenger said, by the device's clock in s after the run began; the rest belongs to a reading."""

    token: str = Token
    kind: Literal["done", "harder", "skip", "traffic", "reading", "undo"]
    at_s: float = Field(ge=0, le=2e6, allow_inf_nan=False)
    axle: AxleName = "front"
    value_C: float | None = Field(None, ge=-40, le=1200, allow_inf_nan=False)
    since_s: float | None = Field(None, ge=0, le=3600, allow_inf_nan=False)
    moving_mps: float = Field(0.0, ge=0, le=70, allow_inf_nan=False)


class EventsAsk(Wire):
    events: list[EventIn] = Field(min_length=1, max_length=200)


class DidOut(Wire):
    how: Literal["done", "harder", "skip"]
    at_s: float
    item: ItemOut


class RunReadOut(Wire):
    axle: AxleName
    value_C: float
    after: int
    expected_C: float
    believed: bool
    text: SaidOut


class BedRunOut(Wire):
    """Where a run stands; `planned` is the plan as it was kept, `left` what is still to do.

    `kinds` is what was said and stands, in order: undo takes the last; `tokens` are of all that arrived. `now` is
    the server's clock.

    `gap_s` is how long the gap under way is in all, at `gap_mps`, since `waits_from_s`; one in traffic takes
    `traffic_s`. `words` are what was reached.
    """

    id: int
    plan_id: int
    machine_id: int
    machine: str
    pad: str
    label: str
    front: WindowOut
    rear: WindowOut
    started_at: dt.datetime
    ended_at: dt.datetime | None
    now: dt.datetime
    kinds: list[Literal["done", "harder", "skip", "traffic", "reading"]]
    tokens: list[str]
    planned: list[ItemOut]
    did: list[DidOut]
    left: list[ItemOut]
    reads: list[RunReadOut]
    gap_s: float
    gap_mps: float
    waits_from_s: float | None
    traffic_s: float
    cooling: float
    cooling_low: float
    cooling_high: float
    said: SaidOut | None
    word: Word
    words: dict[str, Word]
    closed: SaidOut | None


class HoldAsk(Wire):
    """Where and when the stand-in is held: which ring, how long after the last braking, at which speed since."""

    axle: AxleName
    since_s: float = Field(ge=0, le=3600, allow_inf_nan=False)
    moving_mps: float = Field(0.0, ge=0, le=70, allow_inf_nan=False)


class HeldOut(Wire):
    value_C: float


# --- did it work -------------------------------------------------------------------------------------------------


class RingLookOut(Wire):
    """A look of a ring: what is seen, what it means, what to do, when to stop driving."""

    look: str
    label: str
    shows: str
    means: str
    do: str
    stop: str
    verdict: Word


class ResultOut(Wire):
    """One thing that was said of a set's bedding."""

    id: int
    axle: AxleName
    on: dt.date
    word: Word
    source: Literal["run", "log", "ring", "hand"]
    look: str
    pads: str
    rotors: str
    text: SaidOut | None
    wear_m: float
    removed: bool


class BeddedOut(Wire):
    """How far the pads of an axle are bedded on the rings they run on."""

    axle: AxleName
    pads: str
    rotors: str
    state: Literal["new", "bedding", "bedded", "unbedded"]
    why: SaidOut


class FilmSchoolOut(Wire):
    option: str
    label: str
    reason: str
    default: bool


class FilmOut(Wire):
    """Another compound's film on the rings of an axle; `same` where its family is that of the pads that are on."""

    axle: AxleName
    before: str
    same: bool
    text: SaidOut


class BedStateOut(Wire):
    axles: list[BeddedOut]
    results: list[ResultOut]
    films: list[FilmOut]
    film_schools: list[FilmSchoolOut]
    looks: list[RingLookOut]


class LookAsk(Wire):
    axle: AxleName
    look: str = Field(max_length=12)
    on: dt.date


class ProofAsk(Wire):
    """A recorded run as the bedding drive."""

    run_id: RowId


class KeepProofAsk(ProofAsk):
    on: dt.date


class AxleProofOut(Wire):
    axle: AxleName
    word: Word
    inside: int
    missing: int
    hottest_C: float
    peak_C: float
    text: SaidOut


class ProofOut(Wire):
    word: Word
    axles: list[AxleProofOut]
    brakings: int
    sure: bool
    text: SaidOut
