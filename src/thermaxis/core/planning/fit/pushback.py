"""Fluid pushed back into the reservoir when pistons go home, and how to keep it from running over (fit-and-job 4)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.checked import Checked, flag, number
from thermaxis.core.messages import fit as say
from thermaxis.core.said import Said

OLD_MONTHS = 24.0
BRIM_SHARE = 0.25
"""Room above the full mark, as a share of what lies between the marks (estimate)."""
SCHOOLS = ("watch", "draw off", "bleed screw")
HIGH_LEVEL, THIN_SHARE = 0.8, 0.5


@dataclass(frozen=True, kw_only=True)
class Pushed:
    """One caliper: which wheel, and the fluid its pistons push back, in m3."""

    wheel: str
    volume_m3: float


def pushed_back(wheel: str, piston_area_m2: float, old_m: float, new_m: float) -> Pushed:
    """Fluid one caliper gives back, as a record: `V = A (S_new - S_old)`, never below 0.

    `piston_area_m2` is that pressing one pad; what stands between the faces (rotor and pads) is in m. An opposed
    caliper has that area on both sides and each moves its own part, a sliding one has it once and moves the whole: the
    volume is the same.
    """
    return Pushed(wheel=wheel, volume_m3=max(0.0, piston_area_m2 * (new_m - old_m)))


@dataclass(frozen=True, kw_only=True)
class Reservoir(Checked):
    """Volume between its marks in m3 and today's level, 0 at the lower mark and 1 at the full one; None = not said.

    `estimated`: nobody has measured the volume.
    """

    marks_m3: float = number(gt=0, le=0.005)
    level: float | None = number(None, ge=0, le=1 + BRIM_SHARE, optional=True)
    estimated: bool = flag(False)

    @property
    def room_m3(self) -> float:
        """Room up to the brim in m3; a level nobody has read is taken at the full mark, the side that runs over."""
        level = 1.0 if self.level is None else self.level
        return max(0.0, (1.0 + BRIM_SHARE - level) * self.marks_m3)


@dataclass(frozen=True, kw_only=True)
class PushBack:
    """All corners against the room: what is pushed back, what would run over, and the school that leads to.

    `after` is after how many corners the brim is reached when nothing is drawn off, 0 where it never is.
    """

    corners: tuple[Pushed, ...]
    total_m3: float
    room_m3: float
    over_m3: float
    after: int
    school: str
    reservoir: Reservoir
    reason: Said
    remarks: tuple[Said, ...]


def push_back(
    corners: Sequence[Pushed],
    reservoir: Reservoir,
    *,
    fluid_months: float,
    valves: bool,
    motorcycle: bool,
    worn_share: float,
) -> PushBack:
    """Sum the corners, compare with the room and choose a school, as a record.

    The bleed screw opened while pushing, so that nothing goes back through valves, where the brakes have anti-lock or
    stability control, the fluid is over 24 months old, or on a motorcycle; else draw off first what would run over;
    else watch with the cap off. `worn_share` is the share of the old pads' friction that is gone.
    """
    total = sum(entry.volume_m3 for entry in corners)
    over = max(0.0, total - reservoir.room_m3)
    running, after = 0.0, 0
    for index, entry in enumerate(corners):
        running += entry.volume_m3
        if running > reservoir.room_m3 and after == 0:
            after = index + 1
    if motorcycle or valves or fluid_months > OLD_MONTHS:
        school = "bleed screw"
        reason = (
            say.SCREW_MOTORCYCLE()
            if motorcycle
            else say.SCREW_VALVES()
            if valves
            else say.SCREW_OLD(months=fluid_months)
        )
    elif over > 0:
        school, reason = "draw off", say.DRAW_OFF(over=over, total=total, room=reservoir.room_m3)
    else:
        school, reason = "watch", say.WATCH(total=total, room=reservoir.room_m3)
    remarks = []
    if reservoir.level is None:
        remarks.append(say.LEVEL_NOT_READ())
    elif reservoir.level >= HIGH_LEVEL and worn_share >= THIN_SHARE:
        remarks.append(say.TOPPED_UP())
    if over > 0 and school != "draw off":
        remarks.append(say.WOULD_RUN_OVER(over=over))
    if reservoir.estimated:
        remarks.append(say.RESERVOIR_GUESSED(marks=reservoir.marks_m3))
    return PushBack(
        corners=tuple(corners),
        total_m3=total,
        room_m3=reservoir.room_m3,
        over_m3=over,
        after=after,
        school=school,
        reservoir=reservoir,
        reason=reason,
        remarks=tuple(remarks),
    )
