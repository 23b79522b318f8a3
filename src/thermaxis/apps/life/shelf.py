"""What lies on the shelf of a machine, and what is on it."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.fitted.models import PadMounting, PadReading, PadSet, RotorMounting, RotorPair, RotorReading
from thermaxis.apps.fitted.querysets import driven_km, pad_sets, rotor_pairs
from thermaxis.apps.garage.models import Machine


@dataclass(frozen=True, kw_only=True)
class Shelved:
    """A thing, where it was last (none: in its box), how far it has been driven, the last reading of every part."""

    thing: PadSet | RotorPair
    last: PadMounting | RotorMounting | None
    driven_km: float
    readings: dict[str, PadReading | RotorReading]


def shelf_of(machine: Machine) -> list[Shelved]:
    """Everything that is, or was, on a machine, and what else lies about that its axles take; what is on it first."""
    axles = list(machine.axles.all())
    shapes, mounts = ({getattr(axle, name) for axle in axles} - {""} for name in ("pad_shape", "rotor_mount"))
    found: list[Shelved] = []
    for pads in pad_sets(machine.workshop).filter(scrapped_for=""):
        mountings = list(pads.mountings.all())
        if _mine(machine, mountings) or (_free(mountings) and pads.shape in shapes):
            last = {row.position: row for row in pads.readings.all() if row.removed_at is None and row.position}
            found.append(
                Shelved(
                    thing=pads,
                    last=mountings[-1] if mountings else None,
                    driven_km=driven_km(mountings),
                    readings=dict(last),
                )
            )
    for pair in rotor_pairs(machine.workshop).filter(scrapped_for=""):
        rotor_mountings = list(pair.mountings.all())
        if _mine(machine, rotor_mountings) or (_free(rotor_mountings) and pair.mount in mounts):
            seen = {
                disc.side or "rotor": row
                for disc in pair.discs.all()
                for row in disc.readings.all()
                if row.removed_at is None
            }
            found.append(
                Shelved(
                    thing=pair,
                    last=rotor_mountings[-1] if rotor_mountings else None,
                    driven_km=driven_km(rotor_mountings),
                    readings=dict(seen),
                )
            )
    return sorted(found, key=lambda entry: not _on_it(entry.last, machine))


def _on_it(last: PadMounting | RotorMounting | None, machine: Machine) -> bool:
    return last is not None and last.until_on is None and last.machine_id == machine.pk


def _mine(machine: Machine, mountings: list[PadMounting] | list[RotorMounting]) -> bool:
    return any(row.machine_id == machine.pk for row in mountings)


def _free(mountings: list[PadMounting] | list[RotorMounting]) -> bool:
    return all(row.until_on is not None for row in mountings)
