"""Fitted sets and candidates to core records, and results to what the API sends."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage import mapping as garage
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.models import Calibration
from thermaxis.core import records
from thermaxis.core.planning.choice.choose import Candidate
from thermaxis.core.planning.duty.calibrate import AxleFit, Evidence, Logged, Paint, Pyrometer
from thermaxis.core.planning.life.intervals import change_limit_mm, default_school
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.formats.temperature_log import read_log


@dataclass(frozen=True, kw_only=True)
class Parts:
    """The parts of one set: pads in their shapes and rotors, by axle."""

    front_pad: PadVariant
    rear_pad: PadVariant
    front_rotor: Rotor
    rear_rotor: Rotor

    @property
    def key(self) -> str:
        """Identity of the set: what the page sends back to fit it."""
        return f"{self.front_pad.pk}-{self.rear_pad.pk}-{self.front_rotor.pk}-{self.rear_rotor.pk}"


class CaseBuilder:
    """Builds cases of one machine on one duty; what parts do not change is translated once.

    The machine's calibration is in every case, unless `calibrated` is False: a new fit starts from the bare model.
    """

    def __init__(
        self, machine: Machine, duty: records.Duty, conditions: garage.Conditions = garage.AS_IT_STANDS, *,
        calibrated: bool = True,
    ) -> None:  # fmt: skip
        self.machine = machine
        row = machine.calibrations.filter(removed_at=None).first() if calibrated else None
        self.fits = axle_fits(row)
        self.axles = {axle.position: axle for axle in machine.axles.all()}
        self.vehicle = garage.vehicle_record(machine, conditions)
        self.hydraulics = garage.hydraulics_record(machine)
        self.trailer = garage.trailer_record(machine, conditions)
        self.environment = garage.environment_record(machine, conditions)
        self.duct_factor = conditions.duct_factor
        self.duty = duty
        self.boiling_C = catalogue.boiling_C(machine.fluid, machine.fluid_age_months)
        self._pads: dict[int, records.Pad] = {}

    def case(self, parts: Parts) -> records.Case:
        """The machine with these parts on."""
        return records.Case(
            name=self.machine.name, vehicle=self.vehicle, hydraulics=self.hydraulics, trailer=self.trailer,
            environment=self.environment, duty=self.duty,
            front=self._axle("front", parts.front_pad, parts.front_rotor),
            rear=self._axle("rear", parts.rear_pad, parts.rear_rotor),
        )  # fmt: skip

    def setup(self, parts: Parts) -> Setup:
        """The case with what its parts and fluid bear."""
        return Setup(
            case=self.case(parts), front_limits=catalogue.compound_limits(parts.front_pad.pad),
            rear_limits=catalogue.compound_limits(parts.rear_pad.pad), boiling_C=self.boiling_C,
        )  # fmt: skip

    def candidate(self, parts: Parts, use: str, currency: str) -> Candidate:
        """The set as the choice sees it; pads change at the default school's limit for the use."""
        setup = self.setup(parts)
        rooms = {
            position: garage.room_of(axle).left(getattr(setup.case, position)) for position, axle in self.axles.items()
        }
        school = default_school(use, self.machine.kind)
        return Candidate(
            key=parts.key, pad=parts.front_pad.pad.name, rear_pad=parts.rear_pad.pad.name,
            front_rotor=parts.front_rotor.name, rear_rotor=parts.rear_rotor.name, setup=setup, currency=currency,
            noise=max(parts.front_pad.pad.noise, parts.rear_pad.pad.noise),
            dust=max(parts.front_pad.pad.dust, parts.rear_pad.pad.dust),
            rotor_wear_m=max(
                catalogue.wear_of_rotor_m(parts.front_pad.pad), catalogue.wear_of_rotor_m(parts.rear_pad.pad)
            ),
            pads_price=parts.front_pad.price + parts.rear_pad.price,
            rotors_price=self.axles["front"].rotors * parts.front_rotor.price
            + self.axles["rear"].rotors * parts.rear_rotor.price,
            front_change_mm=change_mm(school, self.machine.kind, parts.front_pad),
            rear_change_mm=change_mm(school, self.machine.kind, parts.rear_pad),
            front_room_m=rooms["front"], rear_room_m=rooms["rear"],
            front_discard_m=parts.front_rotor.discard_thickness_m, rear_discard_m=parts.rear_rotor.discard_thickness_m,
        )  # fmt: skip

    def _axle(self, position: str, variant: PadVariant, rotor: Rotor) -> records.Axle:
        if variant.pk not in self._pads:
            self._pads[variant.pk] = catalogue.pad_record(variant)
        axle = garage.axle_record(self.axles[position], catalogue.rotor_record(rotor), self._pads[variant.pk])
        fit = self.fits.get(position)
        cooling = self.duct_factor * (fit.cooling if fit else 1.0)
        if fit is None and cooling == 1.0:
            return axle
        with garage.under(position):
            return dataclasses.replace(
                axle, cooling_factor=axle.cooling_factor * cooling, pad_heat_factor=fit.pad_heat if fit else 1.0
            )


def axle_fits(row: Calibration | None) -> dict[str, AxleFit]:
    """The fits of a stored calibration by axle; none where there is no calibration."""
    kept = {"front": row.front, "rear": row.rear} if row else {}
    return {axle: AxleFit(**fit) for axle, fit in kept.items() if fit is not None}


def evidence_record(entry: dict[str, Any]) -> Evidence:
    """One piece of evidence from its plain form: `kind` and the fields of that kind; a log comes as CSV text."""
    fields = {name: value for name, value in entry.items() if name != "kind"}
    if entry["kind"] == "logged":
        fields["t_s"], fields["value_C"] = read_log(fields.pop("csv"))
        return Logged(**fields)
    return Paint(**fields) if entry["kind"] == "paint" else Pyrometer(**fields)


def change_mm(school: str, kind: str, variant: PadVariant) -> float:
    """Friction material left at change, in mm, by a school."""
    return change_limit_mm(school, kind, variant.thickness_m * 1e3, variant.backing_m * 1e3)


def with_what_if(case: records.Case, cooling_factor: float, air_C: float | None) -> records.Case:
    """The case with its cooling factors multiplied and, if given, another air temperature."""
    air = case.environment.air_C if air_C is None else air_C
    return dataclasses.replace(
        case,
        front=dataclasses.replace(case.front, cooling_factor=case.front.cooling_factor * cooling_factor),
        rear=dataclasses.replace(case.rear, cooling_factor=case.rear.cooling_factor * cooling_factor),
        environment=dataclasses.replace(case.environment, air_C=air),
    )
