"""A person's name goes from everything they did; what they did stays."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.accounts.scope import workshops_of
from thermaxis.apps.bed.models import RunEvent
from thermaxis.apps.job.models import Job, JobTick
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.workshop.portable.tables import WHO

# The kind of entries that may name others.
ABOUT_PEOPLE = "people"


def nameless(user: User) -> str:
    """What stands where a name stood: the same for everything one person did."""
    return f"former member {user.pk}"


def forget_person(user: User) -> None:
    """Within a change: the name goes from everything that was done in it; what hangs on the person goes with them."""
    name, instead = user.get_username(), nameless(user)
    note_ended("forgotten", name=name)
    mine = LogEntry.objects.filter(user=user)
    workshops = set(mine.values_list("workshop_id", flat=True)) | set(workshops_of(user).values_list("pk", flat=True))
    mine.update(user_name=instead)
    Job.objects.filter(workshop__in=workshops, started_by=name).update(started_by=instead)
    JobTick.objects.filter(job__workshop__in=workshops, by=name).update(by=instead)
    JobTick.objects.filter(job__workshop__in=workshops, rechecked_by=name).update(rechecked_by=instead)
    RunEvent.objects.filter(run__workshop__in=workshops, by=name).update(by=instead)
    for entry in LogEntry.objects.filter(workshop__in=workshops, kind=ABOUT_PEOPLE):
        entry.changes = {
            path: [instead if value == name else value for value in values] for path, values in entry.changes.items()
        }
        entry.save(update_fields=["changes"])
    for job in Job.objects.filter(workshop__in=workshops).exclude(content={}):
        job.content = _without(job.content, name, instead)
        job.save(update_fields=["content"])
    Workshop.objects.filter(pk__in=workshops).update(stamp="")
    user.delete()


def _without(value: object, name: str, instead: str) -> Any:
    """A kept sheet with a name replaced where it says who did something, and nowhere else."""
    if isinstance(value, list):
        return [_without(entry, name, instead) for entry in value]
    if isinstance(value, dict):
        return {
            key: instead if key in WHO and entry == name else _without(entry, name, instead)
            for key, entry in value.items()
        }
    return value
