"""How far the pads that are on are bedded in, and whose film their rings carry."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.catalogue.models import Pad
from thermaxis.apps.fitted.models import BeddingResult, PadMounting, PadSet, RotorMounting
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import OnAxle, Standing
from thermaxis.core.messages import proof as say
from thermaxis.core.planning.bedding.state import Bedding, Told, bedding_of
from thermaxis.core.said import Said
from thermaxis.formats.units import said_of


def results_of(pads: PadSet) -> list[BeddingResult]:
    """What was said of a set's bedding and stands, in order."""
    return [row for row in pads.bedding_results.all() if row.removed_at is None]


def bedding_states(standing: Standing) -> dict[str, Bedding]:
    """The state of the pads of both axles on the rings they run on."""
    return {axle: _state(standing, axle, results_of(standing.pads(axle))) for axle in AXLES}


def _state(standing: Standing, axle: str, rows: list[BeddingResult]) -> Bedding:
    mounted = standing.axles[axle]
    pads, rotors = mounted.pads, mounted.rotors
    told = [
        Told(rings=row.rotor_pair_id, on=row.on, word=row.word, why=said_of(row.text) if row.text else None)
        for row in rows
    ]
    return bedding_of(
        told,
        rings=rotors.rotor_pair_id,
        since=max(pads.from_on, rotors.from_on),
        km=max(0.0, standing.machine.odometer_km - max(pads.from_km, rotors.from_km)),
        family=pads.pad_set.pad.family,
        as_found=pads.begun_by_id is None and rotors.begun_by_id is None,
        ran_since=_ran_since(mounted, told),
    )


def _ran_since(mounted: OnAxle, told: list[Told]) -> str:
    """The compound that ran on these rings after the set was last bedded on them; empty where none did."""
    if not told or told[-1].on >= mounted.pads.from_on:
        return ""
    others = _on_rings(mounted.rotors, mounted.pads).filter(until_on__gt=told[-1].on)
    return next((row.pad_set.pad.name for row in others if row.pad_set.pad_id != mounted.pads.pad_set.pad_id), "")


def _on_rings(rotors: RotorMounting, pads: PadMounting):  # type: ignore[no-untyped-def]
    """Mountings of other sets on an axle while its rings were on, the latest first."""
    return (
        PadMounting.objects.filter(
            machine_id=rotors.machine_id, axle=rotors.axle, pk__lt=pads.pk, until_km__gt=rotors.from_km
        )
        .exclude(pad_set_id=pads.pad_set_id)
        .select_related("pad_set__pad")
        .order_by("-pk")
    )


@dataclass(frozen=True, kw_only=True)
class Film:
    """What another compound left on the rings of an axle; `same` where its family is that of the pads that come."""

    axle: str
    before: str
    family: str
    same: bool
    text: Said


def film_under(standing: Standing, axle: str, coming: Pad | None = None) -> Film | None:
    """The film on an axle's rings, for the pads that are on or those `coming`; None on rings nothing else ran on."""
    mounted = standing.axles[axle]
    if coming is not None:
        last: Pad | None = mounted.pads.pad_set.pad
    else:
        coming = mounted.pads.pad_set.pad
        row = _on_rings(mounted.rotors, mounted.pads).first()
        last = row.pad_set.pad if row is not None else None
    if last is None or last.pk == coming.pk:
        return None
    same = last.family == coming.family
    if same:
        text = say.FILM_SAME(before=last.name)
    else:
        text = say.FILM(before=last.name, family_before=last.family, after=coming.name, family_after=coming.family)
    return Film(axle=axle, before=last.name, family=last.family, same=same, text=text)


def not_bedded(states: dict[str, Bedding]) -> Said | None:
    """What the strip says of pads that are not bedded; None where all bite as their curves say."""
    axles = [axle for axle in AXLES if not states[axle].bites]
    if len(axles) == len(AXLES):
        return say.BITE_BOTH()
    return say.BITE(axle=axles[0]) if axles else None
