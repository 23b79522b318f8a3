"""Who may change what: the one table, asked by `act`."""

from __future__ import annotations

from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import Reach, Role
from thermaxis.apps.accounts.scope import Scope

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


# Of jobs these go as far as one's own, for a driver.
JOBS_OF_ONE_S_OWN = frozenset({"close_job", "abandon_job", "reopen_job"})
# What only an owner does.
OWNERS = frozenset(
    {
        "invite",
        "withdraw_address",
        "give_role",
        "take_out_member",
        "forget_member",
        "give_reset",
        "change_workshop",
        "withdraw_any_key",
        "take_in_workshop",
        "say_drives",
    }
)
# What everybody does for themselves, whatever their role.
ONE_S_OWN = frozenset({"make_key", "withdraw_key", "leave_workshop", "join_workshop", "found_workshop"})
# What a key for readings writes down, if its person may.
READINGS = frozenset(
    {
        "measure",
        "read_fluid",
        "keep_run",
        "start_inspection",
        "enter_cells",
        "keep_photo",
        "keep_calibration",
        "say_run",
        "write_job_values",
        "keep_reading",
        "write_note",
        "say_driven",
    }
)


def must_may(scope: Scope, name: str) -> None:
    """NotAllowed where a role, or a key of this reach, does not go as far as this change."""
    if not may(scope.role, name, scope.reach):
        who = f"As {scope.role} of {scope.workshop} you" if scope.reach == Reach.ALL else "This key"
        raise NotAllowed(f"{who} can see this, and not change it.")


def may(role: Role, name: str, reach: Reach = Reach.ALL) -> bool:
    """Whether a role, by a key of this reach, goes as far as this change, whatever machine it is about."""
    if reach == Reach.READ or (reach == Reach.READINGS and name not in READINGS):
        return False
    if name in ONE_S_OWN:
        return True
    if name in OWNERS:
        return role == Role.OWNER
    if role in (Role.OWNER, Role.FITTER):
        return True
    return role == Role.DRIVER and name in DRIVERS
