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
        "start_run",
        "say_run",
        "end_run",
        "keep_proof",
        "look_at_ring",
        "remove_bedding_result",
        "choose_school",
        "intend",
        "count_box",
        "keep_fastener",
        "start_job",
        "mark_steps",
        "write_job_values",
        "choose_option",
        "say_cost",
        "write_job_note",
        "abandon_job",
        "keep_job_photo",
        "remove_job_photo",
        "ask_tool",
        "close_job",
        "reopen_job",
        "bolts_done",
        "plan_event",
        "change_event",
        "remove_event",
        "say_driven",
        "take_back_driven",
        "take_in_events",
        "set_feed",
        "read_fluid",
        "remove_fluid_reading",
        "write_note",
        "remove_note",
        "keep_note_photo",
        "take_in_log",
    }
)


def may(role: Role, name: str) -> bool:
    """Whether a role goes as far as this change, whatever machine it is about."""
    if role in (Role.OWNER, Role.FITTER):
        return True
    return role == Role.DRIVER and name in DRIVERS
