"""The offer a request is about."""

from __future__ import annotations

from thermaxis.apps.accounts.api.signed_in import ScopedRequest
from thermaxis.apps.accounts.kept import kept
from thermaxis.apps.accounts.models import Role
from thermaxis.apps.choose.choosing import Offer, offer_of
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.solving.api.following import followed


def offer_to(request: ScopedRequest, machine_id: int, mixed: bool) -> Offer:
    """Every set the machine takes; kept until something is written. It may wait for a turn: never ask within one."""
    workshop = request.auth.workshop
    # What is kept is kept for everybody: whose it is, is asked first.
    if request.auth.role == Role.DRIVER:
        machine_of(request.auth, machine_id)

    def build() -> Offer:
        machine = machine_of(request.auth, machine_id)
        if not mixed:
            return offer_of(machine, workshop)
        with followed(request, "Finding the compounds worth mixing") as watch:
            return offer_of(machine, workshop, mixed=True, watch=watch)

    return kept(workshop, ("offer", machine_id, mixed), build, machine_id)
