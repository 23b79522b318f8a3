"""Change numbers and words of a machine, the parts its mass is made of, or whether it is kept."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db.models import prefetch_related_objects
from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.garage.mapping import REGEN, TRAILER, apply_changes, check
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.machine.classes import MassPart, class_named, loaded

TEXTS = {"name": 120, "note": 240, "front.caliper_kind": 24, "rear.caliper_kind": 24}
# What a trailer is until someone says otherwise: a loaded two-axle trailer with overrun brakes (estimate).
USUAL_TRAILER = {"trailer_mass_kg": 1000.0, "trailer_brake_share": 0.6, "trailer_nose_load_N": 700.0}
USUAL_REGEN = {"regen_max_power_W": 60e3, "regen_max_decel_mps2": 2.0, "regen_fade_out_mps": 3.0}


def change_machine(machine: Machine, changes: dict[str, float | None], left_open: Sequence[str] = ()) -> Machine:
    """Check and save changed numbers by their paths; all or none. FieldError names the one that is not allowed.

    Numbers left open become the estimates of the machine's class.
    """
    with change():
        _as_it_is_now(machine)
        for row in apply_changes(machine, changes, left_open):
            row.save()
    return machine


def change_words(machine: Machine, words: Mapping[str, str]) -> Machine:
    """Check and save words by their paths: names, owner, class, fluid, driven wheels, trailer and regen on or off."""
    with change():
        _as_it_is_now(machine)
        axles = {axle.position: axle for axle in machine.axles.all()}
        for path, word in words.items():
            _set_word(machine, axles, path, word.strip())
        check(machine)
        machine.owner.save()
        machine.save()
        for axle in axles.values():
            axle.save()
    return machine


def fill(machine: Machine, fluid_id: int, age_months: float) -> Machine:
    """Say which fluid of the workshop's catalogue is in from now on, and how old it is. FieldError for another's."""
    with change():
        _as_it_is_now(machine)
        fluid = Fluid.objects.of(machine.workshop).filter(pk=fluid_id).first()
        if fluid is None:
            raise FieldError("fluid_id", fluid_id, "a fluid of the catalogue")
        machine.fluid, machine.fluid_age_months = fluid, age_months
        machine.estimates = [path for path in machine.estimates if path != "fluid.fluid_age_months"]
        check(machine)
        machine.save()
    return machine


def _as_it_is_now(machine: Machine) -> None:
    """Read the machine again inside the transaction, which waits for any other that writes.

    Two boxes left quickly are two requests at once; each began from what it had read, and the later one would write the
    earlier one's change away.
    """
    machine.refresh_from_db()
    # Fetched once: what is changed on an axle has to be what is checked.
    prefetch_related_objects([machine], "axles")


def _set_word(machine: Machine, axles: Mapping[str, object], path: str, word: str) -> None:
    if path in TEXTS:
        if len(word) > TEXTS[path] or (not word and path != "note"):
            raise FieldError(path, word, f"1 to {TEXTS[path]} characters")
        position, _, name = path.rpartition(".")
        setattr(axles[position] if position else machine, name, word)
    elif path == "owner":
        if not 1 <= len(word) <= 120:
            raise FieldError(path, word, "1 to 120 characters")
        machine.owner = owner_named(machine, word)
    elif path == "fluid":
        machine.fluid = _fluid(machine, word)
    elif path == "vehicle_class":
        if class_named(word).kind != machine.kind:
            raise FieldError(path, word, f"a class of the same kind of vehicle, {machine.kind}")
        machine.vehicle_class = word
    elif path == "driven":
        machine.driven = word
    elif path == "trailer":
        _hitch(machine, _yes(path, word))
    elif path == "regen":
        if word not in ("", "front", "rear"):
            raise FieldError(path, word, "front, rear or nothing")
        if word and not machine.regen_max_power_W:
            _usual(machine, USUAL_REGEN, [f"regen.{name}" for name in REGEN])
        machine.regen_axle = word
    else:
        raise FieldError(path, word, "one of name, note, owner, vehicle_class, fluid, driven, trailer, regen")


def owner_named(machine: Machine, name: str) -> Owner:
    """The owner of this name in the machine's workshop; a new one is not saved yet."""
    found = Owner.objects.of(machine.workshop).filter(name=name).first()
    return found or Owner(workshop=machine.workshop, name=name)


def _fluid(machine: Machine, name: str) -> Fluid:
    found = Fluid.objects.of(machine.workshop).filter(name=name).first()
    if found is None:
        names = Fluid.objects.of(machine.workshop).values_list("name", flat=True)
        raise FieldError("fluid", name, "one of " + ", ".join(names))
    return found


def _yes(path: str, word: str) -> bool:
    if word not in ("yes", "no"):
        raise FieldError(path, word, "yes or no")
    return word == "yes"


def _hitch(machine: Machine, towing: bool) -> None:
    """On or off the hook; the numbers of a trailer that is off stay for the next time."""
    if towing and machine.trailer_mass_kg is None:
        _usual(machine, USUAL_TRAILER, [f"trailer.{name}" for name in TRAILER])
    machine.towing = towing


def _usual(machine: Machine, values: Mapping[str, float], paths: Sequence[str]) -> None:
    for column, value in values.items():
        setattr(machine, column, value)
    machine.estimates = [*machine.estimates, *(path for path in paths if path not in machine.estimates)]


def set_masses(machine: Machine, parts: Sequence[MassPart]) -> Machine:
    """Put the mass together from its parts: mass, split and, where every height is known, CG height follow."""
    names = {
        "mass_kg": "vehicle.mass_kg",
        "front_fraction": "vehicle.front_fraction",
        "cg_height_m": "vehicle.cg_height_m",
    }
    changes: dict[str, float | None] = {names[name]: value for name, value in loaded(tuple(parts)).items()}
    with change():
        _as_it_is_now(machine)
        for row in apply_changes(machine, changes):
            row.save()
        machine.masses = [
            {"name": part.name, "mass_kg": part.mass_kg, "front_share": part.front_share, "height_m": part.height_m}
            for part in parts
        ]
        machine.save()
    return machine


def set_removed(machine: Machine, removed: bool) -> Machine:
    """Take a machine out of the workshop's list, or bring it back; nothing about it is lost."""
    machine.removed_at = timezone.now() if removed else None
    machine.save(update_fields=["removed_at"])
    return machine
