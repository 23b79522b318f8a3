"""What was really driven: an event logged counts as its own duty, the rest as what a part is on for."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable

from django.db.models import prefetch_related_objects

from thermaxis.apps.catalogue.mapping import wear_of_rotor_m
from thermaxis.apps.fitted.bedded import results_of
from thermaxis.apps.fitted.models import PadMounting, PadSet, RotorPair
from thermaxis.apps.fitted.parts import Parts, pads_on
from thermaxis.apps.fitted.standing import Standing, standing_or_none
from thermaxis.apps.fitted.wearing import Drive, Past
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.garage.shapes import Plan, UsualWeek
from thermaxis.apps.season.models import Event
from thermaxis.apps.solving.mapping import CaseBuilder, pad_record
from thermaxis.apps.solving.solver import solve
from thermaxis.core.planning.life.rings import ring_wear_m
from thermaxis.core.records import Case
from thermaxis.core.results import Result

# By road to an event and back: a fifth of town, half country, the rest motorway (estimate).
ROAD_KM = 100.0
ROAD_PLAN = Plan(
    shape=UsualWeek(town_km=0.2 * ROAD_KM, rural_km=0.5 * ROAD_KM, motorway_km=0.3 * ROAD_KM, days=1), event_km=ROAD_KM
)
# What one event of a duty takes of a ring of an axle: machine, duty (0: the road), axle.
PerEvent = Callable[[Machine, int, str], float]
Solved = tuple[Result, duties.DutyFacts]


class Driving:
    """What duties do to the parts of a machine, each solved once; `known` is what is solved by machine and duty."""

    def __init__(self, standing: Standing, known: dict[tuple[int, int], Solved] | None = None) -> None:
        self.standing = standing
        self.known = dict(known or {})
        self._solved: dict[tuple[int, int, str, int], Solved] = {}
        self._events: dict[int, list[Event]] = {}
        self._facts: dict[tuple[int, int], duties.DutyFacts] = {}

    def events(self, machine_id: int) -> list[Event]:
        """What a machine was driven at, in order."""
        if machine_id not in self._events:
            self._events[machine_id] = list(Event.objects.driven().filter(machine_id=machine_id).select_related("duty"))
        return self._events[machine_id]

    def solved(self, machine: Machine, duty_id: int, axle: str, pads: PadSet) -> Solved:
        """A duty as a machine drives it as it stands now, with these pads on this axle.

        What else was on it then is not known to the engine any more; where that machine has nothing on it, this one
        drives. Duty 0 is the road.
        """
        on_it = machine.pk == self.standing.machine.pk and self.standing.pads(axle).pk == pads.pk
        if on_it and (machine.pk, duty_id) in self.known:
            return self.known[machine.pk, duty_id]
        key = (machine.pk, duty_id, "" if on_it else axle, 0 if on_it else pads.pk)
        if key not in self._solved:
            there = self.standing if machine.pk == self.standing.machine.pk else standing_or_none(machine)
            there = there or self.standing
            facts, parts = self.facts(there.machine, duty_id), there.parts
            if not on_it:
                prefetch_related_objects([pads], "pad__mu_points", "pad__own_mu")
                parts = parts.with_pads(axle, pads_on(pads))
            self._solved[key] = (solve([CaseBuilder(there, facts.duty, facts.conditions).case(parts)])[0], facts)
        return self._solved[key]

    def facts(self, machine: Machine, duty_id: int) -> duties.DutyFacts:
        """A duty by its number as a machine drives it; 0 is the road."""
        key = (machine.pk, duty_id)
        if key in self.known:
            return self.known[key][1]
        if key not in self._facts:
            if duty_id == 0:
                self._facts[key] = duties.facts_of(machine, ROAD_PLAN)
            else:
                duty = Duty.objects.select_related("circuit", "run").get(pk=duty_id)
                self._facts[key] = duties.duty_facts(machine, duty)
        return self._facts[key]

    def case(self, duty_id: int, parts: Parts, air_C: float | None = None) -> Case:
        """The machine with these parts on a duty, in air of another temperature where that is known."""
        facts = self.facts(self.standing.machine, duty_id)
        conditions = facts.conditions if air_C is None else dataclasses.replace(facts.conditions, air_C=air_C)
        return CaseBuilder(self.standing, facts.duty, conditions).case(parts)


def past_of(standing: Standing, pads: PadSet, driving: Driving) -> Past:
    """What a pad set has done: each mounting on the duty it was for, each event on its own."""
    rows = list(pads.mountings.select_related("machine").order_by("pk"))
    per_km, event_km, drives = {}, {}, []
    for row in rows:
        result, facts = driving.solved(row.machine, row.duty_id, row.axle, pads)
        per_km[row.pk] = getattr(result, row.axle).pad_wear_m / facts.event_km
        event_km[row.pk] = facts.event_km
    for row in {row.machine_id: row for row in rows}.values():

        def wear(duty_id: int, row: PadMounting = row) -> float:
            return float(getattr(driving.solved(row.machine, duty_id, row.axle, pads)[0], row.axle).pad_wear_m)

        for event in driving.events(row.machine_id):
            if getattr(event, f"driven_{row.axle}_id") == pads.pk:
                drives.append(_drive(event, wear(event.duty_id), wear(0) if event.road_km > 0 else 0.0))
            else:
                drives.append(_drive(event))
    return Past(mountings=rows, per_km=per_km, event_km=event_km, drives=drives, bedded=results_of(pads))


def _drive(event: Event, wear_m: float = 0.0, road_m: float = 0.0) -> Drive:
    """An event as a thing's past has it; nothing is worn off where the thing was not on."""
    sessions = event.driven_sessions or 0.0
    return Drive(
        machine_id=event.machine_id,
        km=event.driven_km or 0.0,
        total_km=sessions * event.duty.event_km + event.road_km,
        duty_id=event.duty_id,
        wear_m=sessions * wear_m,
        events=max(1.0, sessions),
        road_m=event.road_km / ROAD_KM * road_m,
    )


def ring_past_of(pair: RotorPair, driving: Driving, per_event: PerEvent) -> Past:
    """What a pair of rotors has done, in whatever `per_event` gives.

    What ran on them before is not told apart: they are worn by the compound that runs on them now.
    """
    rows = list(pair.mountings.select_related("machine").order_by("pk"))
    per_km, event_km, drives = {}, {}, []
    for row in rows:
        facts = driving.facts(row.machine, row.duty_id)
        event_km[row.pk] = facts.event_km
        per_km[row.pk] = per_event(row.machine, row.duty_id, row.axle) / facts.event_km
    for row in {row.machine_id: row for row in rows}.values():
        for event in driving.events(row.machine_id):
            if getattr(event, f"driven_{row.axle}_rotors_id") == pair.pk:
                road = per_event(row.machine, 0, row.axle) if event.road_km > 0 else 0.0
                drives.append(_drive(event, per_event(row.machine, event.duty_id, row.axle), road))
            else:
                drives.append(_drive(event))
    return Past(mountings=rows, per_km=per_km, event_km=event_km, drives=drives)


def ring_m(pads: PadSet, result: Result, axle: str) -> float:
    """Thickness in m that one event takes off a ring of an axle under these pads."""
    part = pads_on(pads)
    return ring_wear_m(wear_of_rotor_m(part.pad), getattr(result, axle).friction_energy_J, pad_record(part))
