"""What the server does by itself: a backup each night, and what is old and of no use to anybody taken away."""

from __future__ import annotations

import datetime as dt
import logging
import threading

from axes.models import AccessAttempt, AccessFailureLog, AccessLog
from django.conf import settings
from django.contrib.sessions.backends.db import SessionStore
from django.db import DatabaseError, connection
from django.utils import timezone

from thermaxis.apps.accounts.models import OneTimeAddress, OpenSession
from thermaxis.apps.accounts.sessions import FAILURES_KEPT, KNOWN_FOR
from thermaxis.apps.safekeeping.backing_up import keep_if_due
from thermaxis.core.errors import ThermaxisError

log = logging.getLogger("thermaxis")
LOOK_EVERY_S = 600.0
# Used, withdrawn or late addresses tell for a while who was let in by whom.
ADDRESSES_KEPT = dt.timedelta(days=90)


def do_due(now: dt.datetime) -> None:
    """Whatever is due at this moment; what goes wrong is written down, and tried again the next time."""
    try:
        made = keep_if_due(now)
        if made is not None:
            log.info("backup made: %s", made.name)
            forget_old(now)
    except (OSError, DatabaseError, ThermaxisError) as error:
        log.error("the backup of today could not be made: %s", error)


def forget_old(now: dt.datetime) -> None:
    """Sessions that have ended, attempts to sign in of long ago, addresses that lead nowhere."""
    SessionStore.clear_expired()
    OpenSession.objects.filter(made_at__lt=now - dt.timedelta(seconds=settings.SESSION_COOKIE_AGE)).delete()
    AccessFailureLog.objects.filter(attempt_time__lt=now - FAILURES_KEPT).delete()
    AccessAttempt.objects.filter(attempt_time__lt=now - FAILURES_KEPT).delete()
    AccessLog.objects.filter(attempt_time__lt=now - KNOWN_FOR).delete()
    OneTimeAddress.objects.filter(ends_at__lt=now - ADDRESSES_KEPT).delete()


def start() -> threading.Event:
    """Look now and every ten minutes, beside the server; set what is returned to end it."""
    ended = threading.Event()

    def run() -> None:
        while not ended.is_set():
            do_due(timezone.now())
            connection.close()
            ended.wait(LOOK_EVERY_S)

    threading.Thread(target=run, name="nightly", daemon=True).start()
    return ended
