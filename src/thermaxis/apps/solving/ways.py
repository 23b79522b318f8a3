"""Ways out for parts that do not go in, the honest ones first; nothing writes."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.fitted.offering import Choices
from thermaxis.apps.fitted.parts import Parts
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.solving.fitting import Fitter, stated_thickness
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.solver import solve
from thermaxis.core.messages import fit as say
from thermaxis.core.planning.choice.figures import figures
from thermaxis.core.planning.fit.stack import Room, Stack, last_resort, room, without_shims
from thermaxis.core.said import Said

# Of each kind as many as somebody reads.
MOST = 3
# Less than this nobody measures on a pad.
LEAST_GAIN_M = 5e-5
TITLES = {
    "rotor": "Another ring",
    "send_back": "Send the rings back",
    "pad": "A thinner pad of this shape",
    "shims": "Without the loose shims",
    "caliper": "Another caliper",
    "take_off": "Last resort: take friction material off",
}


@dataclass(frozen=True, kw_only=True)
class Way:
    """One way out: its kind, what it gives, and the key of the set it leads to, if it is another set."""

    kind: str
    text: Said
    key: str = ""

    @property
    def title(self) -> str:
        """What it is called."""
        return TITLES[self.kind]


def ways_of(fitter: Fitter, choices: Choices, place: str, parts: Parts) -> list[Way]:
    """Every way out for an axle, in order: rings, their maker, pads, shims, caliper, and the last resort."""
    pads, rotors = parts.pads(place), parts.rotors(place)
    stack = fitter.stack(place, pads, rotors)
    found = room(stack)
    ways = _rings(fitter, choices, place, parts, found)
    measured = fitter.measured_rotor(rotors).get("thickness_m")
    if measured is not None and rotors.rotor is not None:
        stated = stated_thickness(rotors.rotor)
        if abs(measured - stated.value_m) > stated.spread_m:
            said = say.SEND_BACK(number=stated.value_m, spread=stated.spread_m, measured=measured)
            ways.append(Way(kind="send_back", text=said))
    ways += _pads(fitter, choices, place, parts, found)
    if stack.inner.shim_m > 0:
        left = room(without_shims(stack))
        if left.verdict in ("fits", "tight"):
            ways.append(Way(kind="shims", text=say.SHIM_OFF(shim=stack.inner.shim_m, left=left.text)))
    ways.append(Way(kind="caliper", text=say.OTHER_CALIPER(needed=stack.needed_m + 2.0 * found.spread_m)))
    return ways


def take_off(fitter: Fitter, place: str, parts: Parts, stack: Stack) -> Way | None:
    """The last resort with its cost in share of life and events; None where parts go in or nothing would be left.

    It solves the set on the duty in force: slow, asked for by itself.
    """
    events = life_events(fitter, place, parts)
    found = last_resort(stack, events or 0.0)
    if found is None:
        return None
    known = {"each": found.each_m, "share": found.share}
    text = say.TAKE_OFF(**known) if events is None else say.TAKE_OFF_EVENTS(events=found.events, **known)
    return Way(kind="take_off", text=text)


def life_events(fitter: Fitter, place: str, parts: Parts) -> float | None:
    """Events new pads of a set last on an axle, on the duty in force; None without one."""
    machine = fitter.machine
    if machine.duty is None:
        return None
    facts = duties.duty_facts(machine, machine.duty)
    candidate = CaseBuilder(fitter.standing, facts.duty, facts.conditions).candidate(parts, machine.duty.use, "")
    found = figures(candidate, solve([candidate.setup.case])[0], facts.event_hours)
    return found.front_life_events if place == "front" else found.rear_life_events


def _rings(fitter: Fitter, choices: Choices, place: str, parts: Parts, now: Room) -> list[Way]:
    """Rings of the same size class that clear, those nearest to what was wanted first."""
    wanted = parts.rotors(place)
    found: list[tuple[float, Way]] = []
    for rotors in choices.rotors[place]:
        other = parts.with_rotors(place, rotors)
        left = room(fitter.stack(place, parts.pads(place), rotors))
        if rotors.key == wanted.key or left.room_m is None or not _gains(left, now):
            continue
        thick = fitter.rotor_lengths(rotors)["thickness_m"]
        assert thick is not None
        text = say.OTHER_RING(name=rotors.name, thick=thick.value_m, left=left.text)
        rank = (0.0 if left.verdict == "fits" else 1.0) + left.room_m
        found.append((rank, Way(kind="rotor", text=text, key=other.key)))
    return [way for _, way in sorted(found, key=lambda entry: entry[0])[:MOST]]


def _gains(left: Room, now: Room) -> bool:
    """Whether other parts go in with more room than there is now: as thick again would be no way out."""
    if left.verdict not in ("fits", "tight") or left.room_m is None:
        return False
    return now.room_m is None or left.room_m > now.room_m + LEAST_GAIN_M


def _pads(fitter: Fitter, choices: Choices, place: str, parts: Parts, now: Room) -> list[Way]:
    """Pads of the shape with less friction material that clear, the thickest of them first."""
    found: list[tuple[float, Way]] = []
    for pads in choices.pads[place].values():
        stack = fitter.stack(place, pads, parts.rotors(place))
        left = room(stack)
        if pads.pad.pk == parts.pads(place).pad.pk or not _gains(left, now):
            continue
        other = parts.with_pads(place, pads)
        text = say.OTHER_PAD(name=pads.pad.name, thick=stack.inner.friction.value_m, left=left.text)
        found.append((-stack.inner.friction.value_m, Way(kind="pad", text=text, key=other.key)))
    return [way for _, way in sorted(found, key=lambda entry: entry[0])[:MOST]]
