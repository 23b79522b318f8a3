"""Machines with their things to cases, and what is on the shelf of the catalogue to candidates."""

from __future__ import annotations

import dataclasses

from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.fitted.fluids import boiling_C
from thermaxis.apps.fitted.models import Calibration, PadSize
from thermaxis.apps.fitted.parts import PadPart, Parts, RotorPart
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage import mapping as garage
from thermaxis.core import records
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.life.intervals import change_limit_m
from thermaxis.core.planning.verdict.readings import Setup


class CaseBuilder:
    """Builds cases of one machine on one duty; what parts do not change is translated once.

    The machine's calibration is in every case, unless `calibrated` is False: a new fit starts from the bare model.
    """

    def __init__(
        self,
        standing: Standing,
        duty: records.Duty,
        conditions: garage.Conditions = garage.AS_IT_STANDS,
        *,
        calibrated: bool = True,
    ) -> None:
        machine = standing.machine
        self.machine = machine
        self.on_it = standing.parts
        self.fits = axle_fits(standing.calibration if calibrated else None)
        self.axles = {axle.position: axle for axle in machine.axles.all()}
        self.vehicle = garage.vehicle_record(machine, conditions)
        self.hydraulics = garage.hydraulics_record(machine)
        self.trailer = garage.trailer_record(machine, conditions)
        self.environment = garage.environment_record(machine, conditions)
        self.duct_factor = conditions.duct_factor
        self.duty = duty
        self.boiling_C = boiling_C(standing.fill, standing.fluid_months, self.environment.pressure_Pa)
        self._pads: dict[PadPart, records.Pad] = {}

    def case(self, parts: Parts) -> records.Case:
        """The machine with these parts on."""
        return records.Case(
            name=self.machine.name,
            vehicle=self.vehicle,
            hydraulics=self.hydraulics,
            trailer=self.trailer,
            environment=self.environment,
            duty=self.duty,
            front=self._axle("front", parts.front_pad, parts.front_rotor),
            rear=self._axle("rear", parts.rear_pad, parts.rear_rotor),
        )

    def setup(self, parts: Parts) -> Setup:
        """The case with what its parts and fluid bear."""
        return Setup(
            case=self.case(parts),
            front_limits=catalogue.compound_limits(parts.front_pad.pad),
            rear_limits=catalogue.compound_limits(parts.rear_pad.pad),
            boiling_C=self.boiling_C,
        )

    def candidate(self, parts: Parts, use: str, currency: str) -> Candidate:
        """The set as the choice sees it; pads change at the default school's limit for the use."""
        setup = self.setup(parts)
        rooms = {
            position: garage.room_of(axle).left(getattr(setup.case, position)) for position, axle in self.axles.items()
        }
        school = garage.school_of(self.machine, use)
        return Candidate(
            key=parts.key,
            pad=parts.front_pad.pad.name,
            rear_pad=parts.rear_pad.pad.name,
            front_rotor=parts.front_rotor.name,
            rear_rotor=parts.rear_rotor.name,
            setup=setup,
            currency=currency,
            noise=max(parts.front_pad.pad.noise, parts.rear_pad.pad.noise),
            dust=max(parts.front_pad.pad.dust, parts.rear_pad.pad.dust),
            rotor_wear_m=max(
                catalogue.wear_of_rotor_m(parts.front_pad.pad), catalogue.wear_of_rotor_m(parts.rear_pad.pad)
            ),
            front_pads_price=parts.front_pad.price,
            rear_pads_price=parts.rear_pad.price,
            rotors_price=sum(self._to_buy(axle, parts.rotors(axle)) for axle in ("front", "rear")),
            front_change_m=change_m(school, self.machine.kind, parts.front_pad),
            rear_change_m=change_m(school, self.machine.kind, parts.rear_pad),
            front_room_m=rooms["front"],
            rear_room_m=rooms["rear"],
            front_discard_m=parts.front_rotor.size.discard_thickness_m,
            rear_discard_m=parts.rear_rotor.size.discard_thickness_m,
        )

    def _to_buy(self, position: str, rotors: RotorPart) -> float:
        """What the rotors of an axle cost: nothing where they are on it already and not at their end."""
        on_it = self.on_it.rotors(position)
        size = on_it.size
        if on_it.key == rotors.key and size.thickness_m > (size.discard_thickness_m or 0.0):
            return 0.0
        return self.axles[position].rotors * rotors.price

    def _axle(self, position: str, pads: PadPart, rotors: RotorPart) -> records.Axle:
        if pads not in self._pads:
            self._pads[pads] = pad_record(pads)
        axle = garage.axle_record(self.axles[position], catalogue.rotor_record(rotors.size), self._pads[pads])
        fit = self.fits.get(position)
        cooling = self.duct_factor * (fit.cooling if fit else 1.0)
        if fit is None and cooling == 1.0:
            return axle
        backing = axle.backing_conductance_W_per_K * (fit.backing if fit else 1.0)
        with garage.under(position):
            return dataclasses.replace(
                axle, cooling_factor=axle.cooling_factor * cooling, backing_conductance_W_per_K=backing
            )


def axle_fits(row: Calibration | None) -> dict[str, AxleFit]:
    """The fits of a stored calibration by axle; none where there is no calibration."""
    kept = {"front": row.front, "rear": row.rear} if row else {}
    return {axle: AxleFit(**fit) for axle, fit in kept.items() if fit is not None}


def pad_record(pads: PadPart) -> records.Pad:
    """Pads as the core takes them."""
    return catalogue.pad_record(pads.pad, area_m2=pads.area_m2, thickness_m=pads.thickness_m, backing_m=pads.backing_m)


def change_m(school: str, kind: str, size: PadPart | PadSize) -> float:
    """Friction material left at change, in m, by a school."""
    return change_limit_m(school, kind, size.thickness_m, size.backing_m)


def with_what_if(case: records.Case, cooling_factor: float, air_C: float | None) -> records.Case:
    """The case with its cooling factors multiplied and, if given, another air temperature."""
    air = case.environment.air_C if air_C is None else air_C
    return dataclasses.replace(
        case,
        front=dataclasses.replace(case.front, cooling_factor=case.front.cooling_factor * cooling_factor),
        rear=dataclasses.replace(case.rear, cooling_factor=case.rear.cooling_factor * cooling_factor),
        environment=dataclasses.replace(case.environment, air_C=air),
    )
