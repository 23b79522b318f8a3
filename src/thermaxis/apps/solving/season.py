"""Events ahead as the engine sees them: what each asks of pads, rings and fluid."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass

from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.fitted.parts import AXLES, Parts, pads_on
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Duty
from thermaxis.apps.season.models import Event
from thermaxis.apps.solving.driven import ROAD_KM, ring_m
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.limits import FluidCurve, fluid_curve
from thermaxis.apps.solving.solver import damages, solve
from thermaxis.core.constants import DAYS_A_MONTH
from thermaxis.core.physics.fluid import altitude_drop

MOST_SHOWN = 24
# Where nothing is planned: so many events at the usual pace.
USUAL = 6


@dataclass(frozen=True, kw_only=True)
class Ahead:
    """An event ahead: planned, or (no row) one at the usual pace."""

    name: str
    on: dt.date
    duty: Duty
    sessions: float
    road_km: float
    air_C: float | None
    row: Event | None

    def pads(self, state: InForce, axle: str) -> PadSet:
        """The set it is driven on."""
        chosen = getattr(self.row, f"{axle}_pads") if self.row else None
        return chosen or state.standing.pads(axle)


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What an event takes, by axle: of pads and rings in m, of the rings' life to cracks; how hot the fluid gets.

    `road_m` and `road_rings_m` are what the road there and back takes.
    """

    event: Ahead
    pads: dict[str, PadSet]
    pads_m: dict[str, float]
    road_m: dict[str, float]
    rings_m: dict[str, float]
    road_rings_m: dict[str, float]
    damage: dict[str, float]
    fluid: FluidCurve
    air_C: float
    drop_K: float


def events_ahead(state: InForce, air_C: tuple[int, float] | None = None) -> list[Ahead]:
    """What is planned from today on, the soonest first; where nothing is, events of its duty at the usual pace.

    `air_C` tries another air on the event of a number.
    """
    today = state.standing.day
    rows = (
        Event.objects.planned()
        .filter(machine=state.machine, on__gte=today)
        .select_related("duty__circuit", "duty__run", "front_pads__pad", "front_pads__size", "rear_pads__pad")
        .select_related("rear_pads__size", "fluid")
        .prefetch_related(*(f"{axle}_pads__pad__{of}" for axle in AXLES for of in ("mu_points", "own_mu")))[:MOST_SHOWN]
    )
    found = [
        Ahead(
            name=row.name,
            on=row.on,
            duty=row.duty,
            sessions=row.sessions,
            road_km=row.road_km,
            air_C=air_C[1] if air_C and air_C[0] == row.pk else row.air_C,
            row=row,
        )
        for row in rows
    ]
    if found:
        return found
    duty = duty_or_error(state.machine)
    gap = DAYS_A_MONTH / max(0.05, duty.events_per_month)
    return [
        Ahead(
            name=duty.name,
            on=today + dt.timedelta(days=round(gap * (i + 1))),
            duty=duty,
            sessions=1.0,
            road_km=0.0,
            air_C=None,
            row=None,
        )
        for i in range(USUAL)
    ]


def asked_of(state: InForce, events: list[Ahead]) -> list[Asked]:
    """What each event asks; the same duty on the same sets is solved once."""
    return [_asked(state, event) for event in events]


def parts_of(state: InForce, pads: Mapping[str, PadSet]) -> Parts:
    """What is on the machine, with these pads."""
    parts = state.standing.parts
    for axle in AXLES:
        parts = parts.with_pads(axle, pads_on(pads[axle]))
    return parts


def _asked(state: InForce, event: Ahead) -> Asked:
    driving = state.driving
    pads = {axle: event.pads(state, axle) for axle in AXLES}
    parts = parts_of(state, pads)
    case = driving.case(event.duty.pk, parts, event.air_C)
    # Wear is computed in the duty's own air, as the past was.
    plain = case if event.air_C is None else driving.case(event.duty.pk, parts)
    result = solve([plain])[0]
    broken = damages([plain])[0]
    road = solve([driving.case(0, parts)])[0] if event.road_km > 0 else None
    share = event.road_km / ROAD_KM
    return Asked(
        event=event,
        pads=pads,
        pads_m={axle: event.sessions * getattr(result, axle).pad_wear_m for axle in AXLES},
        road_m={axle: share * getattr(road, axle).pad_wear_m if road else 0.0 for axle in AXLES},
        rings_m={axle: event.sessions * ring_m(pads[axle], result, axle) for axle in AXLES},
        road_rings_m={axle: share * ring_m(pads[axle], road, axle) if road else 0.0 for axle in AXLES},
        damage={axle: event.sessions * getattr(broken, axle) for axle in AXLES},
        fluid=fluid_curve(case, {axle: pads[axle].size.thickness_m for axle in AXLES}),
        air_C=case.environment.air_C,
        drop_K=altitude_drop(case.environment.pressure_Pa),
    )
