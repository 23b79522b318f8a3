"""Keep a picture of a wheel, take it out, or bring it back."""

from __future__ import annotations

from django.utils import timezone

from thermaxis.apps.work import inspecting
from thermaxis.apps.work.models import Inspection, InspectionPhoto
from thermaxis.core.errors import FieldError, SolveError

MOST_BYTES, MOST_PHOTOS = 5_000_000, 40
# By their first bytes: what a browser draws, and nothing that runs.
SIGNATURES = ((b"\xff\xd8\xff", "image/jpeg"), (b"\x89PNG\r\n\x1a\n", "image/png"))


def keep_photo(inspection: Inspection, wheel: str, token: str, content: bytes) -> InspectionPhoto:
    """Keep a picture, once per token. FieldError where it is no picture, too large, or of no wheel of the machine."""
    before = inspection.photos.filter(token=token).first()
    if before is not None:
        return before
    names = [known.name for known in inspecting.limits_of(inspection)]
    if wheel not in names:
        raise FieldError("wheel", wheel, "one of " + ", ".join(names))
    if len(content) > MOST_BYTES:
        raise FieldError("file", f"{len(content)} bytes", f"at most {MOST_BYTES} bytes")
    media_type = next((name for start, name in SIGNATURES if content.startswith(start)), None)
    if media_type is None:
        raise FieldError("file", content[:8].hex(), "a JPEG or PNG picture")
    if inspection.photos.filter(removed_at=None).count() >= MOST_PHOTOS:
        raise SolveError(f"An inspection keeps at most {MOST_PHOTOS} pictures.")
    return InspectionPhoto.objects.create(
        inspection=inspection, wheel=wheel, token=token, media_type=media_type, content=content
    )


def set_removed(photo: InspectionPhoto, removed: bool) -> InspectionPhoto:
    """Take a picture out, or bring it back; it stays in the database."""
    photo.removed_at = timezone.now() if removed else None
    photo.save(update_fields=["removed_at"])
    return photo
