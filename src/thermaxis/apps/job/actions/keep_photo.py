"""Keep a picture of a job, before or after."""

from __future__ import annotations

from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.job.actions.work import must_be_open
from thermaxis.apps.job.building import worked
from thermaxis.apps.job.models import Job, JobPhoto
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.picture import redrawn

KEEP_JOB_PHOTO = Action("keep_job_photo", "Picture of a job kept", kind="job", roles=DRIVERS, nearby=True, quiet=True)
REMOVE_JOB_PHOTO = Action(
    "remove_job_photo", "Picture of a job taken out or brought back", kind="job", roles=DRIVERS, nearby=True
)

MOST_PHOTOS = 40
WHEN = ("before", "after")


def keep_photo(scope: Scope, job: Job, corner: str, when: str, token: str, content: bytes) -> JobPhoto:
    """Keep a picture, drawn anew, once per token. FieldError where it is no picture, or of no corner of the job."""
    # Decoding takes a hundred megabytes and more: never for two at once.
    with one_at_a_time("picture"):
        picture = redrawn(content)
    with act(scope, KEEP_JOB_PHOTO, job) as entry:
        before = job.photos.filter(token=token).first()
        if before is not None:
            entry.nothing = True
            return before
        must_be_open(job)
        corners = ("", *worked(job).sheet.task.corners)
        if corner not in corners:
            raise FieldError("corner", corner, "one of " + ", ".join(corners))
        if when not in WHEN:
            raise FieldError("when", when, "before or after")
        if job.photos.filter(removed_at=None).count() >= MOST_PHOTOS:
            raise SolveError(f"A job keeps at most {MOST_PHOTOS} pictures.")
        row = JobPhoto.objects.create(job=job, corner=corner, when=when, token=token, content=picture)
        entry.about(job, row)
    return row
