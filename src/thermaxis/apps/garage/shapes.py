"""What a machine is asked to do: a plan of one of seven shapes, each with what is its own and nothing of the others."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar

from thermaxis.apps.garage.mapping import AS_IT_STANDS, Conditions, under
from thermaxis.core import records
from thermaxis.core.checked import Checked, choice, flag, number
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.duties import Section, Week
from thermaxis.core.planning.duty.lap import DRIVER_LEVELS, Element


@dataclass(frozen=True, kw_only=True)
class Session(Checked):
    """Laps of a circuit (`closed`), or runs up a hill or through a course."""

    kind: ClassVar[str] = "session"
    laps: int = number(1, ge=1, le=500, whole=True)
    driver_level: str = choice("", *DRIVER_LEVELS, default="")
    traffic: float = number(0.0, ge=0, le=1)
    cool_down_laps: int = number(0, ge=0, le=20, whole=True)
    pause_s: float = number(0.0, ge=0, le=36000)
    elements: tuple[Element, ...] = ()
    closed: bool = flag(False)


@dataclass(frozen=True, kw_only=True)
class Descent(Checked):
    """A steady descent, grade positive = down; which of them can be driven is the core's to say."""

    kind: ClassVar[str] = "descent"
    grade: float = number(0.0)
    speed_mps: float = number(0.0)
    duration_s: float = number(0.0)

    @property
    def length_m(self) -> float:
        """How far it goes, in m."""
        return self.speed_mps * self.duration_s


@dataclass(frozen=True, kw_only=True)
class Sections:
    """A descent in sections, top to bottom."""

    kind: ClassVar[str] = "sections"
    sections: tuple[Section, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Stops(Checked):
    """A series of stops, `repeat` times over."""

    kind: ClassVar[str] = "stops"
    stops: tuple[records.Stop, ...] = ()
    repeat: int = number(1, ge=1, le=1000, whole=True)


@dataclass(frozen=True, kw_only=True)
class UsualWeek(Week):
    """A usual week of driving; one event is one of its driving days."""

    kind: ClassVar[str] = "week"


@dataclass(frozen=True, kw_only=True)
class Recorded:
    """A recorded run; without its trace it is known, and cannot be driven."""

    kind: ClassVar[str] = "recorded"
    trace: records.TraceDuty | None = None


@dataclass(frozen=True, kw_only=True)
class Day:
    """A whole day of other duties."""

    kind: ClassVar[str] = "day"
    parts: tuple[DayPart, ...] = ()


Shape = Session | Descent | Sections | Stops | UsualWeek | Recorded | Day
SHAPES: dict[str, type[Shape]] = {
    shape.kind: shape for shape in (Session, Descent, Sections, Stops, UsualWeek, Recorded, Day)
}


@dataclass(frozen=True, kw_only=True)
class Plan:
    """Everything that makes a duty what it is, whether it is stored or only tried; `then` is the time after it."""

    shape: Shape
    event_km: float
    conditions: Conditions = AS_IT_STANDS
    then_s: float = 0.0
    then_speed_mps: float = 0.0

    @property
    def kind(self) -> str:
        """Which of the seven shapes it has."""
        return self.shape.kind

    def shaped(self, **changes: Any) -> Plan:
        """The same plan with fields of its shape changed."""
        return dataclasses.replace(self, shape=dataclasses.replace(self.shape, **changes))


@dataclass(frozen=True, kw_only=True)
class DayPart:
    """One duty of a day, driven `times` times, parked `gap_s` seconds after each."""

    plan: Plan
    times: int
    gap_s: float


# What is kept in rows of their own and not in the shape's column.
IN_ROWS = ("elements", "closed", "trace", "parts")
_LISTS: dict[str, type[Any]] = {"sections": Section, "stops": records.Stop}


def stored(shape: Shape) -> dict[str, Any]:
    """A shape as its column holds it: its kind, and what was typed of it."""
    # Not the whole record as a dictionary: a recorded trace or a day's duties would be copied to be left out.
    typed = sorted({field.name for field in dataclasses.fields(shape)}.difference(IN_ROWS))
    found = {name: getattr(shape, name) for name in typed}
    for name in _LISTS.keys() & found.keys():
        found[name] = [dataclasses.asdict(row) for row in found[name]]
    return {"kind": shape.kind, **found}


def shape_of(fields: Mapping[str, Any], **rows: Any) -> Shape:
    """A shape from its fields, as its column holds them or a page sends them, and from what stands in rows.

    FieldError names what cannot be, a kind or a field that there is not among it.
    """
    kind, typed = fields.get("kind"), {name: value for name, value in fields.items() if name != "kind"}
    made = SHAPES.get(kind) if isinstance(kind, str) else None
    if made is None:
        raise FieldError("kind", str(kind)[:40], "one of " + ", ".join(SHAPES))
    for name, record in _LISTS.items():
        if name in typed:
            typed[name] = _each(name, record, typed[name])
    known = {field.name for field in dataclasses.fields(made)}
    if unknown := sorted(typed.keys() - known.difference(IN_ROWS)):
        raise FieldError(unknown[0][:40], "given", f"none: a duty of kind {kind} has no such number")
    return made(**typed, **{name: value for name, value in rows.items() if name in known})


def elements_from(rows: list[dict[str, Any]]) -> tuple[Element, ...]:
    """Straights and corners from their fields; FieldError names the one that cannot be."""
    return _each("elements", Element, rows)


def _each(name: str, record: type[Any], rows: list[dict[str, Any]]) -> tuple[Any, ...]:
    found = []
    for index, row in enumerate(rows):
        with under(f"{name}[{index}]"):
            found.append(record(**row))
    return tuple(found)
