"""Sign in and change a password, with guessing held off by name and by address."""

from __future__ import annotations

import datetime as dt

from axes.models import AccessFailureLog, AccessLog
from django.contrib.auth import authenticate, login, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.core.errors import FieldError

# Beyond these only those are let in who have been in from there before: guessing from many addresses ends, and nobody
# at their usual place is kept out by what others try.
MOST_BY_NAME, NAME_WINDOW = 60, dt.timedelta(hours=24)
MOST_BY_ADDRESS, ADDRESS_WINDOW = 200, dt.timedelta(hours=1)
KNOWN_FOR, FAILURES_KEPT = dt.timedelta(days=60), dt.timedelta(days=30)


class TooManyAttempts(Exception):
    """Guessing, or what looks like it."""


def sign_in(request: HttpRequest, username: str, password: str) -> User | None:
    """Sign a person in; None where name or password is wrong, whichever it is. Raises TooManyAttempts."""
    _hold_off(username, str(request.META.get("REMOTE_ADDR")))
    user = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        raise TooManyAttempts
    if user is not None:
        login(request, user)
    return user


def change_password(request: HttpRequest, user: User, current: str, new: str) -> None:
    """Give a person another password; every other session of theirs ends. FieldError without saying what was typed."""
    _hold_off(user.get_username(), str(request.META.get("REMOTE_ADDR")))
    known = authenticate(request, username=user.get_username(), password=current)
    if getattr(request, "axes_locked_out", False):
        raise TooManyAttempts
    if known is None or known.pk != user.pk:
        raise FieldError("current", "", "your present password")
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise FieldError("new", "", "a stronger one: " + " ".join(error.messages)) from None
    with change():
        known.set_password(new)
        known.save(update_fields=["password"])
    update_session_auth_hash(request, known)


def _hold_off(username: str, address: str) -> None:
    now = timezone.now()
    failures = AccessFailureLog.objects.all()
    by_name = failures.filter(username=username, attempt_time__gte=now - NAME_WINDOW).count()
    by_address = failures.filter(ip_address=address, attempt_time__gte=now - ADDRESS_WINDOW).count()
    if by_name < MOST_BY_NAME and by_address < MOST_BY_ADDRESS:
        return
    failures.filter(attempt_time__lt=now - FAILURES_KEPT).delete()
    been_here = AccessLog.objects.filter(username=username, ip_address=address, attempt_time__gte=now - KNOWN_FOR)
    if not been_here.exists():
        raise TooManyAttempts
