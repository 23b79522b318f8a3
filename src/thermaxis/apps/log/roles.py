"""Who may do what: the one table, asked by `act`."""

from __future__ import annotations

from thermaxis.apps.accounts.models import Role

# What a driver does, on machines of their own only.
DRIVERS = frozenset(
    {
        "choose_duty",
        "save_duty",
        "remove_duty",
        "save_circuit",
        "keep_run",
        "measure",
        "remove_measurement",
        "keep_calibration",
        "remove_calibration",
        "keep_plan",
        "mark_plan_done",
        "remove_plan",
        "choose_school",
        "intend",
        "count_box",
    }
)


def may(role: Role, name: str) -> bool:
    """Whether a role goes as far as this change, whatever machine it is about."""
    if role in (Role.OWNER, Role.FITTER):
        return True
    return role == Role.DRIVER and name in DRIVERS
