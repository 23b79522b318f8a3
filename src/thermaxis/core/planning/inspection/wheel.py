"""What an inspection says: pads by thickness, side and taper; rotors by thickness over washers, cut and cracks."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.checked import Checked, choice, number, numbers
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import inspection as say
from thermaxis.core.messages.verdict import UNDER_DISCARD, UNDER_GUESSED_DISCARD
from thermaxis.core.results import Remark
from thermaxis.core.said import Said

PAD_STATES = ("fresh", "fine", "plan", "due", "at once")
ROTOR_VERDICTS = ("keep", "clean and keep", "machine", "replace")
SCHOOLS = ("compute both", "always replace")
# When a difference is one: the greater of a length and a share of the new pad (practice).
SIDE_M, SIDE_SHARE = 0.001, 0.15
TAPER_M, TAPER_SHARE = 0.0008, 0.08
WHEEL_M, WHEEL_SHARE = 0.0012, 0.15
FRESH_SHARE = 0.95
PLAN_EVENTS = 3.0
# What a lathe takes off a face besides the damage itself, and what a crack may be (practice).
FINISH_CUT_M = 0.00005
SCORING_M, LIP_M = 0.0005, 0.0005
# Readings of one even rotor differ by this much among themselves: only more than that is the rotor's.
GAUGE_RANGE_M = 0.00001
CRACK_M = 0.010


@dataclass(frozen=True, kw_only=True)
class Finding:
    """What was found: the rule that says so, how grave, in words, the likely cause and the check that settles it."""

    rule: str
    grave: bool
    text: Said
    cause: str = ""
    check: str = ""


@dataclass(frozen=True, kw_only=True)
class PadLimits(Checked):
    """New and least thicknesses of friction material in m: change by the school, wear tab, and the very least."""

    new_m: float = number(gt=0, le=0.05)
    change_m: float = number(ge=0, le=0.05)
    least_m: float = number(0.0015, ge=0, le=0.05)
    tab_m: float = number(0.0025, ge=0, le=0.05)


@dataclass(frozen=True, kw_only=True)
class CornerPads(Checked):
    """Friction material of one wheel in m, inner and outer; two values each where both ends were measured."""

    inner_m: tuple[float, ...] = numbers(ge=0.0, le=0.05)
    outer_m: tuple[float, ...] = numbers(ge=0.0, le=0.05)

    @property
    def thinnest_m(self) -> float:
        """The least of all readings of the wheel in m."""
        return min(*self.inner_m, *self.outer_m)


def pad_state(thinnest_m: float, limits: PadLimits, per_event_m: float) -> str:
    """State of a pad by its thinnest reading in m and its wear per event in m: one of `PAD_STATES`.

    At once: at the very least. Due: at the change limit. Plan: within `PLAN_EVENTS` events of it. Fresh: nearly new.
    """
    if thinnest_m <= limits.least_m:
        return "at once"
    if thinnest_m <= limits.change_m:
        return "due"
    if per_event_m > 0 and (thinnest_m - limits.change_m) / per_event_m <= PLAN_EVENTS:
        return "plan"
    return "fresh" if thinnest_m >= FRESH_SHARE * limits.new_m else "fine"


def corner_findings(pads: CornerPads, limits: PadLimits, *, sliding: bool) -> list[Finding]:
    """What inner against outer and end against end say of one wheel, as finding records; sliding or opposed caliper."""
    found = []
    inner, outer = min(pads.inner_m), min(pads.outer_m)
    if abs(inner - outer) >= max(SIDE_M, SIDE_SHARE * limits.new_m):
        found.append(_sides(inner, outer, sliding))
    for name, ends in (("inner", pads.inner_m), ("outer", pads.outer_m)):
        if len(ends) == 2 and abs(ends[0] - ends[1]) >= max(TAPER_M, TAPER_SHARE * limits.new_m):
            found.append(
                Finding(
                    rule="taper",
                    grave=False,
                    text=say.TAPER(pad=name, difference=abs(ends[0] - ends[1])),
                    cause="a piston that does not move, a stuck pin or a worn guide",
                    check="push the pistons back one by one; slide the caliper on each pin by hand",
                )
            )
    return found


def _sides(inner: float, outer: float, sliding: bool) -> Finding:
    thin = "inner" if inner < outer else "outer"
    text = say.INNER_AND_OUTER(pad=thin, difference=abs(inner - outer))
    if not sliding:
        cause, check = "pistons of the other side do not move", "push every piston back; one that will not go is seized"
    elif thin == "inner":
        cause = "the caliper does not slide: dry or seized slide pins"
        check = "move the caliper on its pins by hand; take the pins out, clean and grease them"
    else:
        cause = "the outer pad drags: stuck in its bracket, or the piston does not let go"
        check = "move the outer pad in its ears by hand; see that the piston goes back evenly"
    return Finding(rule="inner and outer", grave=False, text=text, cause=cause, check=check)


def axle_findings(left: CornerPads, right: CornerPads, limits: PadLimits, *, noisy: bool = False) -> list[Finding]:
    """What left against right and all four pads together say of an axle, as finding records; lengths in m."""
    found = []
    gap = abs(left.thinnest_m - right.thinnest_m)
    if gap >= max(WHEEL_M, WHEEL_SHARE * limits.new_m):
        side = "left" if left.thinnest_m < right.thinnest_m else "right"
        found.append(
            Finding(
                rule="left and right",
                grave=False,
                text=say.LEFT_AND_RIGHT(side=side, difference=gap),
                cause="that caliper drags, or the other does not press: a seized piston or a hose that holds pressure",
                check="after a few brakings compare the wheels with a pyrometer; a wheel that comes free when the "
                "bleed screw is opened points to the hose",
            )
        )
    readings = (*left.inner_m, *left.outer_m, *right.inner_m, *right.outer_m)
    if max(readings) <= limits.tab_m:
        found.append(Finding(rule="all thin", grave=True, text=say.ALL_THIN(), cause="worn out"))
    if noisy and min(readings) > max(limits.change_m, 0.5 * limits.new_m):
        found.append(
            Finding(
                rule="thick but noisy",
                grave=False,
                text=say.THICK_BUT_NOISY(),
                cause="dry ears, glazing or missing shims",
                check="clean the ears and pins, break the glaze, fit the shims",
            )
        )
    return found


# Runout a rotor may have, in m, by kind of vehicle (estimates: the manual's own figure counts): manuals of cars usually
# say 0.05 to 0.10 mm, of motorcycles 0.10 to 0.30 mm, whose floating discs and calipers give way to it.
MOST_RUNOUT_M = {"car": 0.00005, "truck": 0.00005, "motorcycle": 0.00015}


@dataclass(frozen=True, kw_only=True)
class RotorLimits(Checked):
    """New and discard thickness in m (cast in the hat), and the greatest variation and runout in m (`MOST_RUNOUT_M`).

    A ring may be under its discard thickness: that is a finding about the ring, not an error in the record.
    Stainless and carbon-ceramic discs are not machined.
    """

    new_m: float = number(gt=0, le=0.1)
    discard_m: float = number(gt=0, le=0.1)
    most_variation_m: float = number(0.000015, gt=0, le=0.001)
    most_runout_m: float = number(0.00005, gt=0, le=0.002)
    machinable: bool = True


@dataclass(frozen=True, kw_only=True)
class RotorSeen(Checked):
    """A rotor as it was found: points in m, over two washers of `washer_m` each, and its condition by pick.

    `crack` is its length in m, `crack_place` where it ends. Crazing is fine hairlines that go nowhere.
    """

    points_m: tuple[float, ...]
    washer_m: float = number(0.0, ge=0, le=0.02)
    runout_m: float | None = number(None, ge=0, le=0.01, optional=True)
    lip_m: float = number(0.0, ge=0, le=0.02)
    scoring_m: float = number(0.0, ge=0, le=0.01)
    rust: str = choice("none", "film", "pitted", default="none")
    heat_spots: bool = False
    glazed: bool = False
    crazed: bool = False
    crack_m: float = number(0.0, ge=0, le=0.5)
    crack_place: str = choice("face", "edge", "hole", default="face")
    chamfer_lost: bool = False

    def check(self) -> None:
        if not self.points_m:
            raise FieldError("points_m", (), "at least one point")
        for index, point in enumerate(self.points_m):
            if not 0 < point <= 0.15 or point <= 2.0 * self.washer_m:
                raise FieldError(f"points_m[{index}]", point, "a reading in m greater than both washers")

    @property
    def thickness_m(self) -> tuple[float, ...]:
        """Each point in m with both washers taken off."""
        return tuple(point - 2.0 * self.washer_m for point in self.points_m)

    @property
    def least_m(self) -> float:
        """The thinnest point in m."""
        return min(self.thickness_m)

    @property
    def variation_m(self) -> float:
        """Thickest less thinnest in m."""
        return max(self.thickness_m) - self.least_m


@dataclass(frozen=True, kw_only=True)
class RotorVerdict:
    """What to do with a rotor, by which rule, why; what a cut would leave, in m, and whether that is enough."""

    verdict: str
    rule: str
    reason: Said
    after_cut_m: float | None
    watch: tuple[Said, ...] = ()


def rotor_verdict(seen: RotorSeen, limits: RotorLimits, planned_wear_m: float, school: str) -> RotorVerdict:
    """Keep, clean and keep, machine or replace, by a school, as a record.

    Planned wear (m, of one pad set) counts for keeping too: `t_min - planned >= t_discard`. A cut takes the damage off
    both faces: `t_after = t_min - 2 (d + finish)`, d the deepest of scoring, half the variation and half the runout; it
    is worth it only where `t_after >= t_discard + planned`. Raises FieldError for an unknown school.
    """
    if school not in SCHOOLS:
        raise FieldError("school", school, "one of " + ", ".join(SCHOOLS))
    watch = (say.CRAZING(),) if seen.crazed else ()
    at_once = _at_once(seen, limits)
    if at_once is not None:
        return RotorVerdict(verdict="replace", rule=at_once[0], reason=at_once[1], after_cut_m=None, watch=watch)
    if seen.least_m - planned_wear_m < limits.discard_m - 1e-9:
        # Kept or cut, it would be under discard before the pads that go on it are worn.
        reason = say.WEARS_OUT(least=seen.least_m, planned=planned_wear_m, discard=limits.discard_m)
        return RotorVerdict(verdict="replace", rule="planned wear", reason=reason, after_cut_m=None, watch=watch)
    needs = _needs_cut(seen, limits)
    if not needs:
        cleanable = [
            words()
            for words, there in (
                (say.LIP, seen.lip_m >= LIP_M),
                (say.RUST_FILM, seen.rust == "film"),
                (say.GLAZING, seen.glazed),
            )
            if there
        ]
        if cleanable:
            return RotorVerdict(
                verdict="clean and keep",
                rule="surface",
                reason=say.CLEANABLE(found=cleanable),
                after_cut_m=None,
                watch=watch,
            )
        reason = say.SOUND(least=seen.least_m, left=seen.least_m - limits.discard_m)
        return RotorVerdict(verdict="keep", rule="sound", reason=reason, after_cut_m=None, watch=watch)
    deepest = max(seen.scoring_m, seen.variation_m / 2.0, (seen.runout_m or 0.0) / 2.0)
    after = seen.least_m - 2.0 * (deepest + FINISH_CUT_M)
    wanted = limits.discard_m + planned_wear_m
    if school == "always replace":
        return RotorVerdict(
            verdict="replace", rule="school", reason=say.NEVER_MACHINES(found=needs), after_cut_m=after, watch=watch
        )
    if not limits.machinable:
        return RotorVerdict(
            verdict="replace", rule="material", reason=say.NOT_MACHINABLE(found=needs), after_cut_m=None, watch=watch
        )
    verdict = "machine" if after >= wanted else "replace"
    reason = say.CUT(found=needs, after=after, wanted=wanted)
    return RotorVerdict(verdict=verdict, rule="cut", reason=reason, after_cut_m=after, watch=watch)


def under_discard(axle: str, thickness_m: float, discard_m: float, *, guessed: bool = False) -> Remark | None:
    """Say that the rotors of an axle are at or under their discard thickness (both in m), as a record; None if not.

    `guessed` says that nobody has read the discard thickness yet.
    """
    if thickness_m > discard_m:
        return None
    say_so = UNDER_GUESSED_DISCARD if guessed else UNDER_DISCARD
    text = say_so(axle=axle, thickness=thickness_m, discard=discard_m)
    return Remark(code=f"under_discard_{axle}", text=text)


def _at_once(seen: RotorSeen, limits: RotorLimits) -> tuple[str, Said] | None:
    if seen.least_m <= limits.discard_m:
        return "discard", say.AT_DISCARD(least=seen.least_m, discard=limits.discard_m)
    if seen.crack_m > 0 and seen.crack_place in ("edge", "hole"):
        end = "an edge" if seen.crack_place == "edge" else "a hole"
        return "crack", say.CRACK_REACHES(length=seen.crack_m, end=end)
    if seen.crack_m >= CRACK_M:
        return "crack", say.CRACK_LONG(length=seen.crack_m, limit=CRACK_M)
    if seen.chamfer_lost:
        return "chamfer", say.CHAMFER_GONE()
    return None


def too_uneven(seen: RotorSeen, limits: RotorLimits) -> bool:
    """Whether three points or more differ by more m than the rotor may vary and the gauge errs."""
    return len(seen.points_m) > 2 and seen.variation_m > limits.most_variation_m + GAUGE_RANGE_M


def _needs_cut(seen: RotorSeen, limits: RotorLimits) -> list[Said]:
    found = []
    if seen.scoring_m >= SCORING_M:
        found.append(say.SCORED(depth=seen.scoring_m))
    if too_uneven(seen, limits):
        found.append(say.UNEVEN(variation=seen.variation_m))
    if seen.runout_m is not None and seen.runout_m > limits.most_runout_m:
        found.append(say.RUNOUT(runout=seen.runout_m))
    if seen.rust == "pitted":
        found.append(say.PITTED())
    if seen.heat_spots:
        found.append(say.HEAT_SPOTS())
    return found
