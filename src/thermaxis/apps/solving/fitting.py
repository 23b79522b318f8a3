"""Whether parts go into a machine's calipers: rows to the core's stacks; nothing here writes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from thermaxis.apps.catalogue.models import PadVariant, PartMeasure, Rotor
from thermaxis.apps.fitted.parts import ON, PadPart, Parts, RotorPart, as_bought, rotors_on
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.garage.models import Axle
from thermaxis.apps.solving.mapping import change_m
from thermaxis.core.planning.fit.caliper import Caliper, caliper_of
from thermaxis.core.planning.fit.measures import PAD, ROTOR, usual
from thermaxis.core.planning.fit.pushback import BRIM_SHARE, Reservoir
from thermaxis.core.planning.fit.stack import (
    CLEARANCE_M,
    HOLD_M,
    Length,
    Opening,
    Room,
    Stack,
    StackPad,
    length,
    room,
    was_in_there,
)

# A piston nobody has measured is as long as those of its class, within a tenth.
DEPTH_SPREAD = 0.1
# Between the marks, where neither machine nor class says it.
RESERVOIR_M3 = 80e-6


class Fitter:
    """Stacks of one machine; what the workshop measured of parts at hand goes before what their numbers say."""

    def __init__(self, standing: Standing) -> None:
        self.standing = standing
        self.machine = standing.machine
        self.axles = {axle.position: axle for axle in self.machine.axles.all()}
        self.variants = {
            (row.pad_id, row.shape): row
            for row in PadVariant.objects.filter(
                pad__workshop=self.machine.workshop, shape__in=[axle.pad_shape for axle in self.axles.values()]
            )
        }
        self._rotors: dict[int, dict[str, float]] = {}
        self._pads: dict[int, dict[str, float]] = {}
        for row in PartMeasure.objects.of(self.machine.workshop).there():
            if row.rotor_id is not None:
                self._rotors.setdefault(row.rotor_id, {})[row.name] = row.value
            elif row.variant_id is not None:
                self._pads.setdefault(row.variant_id, {})[row.name] = row.value
        use = self.machine.duty.use if self.machine.duty else ""
        self.school = school_of(self.machine, use)
        self._found: dict[tuple[str, PadPart, RotorPart], Room | None] = {}

    def caliper(self, place: str) -> Caliper:
        """The axle's caliper, by its kind."""
        return caliper_of(self.axles[place].caliper_kind)

    def variant(self, pads: PadPart) -> PadVariant | None:
        """The catalogue's row of pads, where they have one."""
        return self.variants.get((pads.pad.pk, pads.shape))

    def measured_pad(self, pads: PadPart) -> Mapping[str, float]:
        """What was measured of such pads at hand, by the core's names."""
        variant = self.variant(pads)
        return self._pads.get(variant.pk, {}) if variant else {}

    def measured_rotor(self, rotors: RotorPart) -> Mapping[str, float]:
        """What was measured of such rotors at hand, by the core's names."""
        return self._rotors.get(rotors.rotor.pk, {}) if rotors.rotor and rotors.key != ON else {}

    def number(self, axle: Axle, name: str) -> tuple[float | None, bool]:
        """A measure of a caliper, and whether it is only its class's."""
        value = getattr(axle, name)
        if value is not None:
            return value, False
        return usual(axle.position, name, self.machine.vehicle_class, self.machine.kind), True

    def of_caliper(self, place: str, name: str) -> Length | None:
        """A measure of a caliper or its hub that somebody took."""
        value = getattr(self.axles[place], name)
        return None if value is None else length(value, "measured")

    def holder(self, place: str) -> Axle:
        """The axle its reservoir is kept with: a car has one, a motorcycle one for each brake."""
        return self.axles[place if self.machine.kind == "motorcycle" else "front"]

    def reservoir(self, place: str) -> Reservoir:
        """The reservoir an axle's fluid comes from, as the core takes it."""
        holder = self.holder(place)
        marks, guessed = self.number(holder, "reservoir_m3")
        level = holder.reservoir_level
        return Reservoir(
            marks_m3=marks or RESERVOIR_M3,
            level=None if level is None else min(level, 1.0 + BRIM_SHARE),
            estimated=guessed,
        )

    def rotor_lengths(self, rotors: RotorPart) -> dict[str, Length | None]:
        """Every measure of rotors by the core's names: measured, or as the catalogue states it."""
        row = rotors.rotor
        bought = rotors.key != ON and row is not None
        thick = stated_thickness(row) if bought and row else length(rotors.size.thickness_m, "measured")
        found = _lengths(ROTOR, row, self.measured_rotor(rotors), {"thickness_m": thick})
        if found["diameter_m"] is None:
            # The swept band ends at the edge, or a little before it.
            found["diameter_m"] = length(2.0 * rotors.size.outer_radius_m, "estimate")
        return found

    def pad_lengths(self, pads: PadPart) -> dict[str, Length | None]:
        """Every measure of pads by the core's names."""
        row = self.variant(pads)
        spread = row.thickness_spread_m if row else None
        own = {name: length(getattr(pads, name), pads.provenance, spread) for name in ("thickness_m", "backing_m")}
        return _lengths(PAD, row, self.measured_pad(pads), own)

    def pad(self, pads: PadPart) -> StackPad:
        """One pad of a set as the core stacks it."""
        known = self.pad_lengths(pads)
        friction, backing, shim = (known[name] for name in ("thickness_m", "backing_m", "shim_m"))
        assert friction is not None
        assert backing is not None
        change = change_m(self.school, self.machine.kind, pads)
        return StackPad(
            friction=friction,
            backing_m=backing.value_m,
            shim_m=shim.value_m if shim else 0.0,
            change_m=min(change, friction.value_m),
        )

    def opening(self, place: str) -> Opening:
        """The caliper's opening as measured; else at least what was in it when new."""
        measured = self.of_caliper(place, "opening_m")
        if measured is not None:
            return Opening(at=measured)
        pair, pads = self.standing.rotors(place), self.pad(self.standing.parts.pads(place))
        thick = pair.size.thickness_m
        if pair.rotor is not None and as_bought(pair):
            thick = max(thick, pair.rotor.thickness_m)
        clearance, _ = self.number(self.axles[place], "running_clearance_m")
        return was_in_there(thick, pads, pads, CLEARANCE_M if clearance is None else clearance)

    def stack(self, place: str, pads: PadPart, rotors: RotorPart) -> Stack:
        """What would stand in one caliper of an axle."""
        axle = self.axles[place]
        one = self.pad(pads)
        depth, guessed = self.number(axle, "piston_depth_m")
        hold, _ = self.number(axle, "seal_hold_m")
        clearance, _ = self.number(axle, "running_clearance_m")
        rotor = self.rotor_lengths(rotors)["thickness_m"]
        assert rotor is not None
        return Stack(
            opening=self.opening(place),
            rotor=rotor,
            discard_m=min(rotors.size.discard_thickness_m, rotor.value_m),
            inner=one,
            outer=one,
            sides=self.caliper(place).sides,
            clearance_m=CLEARANCE_M if clearance is None else clearance,
            depth=None if depth is None else length(depth, "estimate", DEPTH_SPREAD * depth if guessed else None),
            hold_m=HOLD_M if hold is None else hold,
        )

    def room(self, place: str, parts: Parts) -> Room | None:
        """What is left in a caliper with these parts; None where they are what is in it."""
        pads, rotors = parts.pads(place), parts.rotors(place)
        key = (place, pads, rotors)
        if key not in self._found:
            self._found[key] = None if self.is_on(place, parts) else room(self.stack(place, pads, rotors))
        return self._found[key]

    def is_on(self, place: str, parts: Parts) -> bool:
        """Whether an axle keeps what is on it: such pads on such rotors went in once."""
        on_it = self.standing
        same_rotors = parts.rotors(place).key == rotors_on(on_it.rotors(place)).key
        return same_rotors and parts.pads(place).pad.pk == on_it.pads(place).pad_id


def stated_thickness(row: Rotor) -> Length:
    """How thick a rotor is by its number, with the spread its maker states, else the usual."""
    return length(row.thickness_m, row.provenance, row.thickness_spread_m)


def _lengths(
    names: Iterable[str], row: Rotor | PadVariant | None, measured: Mapping[str, float], own: Mapping[str, Length]
) -> dict[str, Length | None]:
    """Lengths by name: as measured, else the part's own, else as its row in the catalogue states it."""
    found: dict[str, Length | None] = {}
    for name in names:
        if name in measured:
            found[name] = length(measured[name], "measured")
        elif name in own:
            found[name] = own[name]
        else:
            stated = None if row is None else getattr(row, name)
            found[name] = None if stated is None or row is None else length(stated, row.provenance)
    return found
