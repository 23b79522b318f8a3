"""What an axle needs against what is in the boxes: to order, to swap between them, to send back (fit-and-job 3)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import kit as say
from thermaxis.core.planning.fit.caliper import Caliper
from thermaxis.core.said import Said, Sentence

SENSOR_STATES = ("whole", "cut")
MARKS = ("left", "right", "none")
VERDICTS = ("there", "look", "order", "swap", "send back", "stop")
GRAVE = ("stop", "swap", "send back", "order")
MOST = 40
FLUID, MOST_FLUID_M3 = "fluid_m3", 0.005


@dataclass(frozen=True, kw_only=True)
class Axle:
    """What of a machine's axle the boxes depend on.

    `wheels` is how many calipers it has (1 or 2), `retention` what holds the pads, `sensor` which corners have the
    electric wear sensor, `handed` what of the rotors is made for one side, `new_rotors` and `new_hoses` whether those
    go on too, `lost_m3` the fluid that bleeding takes.
    """

    caliper: Caliper
    wheels: int
    retention: str
    sensor: str
    handed: str
    new_rotors: bool
    new_hoses: bool
    fixing_screws: int
    piston_clips: bool
    lost_m3: float = 0.0

    @property
    def sides(self) -> tuple[str, ...]:
        """Its corners by name."""
        return ("left", "right") if self.wheels > 1 else ("left",)

    @property
    def sensor_sides(self) -> tuple[str, ...]:
        """The corners that have the electric sensor."""
        return tuple(side for side in self.sides if self.sensor in ("both", side))


@dataclass(frozen=True, kw_only=True)
class Line:
    """One item: how many are needed and there, the verdict and why; `check` how to settle it where it is not plain.

    `name` is what a count is entered under; empty where it is ticked by something else.
    """

    name: str
    label: str
    need: float
    have: float
    verdict: str
    text: Said
    check: str = ""

    @property
    def quantity(self) -> str:
        """What need and have are: a count, or a volume in m3."""
        return "fluidVolume" if self.name == FLUID else "count"


COUNTED = {
    "pads": "Pads",
    "tabs.left": "Pads with a wear tab, left wheel",
    "tabs.right": "Pads with a wear tab, right wheel",
    "clips": "Abutment clips, kit for an axle",
    "springs": "Retaining springs",
    "pins": "Pad pins",
    "guide_bolts": "Guide-pin bolts",
    "bracket_bolts": "Bracket or caliper bolts, used once",
    "piston_clips": "Pads with a clip for the piston",
    "shims": "Shims",
    "fixing_screws": "Fixing screws",
    "sensors": "Wear sensors",
    "washers": "Sealing washers for the hose",
    "grease": "Grease for pins",
    "threadlocker": "Threadlocker",
    FLUID: "Fluid",
}
WORDS = {
    "rotor.left": MARKS,
    "rotor.right": MARKS,
    "sensor.left": SENSOR_STATES,
    "sensor.right": SENSOR_STATES,
    "tab_side": ("inner", "outer"),
}
ITEMS = (*COUNTED, *WORDS)
VANES_CHECK = (
    "look at the vanes from the outside of the vehicle: from hub to edge they lean back from the direction of rotation"
)
FACE_CHECK = "the maker's label: slots do not pump, so only the maker can say"


def read_item(name: str, value: object) -> float | str:
    """A count or a word as it may stand in a box. FieldError for an unknown item or another value."""
    if name in WORDS:
        if value not in WORDS[name]:
            raise FieldError(f"items.{name}", value, "one of " + ", ".join(WORDS[name]))
        return str(value)
    if name not in COUNTED:
        raise FieldError("items", name, "one of " + ", ".join(ITEMS))
    fluid = name == FLUID
    most, kind = (MOST_FLUID_M3, "a number") if fluid else (float(MOST), "a whole number")
    good = isinstance(value, int | float) and not isinstance(value, bool) and 0 <= value <= most
    if not good or not (fluid or float(str(value)).is_integer()):
        raise FieldError(f"items.{name}", value, f"{kind} from 0 to {most:g}")
    return float(str(value))


def check_kit(axle: Axle, box: Mapping[str, float | str]) -> list[Line]:
    """What is there and what is not, as records, gravest first within the order of the items.

    `box` holds counts and words by the names of `ITEMS`; what nobody counted counts as 0.
    """
    lines = [_count(axle, box, "pads", 2.0 * axle.wheels)]
    lines += _tabs(axle, box)
    lines += _sensors(axle, box)
    if axle.new_rotors:
        lines += _rotors(axle, box)
    for name, need in _needed(axle).items():
        lines.append(_count(axle, box, name, need))
    return lines


def _needed(axle: Axle) -> dict[str, float]:
    """Counts by item: what the caliper's kind asks for."""
    caliper, wheels = axle.caliper, float(axle.wheels)
    need: dict[str, float] = {}
    if axle.piston_clips:
        need["piston_clips"] = wheels
    if caliper.opposed:
        if axle.retention != "bolted":
            need["pins"] = (2.0 if caliper.pistons > 2 else 1.0) * wheels
            need["springs"] = wheels
        if axle.new_rotors:
            need["bracket_bolts"] = 2.0 * wheels
    else:
        need |= {"clips": 1.0, "guide_bolts": 2.0 * wheels, "springs": wheels, "grease": 1.0}
        if axle.new_rotors:
            need |= {"bracket_bolts": 2.0 * wheels, "threadlocker": 1.0}
    if axle.new_rotors and axle.fixing_screws:
        need["fixing_screws"] = float(axle.fixing_screws) * wheels
    if axle.new_hoses:
        need["washers"] = 2.0 * wheels
    if axle.lost_m3 > 0:
        need[FLUID] = axle.lost_m3
    return need


# Why each is wanted new, in a few words.
WHY: dict[str, Sentence] = {
    "pads": say.BOTH_SIDES,
    "clips": say.CLIPS,
    "springs": say.SPRINGS,
    "pins": say.PINS,
    "guide_bolts": say.PATCHED,
    "bracket_bolts": say.ONCE,
    "piston_clips": say.PISTON_CLIPS,
    "fixing_screws": say.SCREWS,
    "grease": say.GREASE,
    "threadlocker": say.LOCKER,
    "washers": say.WASHERS,
    FLUID: say.FLUID,
}


def _count(axle: Axle, box: Mapping[str, float | str], name: str, need: float) -> Line:
    have = float(box.get(name, 0.0))
    verdict = "there" if have >= need else "order"
    return Line(name=name, label=COUNTED[name], need=need, have=have, verdict=verdict, text=WHY[name]())


def _tabs(axle: Axle, box: Mapping[str, float | str]) -> list[Line]:
    """Packs come with none, two or four pads that squeal when worn; of two, one goes to each wheel."""
    counts = {side: float(box.get(f"tabs.{side}", 0.0)) for side in axle.sides}
    total = sum(counts.values())
    side = str(box.get("tab_side", "inner"))
    found = []
    for wheel in axle.sides:
        have, need, verdict = counts[wheel], 0.0 if total == 0 else 1.0, "there"
        text = say.TAB_ONE(side=side)
        if total == 0:
            text = say.NO_TABS_SENSOR() if axle.sensor_sides else say.NO_TABS()
            verdict = "there" if axle.sensor_sides else "look"
        elif have == 0:
            verdict, text = "swap" if total >= axle.wheels else "order", say.TAB_MISSING(wheel=wheel)
        elif have > 2:
            verdict, text = "swap", say.TABS_TOO_MANY(wheel=wheel)
        elif have == 2 and total < 2 * axle.wheels:
            verdict, text = "swap", say.TABS_ON_ONE_WHEEL(wheel=wheel)
        elif have == 2:
            need, text = 2.0, say.TABS_ALL()
        found.append(
            Line(name=f"tabs.{wheel}", label=COUNTED[f"tabs.{wheel}"], need=need, have=have, verdict=verdict, text=text)
        )
    return found


def _sensors(axle: Axle, box: Mapping[str, float | str]) -> list[Line]:
    """An electric sensor works once: one that was cut in is ordered new, and corners have their own."""
    if not axle.sensor_sides:
        return []
    cut = [side for side in axle.sensor_sides if box.get(f"sensor.{side}") == "cut"]
    unseen = [side for side in axle.sensor_sides if f"sensor.{side}" not in box]
    have = float(box.get("sensors", 0.0))
    if have < len(cut):
        verdict, text = "order", say.SENSOR_CUT(corners=" and ".join(cut))
    elif unseen:
        verdict, text = "look", say.SENSOR_UNSEEN(corners=" and ".join(unseen))
    else:
        verdict, text = "there", say.SENSOR_NEW() if cut else say.SENSOR_WHOLE()
    return [
        Line(
            name="sensors",
            label=COUNTED["sensors"],
            need=float(len(cut)),
            have=have,
            verdict=verdict,
            text=text,
            check="pull the lead off and look at its end: worn through or bright wire is cut",
        )
    ]


def _rotors(axle: Axle, box: Mapping[str, float | str]) -> list[Line]:
    """A left rotor on the right: vanes that lean forward pump nothing, and only the maker knows handed slots."""
    if axle.handed == "none":
        return []
    vanes = axle.handed == "vanes"
    found = []
    for side in axle.sides:
        mark = str(box.get(f"rotor.{side}", ""))
        wrong = mark in ("left", "right") and mark != side
        if wrong:
            verdict = "stop"
            text = (say.WRONG_VANES if vanes else say.WRONG_FACE)(side=side, mark=mark)
        elif mark == side:
            verdict, text = "there", (say.VANES_BACK if vanes else say.FACE_RIGHT)()
        else:
            verdict, text = "look", say.NOT_LOOKED(side=side)
        found.append(
            Line(
                name=f"rotor.{side}",
                label=f"Rotor for the {side}",
                need=1.0,
                have=1.0 if mark == side else 0.0,
                verdict=verdict,
                text=text,
                check=VANES_CHECK if vanes else FACE_CHECK,
            )
        )
    if len(found) == 2 and all(line.verdict == "stop" for line in found):
        found = [replace(line, verdict="swap", text=say.SWAPPED()) for line in found]
    elif len(found) == 2 and {line.verdict for line in found} == {"stop", "there"}:
        how = "lean" if vanes else "are cut"
        found = [
            replace(line, text=say.TWO_ALIKE(side=line.name.rpartition(".")[2], vanes=how))
            if line.verdict == "stop"
            else line
            for line in found
        ]
    return found


def sums(lines: list[Line]) -> dict[str, list[str]]:
    """What to order, to swap and to send back, by verdict, as labels; and what stops the work, as records' labels."""
    return {verdict: [line.label for line in lines if line.verdict == verdict] for verdict in GRAVE}
