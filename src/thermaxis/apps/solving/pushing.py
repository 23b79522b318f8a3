"""The fluid an axle's pistons push back, from what was last measured of the parts that come off; nothing writes."""

from __future__ import annotations

from dataclasses import replace

from thermaxis.apps.fitted.models import RotorReading
from thermaxis.apps.fitted.parts import pads_on
from thermaxis.apps.solving.fitting import Fitter
from thermaxis.core.messages import fit as say
from thermaxis.core.planning.fit.pushback import PushBack, push_back, pushed_back
from thermaxis.core.planning.fit.stack import Stack


def push_back_of(fitter: Fitter, place: str, stack: Stack) -> PushBack:
    """Every corner of an axle against the room in its reservoir.

    Pads nobody has measured are taken as thin as when they are changed: the side on which the reservoir runs over.
    """
    machine, axle = fitter.machine, fitter.axles[place]
    mounting = fitter.standing.axles[place]
    old = fitter.pad(pads_on(mounting.pads.pad_set))
    # By position, the latest last.
    read = {row.position: row.thickness_m for row in mounting.pads.pad_set.readings.there()}
    rings = {
        row.disc.side: row.thickness_m
        for row in RotorReading.objects.there()
        .filter(disc__pair=mounting.rotors.rotor_pair_id)
        .select_related("disc")
        .order_by("measured_on", "pk")
    }
    unread, corners, worn = False, [], []
    for side in axle.sides:
        left = []
        for pad in ("inner", "outer"):
            found = read.get(f"{side}.{pad}".strip("."), read.get(""))
            unread = unread or found is None
            left.append(old.change_m if found is None else found)
        ring = rings.get(side) or mounting.rotors.rotor_pair.size.thickness_m
        old_m = ring + sum(left) + 2.0 * (old.backing_m + old.shim_m)
        new_m = stack.needed_m - stack.clearance_m
        corners.append(pushed_back(side or place, axle.piston_area_m2, old_m, new_m))
        worn.append(1.0 - min(left) / old.friction.value_m)
    found_back = push_back(
        corners,
        fitter.reservoir(place),
        fluid_months=fitter.standing.fluid_months,
        valves=machine.anti_lock,
        motorcycle=machine.kind == "motorcycle",
        worn_share=max(worn),
    )
    if not unread:
        return found_back
    return replace(found_back, remarks=(say.OLD_PADS_UNREAD(), *found_back.remarks))
