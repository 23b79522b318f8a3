"""Keep a picture of a wheel, take it out, or bring it back."""

from __future__ import annotations

from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.work import inspecting
from thermaxis.apps.work.models import Inspection, InspectionPhoto
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.picture import MEDIA_TYPE, redrawn

MOST_PHOTOS = 40


def keep_photo(inspection: Inspection, wheel: str, token: str, content: bytes) -> InspectionPhoto:
    """Keep a picture, drawn anew, once per token. FieldError where it is no picture, too large, or of no wheel of the
    machine.
    """
    names = [known.name for known in inspecting.limits_of(inspection)]
    if wheel not in names:
        raise FieldError("wheel", wheel, "one of " + ", ".join(names))
    # Decoding takes a hundred megabytes and more: never for two at once.
    with one_at_a_time("picture"):
        picture = redrawn(content)
    with change():
        before = inspection.photos.filter(token=token).first()
        if before is not None:
            return before
        if inspection.photos.filter(removed_at=None).count() >= MOST_PHOTOS:
            raise SolveError(f"An inspection keeps at most {MOST_PHOTOS} pictures.")
        return InspectionPhoto.objects.create(
            inspection=inspection, wheel=wheel, token=token, media_type=MEDIA_TYPE, content=picture
        )


def set_removed(photo: InspectionPhoto, removed: bool) -> InspectionPhoto:
    """Take a picture out, or bring it back; it stays in the database."""
    photo.removed_at = timezone.now() if removed else None
    photo.save(update_fields=["removed_at"])
    return photo
