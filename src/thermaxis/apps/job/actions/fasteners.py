"""Write down what the vehicle's manual says of an axle's fasteners."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.building import FASTENER, fastener_of, fasteners_of
from thermaxis.apps.job.models import FastenerSpec
from thermaxis.apps.log.act import act, must_be
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.fit.caliper import caliper_of
from thermaxis.core.planning.job.fasteners import Fastener, kinds_of, torque_doubt

KEEP_FASTENER = Action("keep_fastener", "Fastener written down", kind="job", roles=DRIVERS)

Value = float | str | bool | None
ASKED = "what is meant: send it again with `sure` if it is right"


def keep_fastener(
    scope: Scope,
    machine: Machine,
    axle: str,
    kind: str,
    changes: Mapping[str, Value],
    seen: Mapping[str, Value],
    *,
    sure: bool = False,
) -> FastenerSpec:
    """Change what is written of one kind of fastener on an axle; nothing is ever filled in from anywhere else.

    FieldError for what is not allowed, and once for a torque that is hardly meant, unless somebody is `sure`; Clash
    where a value is not as it was `seen`.
    """
    with act(scope, KEEP_FASTENER, machine) as entry:
        row = axle_of(machine, axle)
        known = [found.kind for found in kinds_of(machine.kind, caliper_of(row.caliper_kind).opposed)]
        if kind not in known:
            raise FieldError("kind", kind, "one of " + ", ".join(known))
        spec = machine.fasteners.filter(axle=axle, kind=kind).first()
        before = fastener_of(spec) if spec else Fastener(kind=kind)
        for name, value in changes.items():
            if name not in FASTENER:
                raise FieldError(name[:40], value, "one of " + ", ".join(FASTENER))
            if isinstance(value, str):
                check_text(name, value)
        _kinds(changes)
        kept = {name: getattr(before, name) for name in FASTENER}
        must_be({name: kept[name] for name in changes}, seen, changes)
        now = dataclasses.replace(before, **dict(changes))  # type: ignore[arg-type]
        other = fasteners_of(machine, "rear" if axle == "front" else "front").get(kind)
        doubt = torque_doubt(now, other)
        if doubt is not None and not sure and now != before:
            raise FieldError("torque_Nm", now.torque_Nm, ASKED, doubt)
        for name in FASTENER:
            entry.changed(f"{axle}.{kind}.{name}", getattr(before, name), getattr(now, name))
        values = {name: getattr(now, name) for name in FASTENER}
        spec, _ = FastenerSpec.objects.update_or_create(
            workshop=scope.workshop, machine=machine, axle=axle, kind=kind, defaults=values
        )
        entry.about(spec)
    return spec


def _kinds(changes: Mapping[str, Value]) -> None:
    """Each value is of its field's kind; the record checks the rest. FieldError."""
    for name, value in changes.items():
        flag = name in ("single_use", "left_hand")
        number = name.endswith(("_m", "_Nm"))
        good = isinstance(value, bool) if flag else number or isinstance(value, str)
        if not good:
            raise FieldError(name, value, "true or false" if flag else "text")
