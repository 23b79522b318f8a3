"""The log as the API takes and gives it. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import RowId

Day = dt.date


class LogFilter(Wire):
    """What is asked for; empty is everything. `quiet`: single ticks and cells too, `removed`: what was taken out too.

    `thing` is a row as entries name it, "pad set 12". `before_on` and `before_id` are the last entry that was read.
    """

    machine_id: RowId | None = None
    kind: str = Field("", max_length=10)
    person: str = Field("", max_length=150)
    thing: str = Field("", max_length=60, pattern=r"^[a-z ]*\d*$")
    since: Day | None = None
    until: Day | None = None
    words: str = Field("", max_length=200)
    quiet: bool = False
    removed: bool = False


class LogQuery(LogFilter):
    before_on: Day | None = None
    before_id: RowId | None = None


class LogChange(Wire):
    """A value by its path, before and after; as it was kept, in SI."""

    path: str
    before: Any
    after: Any


class LogOut(Wire):
    """An entry. `things` are rows it is about, as their own history is asked for; `by_hand` may be taken out."""

    id: int
    on: dt.date
    made_at: dt.datetime
    kind: str
    act: str
    summary: str
    text: str
    cost: float | None
    machine_id: int | None
    machine: str | None
    odometer_km: float | None
    user_name: str
    # Written elsewhere and imported with a file.
    from_file: bool
    things: list[str]
    changes: list[LogChange]
    photos: list[int]
    by_hand: bool
    removed: bool


class KindCount(Wire):
    kind: str
    number: int


class LogPage(Wire):
    """Entries, the latest first; whether there are more; how many there are of each kind, and who has written."""

    entries: list[LogOut]
    more: bool
    kinds: list[KindCount]
    people: list[str]
    currency: str


class LogNoteAsk(Wire):
    machine_id: RowId | None = None
    on: dt.date
    text: str = Field(max_length=4000)
    odometer_km: float | None = Field(None, ge=0, le=5_000_000, allow_inf_nan=False)
    cost: float | None = Field(None, ge=0, le=1e6, allow_inf_nan=False)


class LogPhotoForm(Wire):
    token: str = Field(min_length=8, max_length=40)


class LogPhotoOut(Wire):
    id: int


class HistoryLine(Wire):
    on: dt.date
    odometer_km: float | None
    what: str
    machine: str
    thickness_m: float | None
    position: str


class HistoryOut(Wire):
    """A pad set or a pair of rotors: everything that happened to it, and what it cost."""

    name: str
    kind: Literal["pads", "rotors"]
    lines: list[HistoryLine]
    driven_km: float
    sessions: float
    price: float
    price_per_event: float | None
    price_per_1000km: float | None
    currency: str


class OlderLook(Wire):
    """A table's headings and which of them holds what."""

    headings: list[str]
    mapping: dict[str, str]
    fields: list[str]


class OlderForm(Wire):
    """Which heading holds what, as JSON."""

    mapping: str = Field("{}", max_length=4000)


class OlderRow(Wire):
    on: dt.date
    text: str
    odometer_km: float | None
    cost: float | None


class OlderWrong(Wire):
    row: int
    why: str


class OlderRead(Wire):
    """What came of a table: so many entries, the first of them, rows that cannot be read, and how many were new.

    `miles`: its odometer was taken to be in miles.
    """

    number: int
    miles: bool
    rows: list[OlderRow]
    wrong: list[OlderWrong]
    taken_in: int | None


class BookQuery(Wire):
    system: Literal["metric", "imperial"] = "metric"
