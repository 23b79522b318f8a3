"""What each version changed, as owners are told once after an upgrade."""

from __future__ import annotations

from django.contrib.auth.models import User

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import Membership

NEWS: dict[str, tuple[str, ...]] = {
    "0.2.0": (
        "People of their own: owners invite fitters, drivers and readers under Settings, People; a password, sessions "
        "that can be ended, a second factor, keys for gauges and programs.",
        "A backup each night, and by hand under Settings, Backup; put back from there too. Look whether they are "
        "kept where this machine's end does not reach them.",
        "Fit, Job, Bed and Life go through a whole change of parts: what goes into the caliper, the sheet for the bay, "
        "bedding with a card for the passenger, and what lasts until which event.",
        "The model of heat is another one: long drags reach pads and fluid, and fluid boils earlier at height. "
        "Verdicts of earlier decisions stay as they were kept; look at them again before acting on one.",
        "Without a connection, what a device has seen opens again, and what is typed waits until there is one.",
    )
}


def unread(read_of: str) -> tuple[str, ...]:
    """What changed since the version somebody has read about; nothing where that is this one."""
    return tuple(line for version, lines in NEWS.items() if _order(read_of) < _order(version) for line in lines)


def say_read(user: User) -> None:
    """Somebody has read it up to this version: in all of their workshops, as it is one server that was upgraded."""
    with change():
        Membership.objects.filter(user=user).update(read_news_of=__version__)


def _order(version: str) -> tuple[int, ...]:
    return tuple(int(part) for part in version.split(".")) if version else ()
