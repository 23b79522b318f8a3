"""A job's sheet from rows: what is on the machine, what goes on, who ticked what; nothing here writes."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from django.utils import timezone

from thermaxis.apps.fitted.bedded import film_under
from thermaxis.apps.fitted.parts import ON, Parts, pads_on
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.job.models import FastenerSpec, Job, JobTick
from thermaxis.apps.solving.checking import AxleCheck, check_of, handed, retention_of
from thermaxis.apps.solving.fitting import Fitter
from thermaxis.core.planning.fit.caliper import caliper_of
from thermaxis.core.planning.job.bleeding import STROKE_M, Bleeding, Corner, bleeding, line_length_m, order_of
from thermaxis.core.planning.job.fasteners import Fastener, kinds_of
from thermaxis.core.planning.job.library import Task
from thermaxis.core.planning.job.sheet import Sheet, build_sheet
from thermaxis.core.planning.job.ticking import State, Tick

# Works in which parts go on, those that open a line, and those in which pistons go home.
PUTS_ON = ("pads", "pads_rotors", "swap")
OPENS = ("caliper", "hose", "flush")
FASTENER = (
    "drive",
    "size_m",
    "counter_hold_m",
    "thread",
    "torque_Nm",
    "words",
    "source",
    "page",
    "treatment",
    "single_use",
    "left_hand",
)
# Pistons stand out by about half of what wear lets them, where nobody has measured (estimate).
OUT_M = 0.008
# Other pads go on, the rings stay.
STAY = ("pads", "swap")
# The pistons are being driven home.
HOMING = "homing"


@dataclass(frozen=True, kw_only=True)
class Worked:
    """A job with its sheet, how far it is, its parts checked by Fit and its bleeding, where a line is opened."""

    job: Job
    fitter: Fitter
    sheet: Sheet
    state: State
    check: AxleCheck
    parts: Parts
    bleeding: Bleeding | None

    @property
    def standing(self) -> Standing:
        """What is on the machine."""
        return self.fitter.standing


def worked(job: Job) -> Worked:
    """A job as it is now."""
    machine = job.machine
    standing = standing_of(machine)
    found = check_of(standing, _key(job, standing))
    check = found.axles[job.axle]
    film = film_under(standing, job.axle, found.parts.pads(job.axle).pad) if job.work in STAY else None
    task = task_of(found.fitter, check, job.axle, job.work, film=film is not None and not film.same)
    return Worked(
        job=job,
        fitter=found.fitter,
        sheet=build_sheet(task),
        state=State(
            ticks=ticks_of(job),
            service=service_of(job),
            fasteners=fasteners_of(machine, job.axle),
            stops=_stops(check) if job.work in PUTS_ON else {},
            unseen=_unseen(check) if job.work in PUTS_ON else (),
        ),
        check=check,
        parts=found.parts,
        bleeding=bleeding_of(found.fitter, task) if job.work in OPENS else None,
    )


def _key(job: Job, standing: Standing) -> str:
    """The set a job ends with: what goes on, beside it what stays; a set of the shelf counts as thick as new."""
    parts = standing.parts
    if job.pad_set is None:
        return job.key or parts.key
    return parts.with_pads(job.axle, pads_on(job.pad_set)).key


def service_of(job: Job) -> str:
    """How far the service tool has got: pistons that are on their way are home once their time is over."""
    if job.service != HOMING:
        return job.service
    assert job.service_since is not None
    home = job.service_since + dt.timedelta(seconds=job.service_s or 0.0) <= timezone.now()
    return "home" if home else "released"


def ticks_of(job: Job) -> dict[str, Tick]:
    """What was said of each step."""
    return {row.key: tick_of(row) for row in job.ticks.all()}


def tick_of(row: JobTick) -> Tick:
    """What a row says of its step."""
    return Tick(done=row.done, words=row.words, torque_Nm=row.torque_Nm, rechecked=row.rechecked_at is not None)


def task_of(fitter: Fitter, check: AxleCheck, place: str, work: str, *, film: bool = False) -> Task:
    """What the steps of a job depend on; `film`: another family ran on the rings that stay."""
    machine, axle = fitter.machine, fitter.axles[place]
    parts = check.parts
    pads, rotors = parts.pads(place), parts.rotors(place)
    rotor = rotors.rotor
    new = work == "pads_rotors" and rotor is not None
    variant = fitter.variant(pads)
    tabs = sum(float(check.box.get(f"tabs.{side}", 0.0)) for side in ("left", "right"))
    side = handed(rotors) if rotors.key != ON else "none"
    return Task(
        work=work,
        axle=place,
        kind=machine.kind,
        caliper=fitter.caliper(place),
        corners=axle.sides,
        retention=retention_of(fitter, place),
        line="pipe" if axle.line == "pipe" else "hose",
        sensor_sides=check.needs.sensor_sides,
        rotor_screw=new and check.needs.fixing_screws > 0,
        jacking=bool(new and rotor is not None and rotor.jacking_thread),
        directional=new and side == "vanes",
        handed=new and side != "none",
        two_piece=rotors.two_piece,
        oiled=bool(new and rotor is not None and rotor.coating == "oiled"),
        tabs=tabs > 0,
        piston_clips=variant.piston_clips if variant else False,
        shims=bool(variant and (variant.shim_m or variant.kit.get("shims"))),
        film=film,
        push=check.push.school,
        bleed_order=bleed_order_of(machine, place, work) if work in OPENS else (),
    )


def bleed_order_of(machine: Machine, place: str, work: str) -> tuple[str, ...]:
    """The corners that are bled, in order: those whose line is opened, all of them where the fluid is changed."""
    corners = []
    for axle in machine.axles.all():
        if work == "flush" or axle.position == place:
            corners += [f"{axle.position}_{side}".rstrip("_") for side in axle.sides]
    return order_of(
        corners,
        said=machine.bleed_order,
        driver_right=machine.driver_side != "left",
        motorcycle=machine.kind == "motorcycle",
    )


def bleeding_of(fitter: Fitter, task: Task) -> Bleeding:
    """Strokes, refills and the fluid to buy for the corners that are bled."""
    machine = fitter.machine
    axles = [fitter.axles[name.partition("_")[0]] for name in task.bleed_order]
    corners = []
    for name, axle in zip(task.bleed_order, axles, strict=True):
        corners.append(
            Corner(
                name=name,
                line_m=line_length_m(name, machine.wheelbase_m, driver_right=machine.driver_side != "left"),
                piston_area_m2=axle.piston_area_m2 * caliper_of(axle.caliper_kind).sides,
                out_m=OUT_M,
            )
        )
    return bleeding(
        corners,
        master_bore_m=machine.master_bore_m,
        stroke_m=STROKE_M[machine.kind],
        # Of a motorcycle's two the smaller one, which is empty first.
        reservoir_m3=min(fitter.reservoir(axle.position).marks_m3 for axle in axles),
    )


def fasteners_of(machine: Machine, place: str) -> dict[str, Fastener]:
    """The fasteners of an axle that somebody wrote down, by kind."""
    return {row.kind: fastener_of(row) for row in machine.fasteners.all() if row.axle == place}


def fastener_of(row: FastenerSpec) -> Fastener:
    """A row as the core takes it."""
    return Fastener(kind=row.kind, **{name: getattr(row, name) for name in FASTENER})


def table_of(machine: Machine, axle: Axle) -> list[Fastener]:
    """Every kind of fastener an axle has, as written down, empty where nobody has."""
    known = fasteners_of(machine, axle.position)
    opposed = caliper_of(axle.caliper_kind).opposed
    return [known.get(kind.kind) or Fastener(kind=kind.kind) for kind in kinds_of(machine.kind, opposed)]


def _stops(check: AxleCheck) -> dict[str, str]:
    """What Fit stops, in words, by the corner it is about; "" for the whole axle."""
    found: dict[str, str] = {}
    for line in check.lines:
        rotor = line.name.startswith("rotor.")
        if line.verdict == "stop" or (rotor and line.verdict == "swap"):
            found[line.name.partition(".")[2] if rotor else ""] = line.label.lower()
    # What is in there went in once, whatever its numbers say.
    if check.room.verdict == "does not fit" and not check.is_on:
        found[""] = "the parts are too thick for the caliper"
    return found


def _unseen(check: AxleCheck) -> tuple[str, ...]:
    """Corners whose ring is made for one side and nobody has looked at which."""
    return tuple(
        line.name.partition(".")[2] for line in check.lines if line.name.startswith("rotor.") and line.verdict == "look"
    )
