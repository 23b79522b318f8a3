"""Fasteners of an axle: which there are, what their thread usually bears, and when a torque is asked about.

No torque of a vehicle is known here: it comes from the vehicle's manual or is not there at all.
"""

from __future__ import annotations

import functools
import math
from dataclasses import dataclass

from thermaxis.core.checked import Checked, choice, flag, number
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import job as say
from thermaxis.core.said import Said
from thermaxis.core.tables import rows_of

DRIVES = ("hex", "internal hex", "six-lobe", "six-lobe socket", "triple-square", "slotted", "cross")
TREATMENTS = ("", "dry", "medium threadlocker", "high threadlocker", "new patched", "oiled", "greased")
MOST_NM = 1000.0
REACHED_SHARE = 0.05
"""A tightening is taken within this share of its torque."""
# Beyond this many times the ends of what a thread usually bears, a torque is asked about.
FAR = 1.25


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of fastener: what it is called, and whether it is hollow and bears less."""

    kind: str
    label: str
    hollow: bool
    of: frozenset[str]


@functools.cache
def kinds() -> dict[str, Kind]:
    """Every kind of fastener by its name, as records."""
    return {
        row["kind"]: Kind(
            kind=row["kind"], label=row["label"], hollow=row["hollow"] == "y", of=frozenset(row["of"].split())
        )
        for row in rows_of("fasteners")
    }


def kinds_of(kind: str, opposed: bool) -> list[Kind]:
    """The kinds an axle of a vehicle of this kind has, as records: by its caliper and whether it is a motorcycle."""
    tags = {"any", kind, "opposed" if opposed else "sliding"}
    return [entry for entry in kinds().values() if entry.of & tags]


@dataclass(frozen=True, kw_only=True)
class Fastener(Checked):
    """A fastener of one axle: torque in N m or None (look it up), size of its drive and counter-hold in m.

    `words` say why there is no torque ("hand tight by the manual").
    """

    kind: str
    drive: str = choice(*DRIVES, default="hex")
    size_m: float | None = number(None, gt=0, le=0.1, optional=True)
    counter_hold_m: float | None = number(None, gt=0, le=0.1, optional=True)
    thread: str = ""
    torque_Nm: float | None = number(None, gt=0, le=MOST_NM, optional=True)
    words: str = ""
    source: str = ""
    page: str = ""
    treatment: str = choice(*TREATMENTS, default="")
    single_use: bool = flag(False)
    left_hand: bool = flag(False)

    def check(self) -> None:
        if self.kind not in kinds():
            raise FieldError("kind", self.kind, "one of " + ", ".join(kinds()))
        if self.thread and self.thread not in threads():
            raise FieldError("thread", self.thread, "one of " + ", ".join(threads()))
        for name, most in (("words", 200), ("source", 120), ("page", 40)):
            if len(getattr(self, name)) > most:
                raise FieldError(name, getattr(self, name)[:40], f"at most {most} characters")


@functools.cache
def threads() -> dict[str, dict[str, float]]:
    """What each thread usually bears in N m, whole and hollow, by its name; the source is in the table."""
    return {
        row["thread"]: {name: float(row[name]) for name in row if name.endswith("_Nm")} for row in rows_of("threads")
    }


def usual_Nm(fastener: Fastener) -> tuple[float, float] | None:
    """From where to where a fastener's torque in N m usually lies by its thread; None without one."""
    if not fastener.thread:
        return None
    row = threads()[fastener.thread]
    hollow = "hollow_" if kinds()[fastener.kind].hollow else ""
    return row[f"{hollow}low_Nm"], row[f"{hollow}high_Nm"]


def torque_doubt(fastener: Fastener, other_axle: Fastener | None) -> Said | None:
    """What is asked about a torque before it is kept, in words; None where nothing is.

    Asked: far outside what the thread bears (1.25 times beyond its ends), and the very value of the other axle, where
    thread or size differ or nobody has said either: front and rear are seldom the same.
    """
    if fastener.torque_Nm is None:
        return None
    usual = usual_Nm(fastener)
    if usual is not None and not usual[0] / FAR <= fastener.torque_Nm <= usual[1] * FAR:
        return say.FAR_FROM_USUAL(thread=fastener.thread, torque=fastener.torque_Nm, low=usual[0], high=usual[1])
    if other_axle is None or other_axle.torque_Nm is None or fastener.kind == "wheel":
        return None
    same = math.isclose(other_axle.torque_Nm, fastener.torque_Nm, rel_tol=1e-6)
    alike = bool(fastener.thread) and (fastener.thread, fastener.size_m) == (other_axle.thread, other_axle.size_m)
    if same and not alike:
        return say.AS_OTHER_AXLE(torque=fastener.torque_Nm)
    return None


def reached(torque_Nm: float, wanted_Nm: float) -> Said | None:
    """Why a tightening to a peak in N m is not taken against the wanted torque in N m, in words; None where it is."""
    off = torque_Nm / wanted_Nm - 1.0
    if abs(off) <= REACHED_SHARE + 1e-9:
        return None
    return (say.OVER_TORQUE if off > 0 else say.UNDER_TORQUE)(torque=torque_Nm, wanted=wanted_Nm, off=abs(off))
