"""The steps of every job: which there are, when each applies, and why one does not (fit-and-job 5)."""

from __future__ import annotations

import functools
from dataclasses import dataclass

from thermaxis.core.messages import job as say
from thermaxis.core.planning.fit.caliper import Caliper
from thermaxis.core.said import Said
from thermaxis.core.tables import rows_of

WORKS = {
    "pads": "P",
    "pads_rotors": "R",
    "clean": "C",
    "swap": "S",
    "caliper": "K",
    "hose": "H",
    "flush": "F",
    "parking": "B",
    "heat_check": "T",
}
WORK_LABELS = {
    "pads": "Pads",
    "pads_rotors": "Pads and rotors",
    "clean": "Clean, grease, refit",
    "swap": "Swap of a set at the venue",
    "caliper": "Caliper replaced",
    "hose": "Hose replaced",
    "flush": "Fluid flushed",
    "parking": "Parking brake adjusted",
    "heat_check": "Heat check after the first drive",
}
SCOPES = ("before", "corner", "corner_left", "axle", "bleed", "close", "note")
GATES = ("", "kit", "service_released", "service_home", "service_learned", "drive")
# What a condition says in words, where it is not met.
TAG_WORDS = {
    "sliding": "sliding calipers",
    "opposed": "opposed calipers",
    "motorcycle": "motorcycles",
    "front": "the front",
    "rear": "the rear",
    "lever": "pistons that are turned in",
    "electric": "an electric parking brake",
    "drum": "a parking brake inside the hat",
    "pins": "pads held by pins",
    "bolted": "pads held by a bolted bridge",
    "line_hose": "a hose at the caliper",
    "line_pipe": "a hard line at the caliper",
    "sensor": "an electric wear sensor",
    "sensor_here": "a corner with the wear sensor",
    "rotors": "new rotors",
    "rotor_screw": "rings with a fixing screw",
    "jacking": "rings with jacking holes",
    "directional": "rings made for one side by their vanes",
    "handed": "rings made for one side",
    "two_piece": "rings in two pieces",
    "oiled": "rings that come oiled",
    "tabs": "pads with a wear tab",
    "piston_clips": "pads with a clip for the piston",
    "shims": "pads with shims",
    "film": "rings with another compound's film",
    "watch": "pushing back with the cap off",
    "draw_off": "drawing fluid off first",
    "bleed_screw": "pushing back with the bleed screw open",
    "two_sides": "two wheels on the axle",
}


@dataclass(frozen=True, kw_only=True)
class LibraryStep:
    """A step as the library has it: one line, when it applies, what it takes and what closes it.

    `after` are the steps it waits for, `when` its conditions (all of them; "!" before one that must not hold),
    `tighten`: its fastener is torqued; `blocks`: nothing is closed without it; `gate`: what else it waits for.
    """

    id: str
    works: str
    when: tuple[str, ...]
    scope: str
    after: tuple[str, ...]
    fastener: str
    tighten: bool
    minutes: float
    blocks: bool
    gate: str
    caution: str
    school: str
    tool: str
    uses: str
    check: str
    text: str
    source: str


@functools.cache
def library() -> tuple[LibraryStep, ...]:
    """Every step there is, in the order of the file, as records."""
    return tuple(
        LibraryStep(
            id=row["id"],
            works=row["works"],
            when=_parts(row["when"]),
            scope=row["scope"],
            after=_parts(row["after"]),
            fastener=row["fastener"],
            tighten=row["tighten"] == "y",
            minutes=float(row["minutes"]),
            blocks=row["blocks"] == "y",
            gate=row["gate"],
            caution=row["caution"],
            school=row["school"],
            tool=row["tool"],
            uses=row["uses"],
            check=row["check"],
            text=row["text"],
            source=row["source"],
        )
        for row in rows_of("job_steps")
    )


def _parts(text: str) -> tuple[str, ...]:
    return tuple(part for part in text.split(",") if part)


# What of the parts a step can depend on.
OF_PARTS = (
    *("rotor_screw", "jacking", "directional", "handed", "two_piece", "oiled"),
    *("tabs", "piston_clips", "shims", "film"),
)


@dataclass(frozen=True, kw_only=True)
class Task:
    """A job: the work, on which axle of which kind of machine, and what of its parts the steps depend on.

    `corners` are the sides of the axle ("" where it has one disc), `sensor_sides` those with the electric sensor,
    `push` how fluid is kept from running over, `bleed_order` the corners that are bled, in order.
    """

    work: str
    axle: str
    kind: str
    caliper: Caliper
    corners: tuple[str, ...]
    retention: str = "bracket"
    line: str = "hose"
    sensor_sides: tuple[str, ...] = ()
    rotor_screw: bool = False
    jacking: bool = False
    directional: bool = False
    handed: bool = False
    two_piece: bool = False
    oiled: bool = False
    tabs: bool = False
    piston_clips: bool = False
    shims: bool = False
    film: bool = False
    push: str = "watch"
    bleed_order: tuple[str, ...] = ()

    @property
    def tags(self) -> frozenset[str]:
        """What holds of the whole job."""
        caliper = self.caliper
        found = {
            "opposed" if caliper.opposed else "sliding",
            self.axle,
            f"line_{self.line}",
            self.push.replace(" ", "_"),
            *(name for name in OF_PARTS if getattr(self, name)),
        }
        if self.kind == "motorcycle":
            found.add("motorcycle")
        if caliper.opposed:
            found.add(self.retention)
        if self.axle == "rear" and caliper.parking != "none":
            found.add(caliper.parking)
        if self.sensor_sides:
            found.add("sensor")
        if self.work == "pads_rotors":
            found.add("rotors")
        if len(self.corners) > 1:
            found.add("two_sides")
        return frozenset(found)

    def here(self, corner: str) -> frozenset[str]:
        """What holds at one corner."""
        sensor = corner in self.sensor_sides or (corner == "" and bool(self.sensor_sides))
        return self.tags | ({"sensor_here"} if sensor else frozenset())


def applies(step: LibraryStep, task: Task, corner: str | None = None) -> bool:
    """Whether a step belongs to a job, at a corner where it is one of a corner."""
    return why_not(step, task, corner) is None


def why_not(step: LibraryStep, task: Task, corner: str | None = None) -> Said | None:
    """Why a step does not belong to a job, in words; None where it does."""
    if WORKS[task.work] not in step.works:
        return say.OTHER_WORK(work=WORK_LABELS[task.work].lower())
    tags = task.tags if corner is None else task.here(corner)
    for condition in step.when:
        wanted, tag = not condition.startswith("!"), condition.lstrip("!")
        if (tag in tags) != wanted:
            return (say.ONLY_FOR if wanted else say.NOT_FOR)(what=TAG_WORDS[tag])
    return None
