"""Bedding plans of what is on a machine: every school, and the one that is taken unless somebody picks."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from thermaxis.apps.catalogue.models import MakersRows, Pad
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.duty_mapping import lap_of
from thermaxis.apps.solving.in_force import SHORTEST
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.core.errors import FieldError
from thermaxis.core.messages.bedding import INSTEAD_OF
from thermaxis.core.planning.bedding.choosing import NOTHING, asked_in, default_school
from thermaxis.core.planning.bedding.schools import Plan, plan_school, schools
from thermaxis.core.planning.bedding.series import Row
from thermaxis.core.planning.bedding.setting import Road, Setting, Window
from thermaxis.core.said import Said


def setting_of(standing: Standing, road: Road) -> Setting:
    """The machine with what is on it, its pads new, as bedding is planned for it."""
    machine = standing.machine
    builder = CaseBuilder(standing, SHORTEST)
    windows = {}
    for axle in ("front", "rear"):
        pad = standing.pads(axle).pad
        windows[axle] = Window(low_C=pad.bed_low_C, high_C=pad.bed_high_C)
    rotors = standing.rotors("front")
    return Setting(
        case=builder.case(standing.parts),
        road=road,
        boiling_C=builder.boiling_C,
        machine_top_mps=machine.top_speed_mps,
        power_W=machine.power_W,
        coated=rotors.rotor is not None and rotors.rotor.coating == "coated",
        drilled=rotors.size.pattern in ("drilled", "drilled_slotted"),
        lap=lap_of(machine, machine.duty) if machine.duty else None,
        **windows,
    )


# Where the school that is asked for is not to be driven: the first of these that reaches the window.
INSTEAD = ("circuit", "speed", "rising", "moderate", "gentle")


@dataclass(frozen=True, kw_only=True)
class Schools:
    """All schools of a machine side by side; `default` is taken unless somebody picks, for `reason`."""

    setting: Setting
    plans: dict[str, Plan]
    default: str
    reason: Said
    makers: MakersRows | None


def makers_of(pad: Pad) -> MakersRows | None:
    """The rows somebody typed of a compound's leaflet."""
    row = MakersRows.objects.filter(pad=pad).first()
    return row if row is not None and row.rows else None


def rows_from(stored: list[dict[str, Any]]) -> tuple[Row, ...]:
    """Stored rows as the core takes them."""
    return tuple(Row(**row) for row in stored)


def schools_of(standing: Standing, road: Road) -> Schools:
    """Plan every school; the default is the first of its kind that may be driven at all."""
    setting, pad = setting_of(standing, road), standing.pads("front").pad
    makers = makers_of(pad)
    default, reason = _default(standing, setting, makers)
    plans = {name: _plan(setting, name, pad, makers, default) for name in schools() if name != "maker" or makers}
    if plans[default].refused is not None:
        # What a compound's words ask for is not always fit for these rings, or needs a circuit there is not.
        instead = [name for name in INSTEAD if plans[name].refused is None]
        default = next((name for name in instead if plans[name].reached), instead[0] if instead else default)
        reason = INSTEAD_OF(why=reason)
    return Schools(setting=setting, plans=plans, default=default, reason=reason, makers=makers)


def plan_of(standing: Standing, road: Road, school: str) -> tuple[Plan, Setting]:
    """One school of a machine. FieldError for one there is not."""
    setting, pad = setting_of(standing, road), standing.pads("front").pad
    makers = makers_of(pad)
    if school == "maker" and makers is None:
        raise FieldError("school", school, "rows of the maker's leaflet typed in first")
    default, _ = _default(standing, setting, makers)
    return _plan(setting, school, pad, makers, default), setting


def _default(standing: Standing, setting: Setting, makers: MakersRows | None) -> tuple[str, Said]:
    pad, duty = standing.pads("front").pad, standing.machine.duty
    return default_school(
        pad.bedding,
        pad.family,
        duty.use if duty else "street",
        motorcycle=setting.motorcycle,
        makers=makers is not None,
    )


def _plan(setting: Setting, school: str, pad: Pad, makers: MakersRows | None, default: str) -> Plan:
    asked = asked_in(pad.bedding) if school == default else NOTHING
    return plan_school(setting, school, makers=rows_from(makers.rows) if makers else (), asked=asked)
