"""Work that takes a while: how far it is, and the way to stop it."""

from __future__ import annotations

from contextlib import AbstractContextManager

from ninja import Router, Status

from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.solving import progress
from thermaxis.apps.solving.api import schemas
from thermaxis.core.physics.batch import Watch

router = Router(auth=SIGNED_IN)


LONGEST_NAME = 64


def followed(request: ScopedRequest, doing: str) -> AbstractContextManager[Watch]:
    """Wait for one's turn; then a watch the page can ask about and stop by the name it sent along, if it did."""
    name = request.headers.get("X-Work", "")
    # A server that knows says so; where it does not, nobody is ever gone.
    gone = request.META.get("waitress.client_disconnected", lambda: False)
    return progress.watched(request.auth.user.pk, name if 0 < len(name) <= LONGEST_NAME else None, doing, gone)


@router.get("/work/{name}", response=schemas.WorkOut, operation_id="work")
def work(request: ScopedRequest, name: str) -> schemas.WorkOut:
    """How far one's work of this name is; `under_way` is false before it has begun and after it has ended."""
    found = progress.find((request.auth.user.pk, name))
    if found is None:
        return schemas.WorkOut(under_way=False, doing="", done_share=0.0, place=0)
    return schemas.WorkOut.of(found, under_way=True, done_share=found.share)


@router.delete("/work/{name}", response={204: None}, operation_id="stop_work")
def stop_work(request: ScopedRequest, name: str) -> Status[None]:
    """Stop one's work of this name; what has ended already is stopped as well."""
    found = progress.find((request.auth.user.pk, name))
    if found is not None:
        found.stopped = True
    return Status(204, None)
