"""Rows a test needs beside the demo's: whose scope, what was read of which pads, a workshop with one plain machine."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal, get_args, get_origin

from django.contrib.auth import get_user_model
from pydantic import BaseModel

from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.accounts.scope import Scope, scope_of_owner
from thermaxis.apps.choose.api.decision_schemas import DecisionContent
from thermaxis.apps.fitted.models import PadReading
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine


def owner(workshop: Workshop) -> Scope:
    """The scope of the workshop's owner."""
    return scope_of_owner(workshop)


def as_role(scope: Scope, role: Role) -> Scope:
    """The same person with less, or more, to say."""
    return Scope(workshop=scope.workshop, user=scope.user, role=role)


def pads_read(machine: Machine, axle: str, position: str, mm: float, km: float, on: dt.date) -> PadReading:
    """A reading of the pads that are on, without what the action checks."""
    mounting = standing_of(machine).axles[axle].pads
    return PadReading.objects.create(
        workshop=machine.workshop,
        pad_set=mounting.pad_set,
        mounting=mounting,
        size=mounting.pad_set.size,
        position=position,
        measured_on=on,
        odometer_km=km,
        thickness_m=mm / 1e3,
    )


def workshop(name: str, role: Role = Role.OWNER) -> Workshop:
    """An empty workshop with one member."""
    made = Workshop.objects.create(name=name)
    user = get_user_model().objects.create_user(f"{role} of {name}")
    Membership.objects.create(user=user, workshop=made, role=role)
    return made


def least(shape: type[BaseModel]) -> dict[str, Any]:
    """The least that has a shape: every field that must be there, empty or nothing."""
    found: dict[str, Any] = {}
    for name, field in shape.model_fields.items():
        kind = field.annotation
        if not field.is_required():
            continue
        if isinstance(kind, type) and issubclass(kind, BaseModel):
            found[name] = least(kind)
        elif get_origin(kind) is list:
            found[name] = []
        elif get_origin(kind) is Literal:
            found[name] = get_args(kind)[0]
        else:
            found[name] = {str: "", float: 0.0, int: 0, bool: False}.get(kind)  # type: ignore[arg-type]
    return found


def decided() -> dict[str, Any]:
    """What a decision shows, of no set."""
    return least(DecisionContent)
