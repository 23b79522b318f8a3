"""Keep a picture of a wheel."""

from __future__ import annotations

from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.inspect import inspecting
from thermaxis.apps.inspect.models import Inspection, InspectionPhoto
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.picture import redrawn

KEEP_PHOTO = Action("keep_photo", "Picture kept", kind="reading", keys=Reach.READINGS, nearby=True, quiet=True)
REMOVE_PHOTO = Action("remove_photo", "Picture taken out or brought back", kind="reading", nearby=True)

MOST_PHOTOS = 40


def keep_photo(scope: Scope, inspection: Inspection, wheel: str, token: str, content: bytes) -> InspectionPhoto:
    """Keep a picture, drawn anew, once per token. FieldError where it is no picture, too large, or of no wheel of the
    machine.
    """
    # Decoding takes a hundred megabytes and more: never for two at once.
    with one_at_a_time("picture"):
        picture = redrawn(content)
    with act(scope, KEEP_PHOTO, inspection) as entry:
        names = [known.name for known in inspecting.limits_of(inspection)]
        if wheel not in names:
            raise FieldError("wheel", wheel, "one of " + ", ".join(names))
        before = inspection.photos.filter(token=token).first()
        if before is not None:
            entry.nothing = True
            return before
        if inspection.photos.filter(removed_at=None).count() >= MOST_PHOTOS:
            raise SolveError(f"An inspection keeps at most {MOST_PHOTOS} pictures.")
        row = InspectionPhoto.objects.create(inspection=inspection, wheel=wheel, token=token, content=picture)
        entry.about(inspection, row)
    return row
