"""Change numbers and words of a machine, the parts its mass is made of, or whether it is kept."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from django.db.models import prefetch_related_objects

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.fill import correct_fluid
from thermaxis.apps.fitted.standing import FLUID_AGE, Standing, check_fluid_age, standing_of
from thermaxis.apps.garage.mapping import REGEN, TRAILER, apply_changes, check
from thermaxis.apps.garage.models import Axle, Machine, Owner
from thermaxis.apps.log.act import act, must_be
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.fit.caliper import LINES, RETENTIONS, SENSORS
from thermaxis.core.planning.job.bleeding import CORNERS
from thermaxis.core.planning.machine.classes import MassPart, class_named, loaded

REMOVE_MACHINE = Action("remove_machine", "Machine taken out or brought back", kind="machine")
CHANGE_MACHINE = Action("change_machine", "Numbers changed", kind="machine")
CHANGE_WORDS = Action("change_words", "Name or note changed", kind="machine")
SET_MASSES = Action("set_masses", "Masses written down", kind="machine")

TEXTS = {"name": 120, "note": 240, "front.caliper_kind": 24, "rear.caliper_kind": 24}
# What a trailer is until someone says otherwise: a loaded two-axle trailer with overrun brakes (estimate).
USUAL_TRAILER = {
    "trailer_mass_kg": 1000.0,
    "trailer_brake_share": 0.6,
    "trailer_nose_load_N": 700.0,
    "trailer_hitch_height_m": 0.45,
    "trailer_hitch_overhang_m": 1.1,
}
# The one word that may be an estimate, by its place among the numbers.
ANTI_LOCK = "vehicle.anti_lock"
# Words of an axle that are one of a few, or nothing said.
AXLE_WORDS = {"wear_sensor": SENSORS, "line": LINES, "retention": RETENTIONS}
USUAL_REGEN = {"regen_max_power_W": 60e3, "regen_max_decel_mps2": 2.0, "regen_fade_out_mps": 3.0}


def change_machine(
    scope: Scope,
    machine: Machine,
    changes: Mapping[str, float | None],
    left_open: Sequence[str] = (),
    seen: Mapping[str, float | None] = {},
) -> Machine:
    """Check and save changed numbers by their paths; all or none. FieldError names the one that is not allowed, Clash
    the one that is not as it was `seen`.

    Numbers left open become the estimates of the machine's class.
    """
    with act(scope, CHANGE_MACHINE, machine) as entry:
        standing = _as_it_is_now(machine)
        before = standing.numbers()
        must_be(before, seen, changes)
        if FLUID_AGE in changes:
            correct_fluid(standing, age_months=check_fluid_age(changes[FLUID_AGE]))
            machine.estimates = [path for path in machine.estimates if path != FLUID_AGE]
            machine.save(update_fields=["estimates"])
        rest = {path: value for path, value in changes.items() if path != FLUID_AGE}
        for row in apply_changes(machine, rest, left_open):
            row.save()
        after = standing.numbers()
        for path in (*changes, *left_open):
            entry.changed(path, before.get(path), after.get(path))
    return machine


def change_words(scope: Scope, machine: Machine, words: Mapping[str, str], seen: Mapping[str, str] = {}) -> Machine:
    """Check and save words by their paths: names, owner, class, fluid, driven wheels, anti-lock, trailer and regen.

    FieldError names the one that is not allowed, Clash the one that is not as it was `seen`.
    """
    with act(scope, CHANGE_WORDS, machine) as entry:
        standing = _as_it_is_now(machine)
        before = words_of(standing)
        must_be(before, seen, words)
        axles = {axle.position: axle for axle in machine.axles.all()}
        for path, word in words.items():
            if path == "fluid":
                correct_fluid(standing, name=word.strip())
            else:
                _set_word(machine, axles, path, word.strip())
            entry.changed(path, before.get(path), word.strip())
        check(machine)
        machine.owner.save()
        # A new owner has a number only now.
        machine.owner = machine.owner
        machine.save()
        for axle in axles.values():
            axle.save()
    return machine


def words_of(standing: Standing) -> dict[str, str]:
    """Every word of a machine that can be changed, by its path."""
    machine = standing.machine
    axles = list(machine.axles.all())
    calipers = {f"{axle.position}.caliper_kind": axle.caliper_kind for axle in axles}
    calipers |= {f"{axle.position}.{name}": getattr(axle, name) for axle in axles for name in AXLE_WORDS}
    towing = machine.towing and machine.trailer_mass_kg is not None
    return {
        "name": machine.name,
        "note": machine.note,
        "owner": machine.owner.name,
        "vehicle_class": machine.vehicle_class,
        "fluid": standing.fill.fluid.name,
        "driven": machine.driven,
        "anti_lock": "yes" if machine.anti_lock else "no",
        "regen": machine.regen_axle,
        "trailer": "yes" if towing else "no",
        "driver_side": machine.driver_side,
        "bleed_order": ", ".join(machine.bleed_order),
        **calipers,
    }


def _as_it_is_now(machine: Machine) -> Standing:
    """What is on the machine, its axles fetched once: what is changed on an axle has to be what is checked.

    Two boxes left quickly are two requests at once; each began from what it had read, and the later one would write the
    earlier one's change away. So both read again within their change, and wait for each other there.
    """
    prefetch_related_objects([machine], "axles")
    return standing_of(machine)


def _set_word(machine: Machine, axles: Mapping[str, object], path: str, word: str) -> None:
    if path in TEXTS:
        if len(word) > TEXTS[path] or (not word and path != "note"):
            raise FieldError(path, word, f"1 to {TEXTS[path]} characters")
        position, _, name = path.rpartition(".")
        setattr(axles[position] if position else machine, name, word)
    elif path.partition(".")[2] in AXLE_WORDS:
        position, _, name = path.partition(".")
        allowed = AXLE_WORDS[name]
        if position not in axles or word not in ("", *allowed):
            raise FieldError(path, word, "one of " + ", ".join(allowed) + ", or nothing")
        _set_axle_word(axles[position], name, word)
    elif path == "driver_side":
        if word not in ("", "left", "right"):
            raise FieldError(path, word, "left, right or nothing")
        machine.driver_side = word
    elif path == "bleed_order":
        machine.bleed_order = _corners(path, word)
    elif path == "owner":
        if not 1 <= len(word) <= 120:
            raise FieldError(path, word, "1 to 120 characters")
        machine.owner = owner_named(machine, word)
    elif path == "vehicle_class":
        if class_named(word).kind != machine.kind:
            raise FieldError(path, word, f"a class of the same kind of vehicle, {machine.kind}")
        machine.vehicle_class = word
    elif path == "driven":
        machine.driven = word
    elif path == "anti_lock":
        machine.anti_lock = _yes(path, word)
        machine.estimates = [entry for entry in machine.estimates if entry != ANTI_LOCK]
    elif path == "trailer":
        _hitch(machine, _yes(path, word))
    elif path == "regen":
        if word not in ("", "front", "rear"):
            raise FieldError(path, word, "front, rear or nothing")
        if word and not machine.regen_max_power_W:
            _usual(machine, USUAL_REGEN, [f"regen.{name}" for name in REGEN])
        machine.regen_axle = word
    else:
        raise FieldError(
            path, word, "one of name, note, owner, vehicle_class, fluid, driven, anti_lock, trailer, regen"
        )


def _set_axle_word(axle: object, name: str, word: str) -> None:
    # Spelled out: what a request names never becomes the name of a column.
    assert isinstance(axle, Axle)
    if name == "wear_sensor":
        axle.wear_sensor = word
    elif name == "line":
        axle.line = word
    else:
        axle.retention = word


def _corners(path: str, word: str) -> list[str]:
    """Corners in the order the maker has them bled, parted by commas; each at most once. FieldError."""
    names = [name.strip().replace(" ", "_") for name in word.split(",") if name.strip()]
    known = (*CORNERS, "front", "rear")
    if len(set(names)) != len(names) or not set(names) <= set(known):
        raise FieldError(path, word[:80], "corners parted by commas, each once: " + ", ".join(CORNERS))
    return names


def owner_named(machine: Machine, name: str) -> Owner:
    """The owner of this name in the machine's workshop; a new one is not saved yet."""
    found = Owner.objects.of(machine.workshop).filter(name=name).first()
    return found or Owner(workshop=machine.workshop, name=name)


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


def set_masses(scope: Scope, machine: Machine, parts: Sequence[MassPart]) -> Machine:
    """Put the mass together from its parts: mass, split and, where every height is known, CG height follow."""
    names = {
        "mass_kg": "vehicle.mass_kg",
        "front_fraction": "vehicle.front_fraction",
        "cg_height_m": "vehicle.cg_height_m",
    }
    changes = {names[name]: value for name, value in loaded(tuple(parts)).items()}
    with act(scope, SET_MASSES, machine):
        change_machine(scope, machine, changes)
        machine.masses = [
            {"name": part.name, "mass_kg": part.mass_kg, "front_share": part.front_share, "height_m": part.height_m}
            for part in parts
        ]
        machine.save(update_fields=["masses"])
    return machine
