"""Ask the service tool of a job: connect, release, drive home, leave."""

from __future__ import annotations

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.job.actions.work import must_be_open
from thermaxis.apps.job.building import HOMING, Worked, service_of, worked
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.job.ticking import waits_for
from thermaxis.devices.service_tool import ACTIONS, Answer, StandInTool, ToolSettings

ASK_TOOL = Action("ask_tool", "Service tool asked", kind="job", roles=DRIVERS, nearby=True, quiet=True)

# What must be settled on the sheet before the tool may do a thing: nothing rolls, and no piston meets an empty caliper.
STEPS = {"release": "service_mode", "home": "service_mode", "leave": "service_learn"}


def _not_before_its_turn(found: Worked, action: str) -> None:
    """SolveError where the sheet waits for something else first."""
    step = found.sheet.step(STEPS.get(action, ""))
    if step is None:
        return
    for key in waits_for(found.sheet, step):
        before = found.sheet.step(key)
        if before is not None and not found.state.tick(key).settled:
            raise SolveError(f"Not yet. First: {before.step.text}.")


def ask_tool(scope: Scope, job: Job, action: str, settings: ToolSettings, seed: int) -> Answer:
    """Ask the stand-in one thing; how far it has got stays with the job. FieldError for another action.

    SolveError where the machine has neither an electric parking brake nor a wear sensor, or its pistons are on their
    way.
    """
    with act(scope, ASK_TOOL, job) as entry:
        must_be_open(job)
        if action not in ACTIONS:
            raise FieldError("action", action, "one of " + ", ".join(ACTIONS))
        found = worked(job)
        tags = found.sheet.task.tags
        if "electric" not in tags and action not in ("connect", "reset", "sensors"):
            raise SolveError("This axle has no electric parking brake.")
        state = service_of(job)
        if job.service == HOMING and state != "home":
            raise SolveError("The pistons are on their way: wait until the tool says home.")
        _not_before_its_turn(found, action)
        cut = tuple(side for side in found.check.needs.sensor_sides if found.check.box.get(f"sensor.{side}") == "cut")
        answer = StandInTool(settings, seed, cut).ask(action, state)
        entry.changed("service", job.service, answer.state)
        if answer.took_s > 0:
            job.service, job.service_since, job.service_s = HOMING, timezone.now(), answer.took_s
        else:
            job.service = answer.state
        job.save(update_fields=["service", "service_since", "service_s"])
        entry.about(job)
    return answer
