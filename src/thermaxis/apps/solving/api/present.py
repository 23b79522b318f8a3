"""Core records and rows to the schemas several stages give."""

from __future__ import annotations

from collections.abc import Sequence

from thermaxis.apps.fitted.actions.mount import can_undo
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.api import schemas
from thermaxis.core.planning.verdict.uncertainty import Band
from thermaxis.core.said import Said


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


def said_out(said: Said) -> schemas.SaidOut:
    return schemas.SaidOut(template=said.template, values={name: _value(value) for name, value in said.values.items()})


def _value(value: float | str | Said | Sequence[Said]) -> float | str | schemas.SaidOut | list[schemas.SaidOut]:
    if isinstance(value, Said):
        return said_out(value)
    return value if isinstance(value, float | int | str) else [said_out(part) for part in value]


def influences_out(band: Band) -> list[schemas.InfluenceOut]:
    return [schemas.InfluenceOut(field=entry.field, variance_share=entry.share) for entry in band.influences]
