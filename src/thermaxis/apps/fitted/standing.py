"""A machine as it stands: which things are on it today."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import Calibration, FluidFill, PadMounting, PadSet, RotorMounting, RotorPair
from thermaxis.apps.fitted.parts import AXLES, DISCARD, Parts, pads_on, rotors_on
from thermaxis.apps.garage import mapping as garage
from thermaxis.apps.garage import querysets
from thermaxis.apps.garage.models import Machine
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.planning.choice.figures import pads_name
from thermaxis.core.planning.inspection.wheel import under_discard
from thermaxis.core.results import Remark

FLUID_AGE = "fluid.fluid_age_months"
OLDEST_FLUID_MONTHS = 600.0


@dataclass(frozen=True, kw_only=True)
class OnAxle:
    """What is on one axle, and since when."""

    pads: PadMounting
    rotors: RotorMounting


@dataclass(frozen=True, kw_only=True)
class Standing:
    """A machine with what is on it on a day."""

    machine: Machine
    axles: Mapping[str, OnAxle]
    fill: FluidFill
    day: dt.date

    def pads(self, axle: str) -> PadSet:
        """The pad set on an axle."""
        return self.axles[axle].pads.pad_set

    def rotors(self, axle: str) -> RotorPair:
        """The rotors on an axle."""
        return self.axles[axle].rotors.rotor_pair

    @property
    def parts(self) -> Parts:
        """What is on it, as a choice of parts."""
        return Parts(
            front_pad=pads_on(self.pads("front")),
            rear_pad=pads_on(self.pads("rear")),
            front_rotor=rotors_on(self.rotors("front")),
            rear_rotor=rotors_on(self.rotors("rear")),
        )

    @property
    def name(self) -> str:
        """The set in a few words."""
        return f"{pads_name(str(self.pads('front')), str(self.pads('rear')))} on {self.rotors('front')}"

    @cached_property
    def calibration(self) -> Calibration | None:
        """The calibration in force, asked for once."""
        return Calibration.objects.there().filter(machine=self.machine).first()

    @property
    def fluid_months(self) -> float:
        """How old the fluid is."""
        return self.fill.months_on(self.day)

    @property
    def since_on(self) -> dt.date:
        """The day the last of it was put on."""
        return max(mounting.from_on for axle in self.axles.values() for mounting in (axle.pads, axle.rotors))

    @property
    def since_km(self) -> float:
        """The odometer when the last of it was put on."""
        return max(mounting.from_km for axle in self.axles.values() for mounting in (axle.pads, axle.rotors))

    def numbers(self) -> dict[str, float | None]:
        """Every editable number of the machine by its path, the fluid's age among them."""
        found = {path: getattr(row, column) for path, (row, column) in garage.paths(self.machine).items()}
        return found | {FLUID_AGE: self.fluid_months}

    def worn_out(self) -> tuple[Remark, ...]:
        """Rotors that are at or under their discard thickness."""
        found = []
        for axle in AXLES:
            size = self.rotors(axle).size
            guessed = f"{axle}.rotor.{DISCARD}" in self.machine.estimates
            found.append(under_discard(axle, size.thickness_m, size.discard_thickness_m, guessed=guessed))
        return tuple(remark for remark in found if remark is not None)


def standing_or_none(machine: Machine) -> Standing | None:
    """The machine as it stands today; None where something is not on it."""
    pads = _by_axle(
        PadMounting.objects.filter(machine=machine, until_on=None)
        .select_related("pad_set__pad", "pad_set__size", "begun_by")
        .prefetch_related("pad_set__pad__mu_points", "pad_set__pad__own_mu", "pad_set__bedding_results")
    )
    rotors = _by_axle(
        RotorMounting.objects.filter(machine=machine, until_on=None).select_related(
            "rotor_pair__size", "rotor_pair__rotor"
        )
    )
    fills = FluidFill.objects.filter(machine=machine, until_on=None).select_related("fluid")
    fill = fills.prefetch_related("readings").first()
    if fill is None or not all(axle in pads and axle in rotors for axle in AXLES):
        return None
    axles = {axle: OnAxle(pads=pads[axle], rotors=rotors[axle]) for axle in AXLES}
    return Standing(machine=machine, axles=axles, fill=fill, day=timezone.localdate())


def standing_of(machine: Machine) -> Standing:
    """The machine as it stands today. SolveError where pads, rotors or fluid are missing."""
    found = standing_or_none(machine)
    if found is None:
        raise SolveError("Fit a set first: nothing can be computed without pads, rotors and fluid.")
    return found


def machine_of(scope: Scope, machine_id: int) -> Machine:
    """A machine of the workshop. Raises NotThere."""
    return scope.one(querysets.machines(scope.workshop), machine_id)


def check_fluid_age(months: float | None) -> float:
    """How old fluid may be said to be. FieldError."""
    if months is None or not 0 <= months <= OLDEST_FLUID_MONTHS:
        raise FieldError.outside(FLUID_AGE, months, Bounds(least=0, most=OLDEST_FLUID_MONTHS))
    return months


def _by_axle(rows: Any) -> dict[str, Any]:
    return {row.axle: row for row in rows}
