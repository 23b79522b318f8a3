"""Core records and rows to the schemas several stages give."""

from __future__ import annotations

from thermaxis.apps.fitted.actions.mount import can_undo
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.api import schemas
from thermaxis.core.planning.verdict.uncertainty import Band


def set_out(standing: Standing) -> schemas.SetOut:
    parts = standing.parts
    return schemas.SetOut(
        name=standing.name,
        front_pads=standing.pads("front").pad.name,
        rear_pads=standing.pads("rear").pad.name,
        front_rotor=parts.front_rotor.name,
        rear_rotor=parts.rear_rotor.name,
        fitted_on=standing.since_on,
        fitted_km=standing.since_km,
        can_undo=can_undo(standing.machine),
    )


def influences_out(band: Band) -> list[schemas.InfluenceOut]:
    return [schemas.InfluenceOut(field=entry.field, variance_share=entry.share) for entry in band.influences]
