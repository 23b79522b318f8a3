"""Answers about a machine that is not (yet) so: balance while typing, two set-ups side by side, what estimates move."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import dataclass

from thermaxis.apps.fitted.standing import FLUID_AGE, standing_of
from thermaxis.apps.garage import mapping as garage
from thermaxis.apps.garage.mapping import ROOM_PATHS, rooms_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving import in_force
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.solver import solve
from thermaxis.core.errors import FieldError
from thermaxis.core.physics import balance
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.chain import Chain, chain
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.machine import upgrade
from thermaxis.core.planning.machine.classes import spread_of
from thermaxis.core.planning.verdict import readings
from thermaxis.core.records import Case, Statics
from thermaxis.core.results import Remark, Result, StaticsResult

Changes = Mapping[str, float | None]


# A trailer belongs to no class: how far its numbers may be off (estimate).
TRAILER_SPREAD = 0.2


@dataclass(frozen=True, kw_only=True)
class Balance:
    """What the pedal gives, link by link, and which axle locks first: dry, wet and with the duty's hottest pads."""

    statics: StaticsResult
    chain: Chain
    lock: balance.LockUp
    wet: balance.LockUp
    hot: balance.LockUp | None
    curve: tuple[balance.BalancePoint, ...]
    hot_curve: tuple[balance.BalancePoint, ...]
    hot_front_C: float | None
    hot_rear_C: float | None
    warnings: tuple[Remark, ...]
    front_load_N: float
    rear_load_N: float
    slowed_N: float
    push_N: float


def balance_of(
    machine: Machine,
    pedal_force_N: float,
    rotor_C: float,
    changes: dict[str, float | None],
    state: in_force.InForce | None,
) -> Balance:
    """Torque and balance of the machine with unsaved `changes` on it; `state` says how hot its duty makes the pads."""
    garage.apply_changes(machine, {path: value for path, value in changes.items() if path != FLUID_AGE})
    standing = standing_of(machine)
    # Statics do not depend on the duty; the shortest one keeps the case complete.
    case = CaseBuilder(standing, in_force.SHORTEST).case(standing.parts)
    answer = balance.statics(case, Statics(pedal_force_N=pedal_force_N, rotor_C=rotor_C))
    front, rear = balance.axle_loads(case, answer.decel_g)
    peaks = (state.result.front.peak_surface_C, state.result.rear.peak_surface_C) if state else None
    faded = upgrade.as_hot(case, *peaks) if peaks else None
    return Balance(
        statics=answer,
        chain=chain(case, pedal_force_N),
        lock=balance.lock_up(case, rotor_C),
        wet=balance.lock_up(upgrade.wet(case), rotor_C),
        hot=balance.lock_up(faded, rotor_C) if faded else None,
        curve=balance.balance_curve(case, rotor_C),
        hot_curve=balance.balance_curve(faded, rotor_C) if faded else (),
        hot_front_C=peaks[0] if peaks else None,
        hot_rear_C=peaks[1] if peaks else None,
        warnings=(*standing.worn_out(), *upgrade.balance_warnings(case, rotor_C, *(peaks or (None, None)))),
        front_load_N=front,
        rear_load_N=rear,
        slowed_N=balance.pushed_weight(case),
        push_N=answer.decel_g * (balance.pushed_weight(case) - case.vehicle.mass_kg * GRAVITY),
    )


@dataclass(frozen=True, kw_only=True)
class Compared:
    """Two set-ups of a machine on its duty."""

    before: upgrade.SetupFigures
    after: upgrade.SetupFigures
    before_result: Result
    after_result: Result
    before_pedal_left: float
    after_pedal_left: float
    remarks: tuple[Remark, ...]


def compare(state: in_force.InForce, changes: Changes, pedal_force_N: float, rotor_C: float) -> Compared:
    """The machine as it stands beside itself with changed numbers, rotor and pad sizes among them. FieldError for one
    that cannot be. The speed trace stays that of the machine as it stands.
    """
    case = state.setup.case
    other = upgrade.changed(case, {path: value for path, value in changes.items() if path not in ROOM_PATHS})
    before, now = (
        upgrade.setup_figures(entry, pedal_force_N, rotor_C, *rooms_of(state.machine, room))
        for entry, room in ((case, {}), (other, changes))
    )
    after = solve([other])[0]
    setups = [dataclasses.replace(state.setup, case=entry) for entry in (case, other)]
    return Compared(
        before=before,
        after=now,
        before_result=state.result,
        after_result=after,
        before_pedal_left=readings.pedal_left(setups[0], state.result),
        after_pedal_left=readings.pedal_left(setups[1], after),
        remarks=tuple(upgrade.differences(before, now, case.vehicle.rider_front_share is not None)),
    )


@dataclass(frozen=True, kw_only=True)
class Move:
    """How far readings move when one estimate is as low or as high as it may well be."""

    field: str
    low: float
    high: float
    rotor_K: tuple[float, float]
    pedal_N: tuple[float, float]
    fluid_K: tuple[float, float]


def moves(state: in_force.InForce, watch: Watch | None = None) -> list[Move]:
    """Every estimate of the machine at both ends of its class's spread, all else equal, on the real engine; the one
    that moves the hottest rotor most comes first. The speed trace stays as it is.
    """
    tried: list[tuple[str, float, float, Case, Case]] = []
    for path in state.machine.estimates:
        spread = TRAILER_SPREAD if path.startswith("trailer.") else spread_of(path)
        ends = _ends(state.setup.case, path, spread) if spread else None
        if ends is not None:
            tried.append((path, *ends))
    results = solve([case for entry in tried for case in entry[3:]], watch)
    base = _three(state.setup, state.result)
    found = []
    for index, (path, low, high, *cases) in enumerate(tried):
        ends_of = [
            _three(dataclasses.replace(state.setup, case=case), results[2 * index + i]) for i, case in enumerate(cases)
        ]
        rotor, pedal, fluid = ((ends_of[0][i] - base[i], ends_of[1][i] - base[i]) for i in range(3))
        found.append(Move(field=path, low=low, high=high, rotor_K=rotor, pedal_N=pedal, fluid_K=fluid))
    return sorted(found, key=lambda move: -max(map(abs, move.rotor_K)))


def _ends(case: Case, path: str, spread: float) -> tuple[float, float, Case, Case] | None:
    """Both ends of an estimate and the cases with them; None for what is no part of a case or cannot move."""
    value = _value(case, path)
    if not value:
        return None
    low, lower = _moved(case, path, value, 1.0 - spread)
    high, higher = _moved(case, path, value, 1.0 + spread)
    return low, high, lower, higher


def _moved(case: Case, path: str, value: float, factor: float) -> tuple[float, Case]:
    """The case with one number scaled; where that is not allowed (an efficiency above 1) it stays where it is."""
    try:
        return value * factor, upgrade.changed(case, {path: value * factor})
    except FieldError:
        return value, case


def _value(case: Case, path: str) -> float | None:
    found: object = case
    for name in path.split("."):
        found = getattr(found, name, None)
    return float(found) if isinstance(found, int | float) else None


def _three(setup: readings.Setup, result: Result) -> tuple[float, float, float]:
    return (
        readings.hottest_ring(setup, result).value,
        readings.pedal_left(setup, result),
        readings.fluid_margin(setup, result),
    )
