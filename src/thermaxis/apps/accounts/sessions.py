"""Sign in and change a password, with guessing held off by name and by address; the browsers that are signed in."""

from __future__ import annotations

import contextlib
import datetime as dt
from typing import Any

from axes.models import AccessFailureLog, AccessLog
from django.contrib.auth import authenticate, login, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.signals import user_login_failed
from django.core.exceptions import ValidationError
from django.db import DatabaseError
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import OneTimeAddress, OpenSession
from thermaxis.apps.accounts.second import has_second, is_code
from thermaxis.core.errors import FieldError

# Beyond these only those are let in who have been in from there before: guessing from many addresses ends, and nobody
# at their usual place is kept out by what others try.
MOST_BY_NAME, NAME_WINDOW = 60, dt.timedelta(hours=24)
MOST_BY_ADDRESS, ADDRESS_WINDOW = 200, dt.timedelta(hours=1)
KNOWN_FOR, FAILURES_KEPT = dt.timedelta(days=60), dt.timedelta(days=30)
# Where the session remembers its row, and how often that says when it was seen.
OPEN, SEEN_EVERY = "open", dt.timedelta(minutes=10)


class TooManyAttempts(Exception):
    """Guessing, or what looks like it."""


class CodeNeeded(Exception):
    """Name and password are right, and this person signs in with a code as well; `wrong` where one came."""

    def __init__(self, *, wrong: bool) -> None:
        self.wrong = wrong
        super().__init__(wrong)


def sign_in(request: HttpRequest, username: str, password: str, code: str = "") -> User | None:
    """Sign a person in; None where name or password is wrong, whichever it is. Raises TooManyAttempts, CodeNeeded."""
    user = _known(request, username, password)
    if user is None:
        return None
    if has_second(user):
        if not code:
            raise CodeNeeded(wrong=False)
        if not is_code(user, code):
            # Counted with the passwords that were wrong.
            user_login_failed.send(__name__, credentials={"username": username}, request=request)
            raise CodeNeeded(wrong=True)
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    return user


def is_password(request: HttpRequest, user: User, password: str, path: str = "password") -> None:
    """Whoever changes how one signs in says the password once more. Raises FieldError, TooManyAttempts."""
    known = _known(request, user.get_username(), password)
    if known is None or known.pk != user.pk:
        raise FieldError(path, "", "your present password")


def change_password(request: HttpRequest, user: User, current: str, new: str) -> None:
    """Give a person another password; every other session of theirs ends. FieldError without saying what was typed."""
    is_password(request, user, current, "current")
    check_password_strength(new, user, "new")
    with change():
        set_password(user, new)
        end_sessions(sessions_of(user).exclude(pk=here(request)))
    update_session_auth_hash(request, user)


def check_password_strength(new: str, user: User, path: str) -> None:
    """Refuse what is short, common, or the name once more. FieldError without saying what was typed."""
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise FieldError(path, "", "a stronger one: " + " ".join(error.messages)) from None


def set_password(user: User, new: str) -> None:
    """Within a change: another password; addresses by which somebody could set one lead nowhere any more."""
    user.set_password(new)
    user.save(update_fields=["password"])
    withdraw_resets(user)


def withdraw_resets(user: User) -> None:
    """Within a change: addresses for another password end with whatever they were given for.

    Who gave one did so for a person who was in their workshop alone, in one role, with one password.
    """
    rows = OneTimeAddress.objects.filter(kind=OneTimeAddress.Kind.RESET, user=user, used_at=None, withdrawn_at=None)
    rows.update(withdrawn_at=timezone.now())


def sessions_of(user: User) -> QuerySet[OpenSession]:
    """Where a person is signed in, the last seen first; what the cookie has outlived is left out."""
    from django.conf import settings

    since = timezone.now() - dt.timedelta(seconds=settings.SESSION_COOKIE_AGE)
    return OpenSession.objects.filter(user=user, made_at__gte=since).order_by("-seen_at", "-pk")


def end_sessions(rows: QuerySet[OpenSession]) -> int:
    """End them: whoever works there is asked to sign in again. Gives how many there were."""
    with change():
        return rows.delete()[0]


def here(request: HttpRequest) -> int:
    """The number of the session that asks; 0 where it has none."""
    return int(request.session.get(OPEN) or 0)


def note_seen(request: HttpRequest, seen_at: dt.datetime) -> None:
    """Write down now and then that a session is in use, and from where."""
    now = timezone.now()
    # A disk that cannot be written keeps nobody from reading.
    if now - seen_at > SEEN_EVERY:
        with contextlib.suppress(DatabaseError):
            OpenSession.objects.filter(pk=here(request)).update(seen_at=now, place=_place(request))


def remember(sender: Any, request: HttpRequest, user: User, **_: Any) -> None:
    """Write down that a browser was signed in; called by Django for every way in."""
    words = request.headers.get("User-Agent", "")
    row = OpenSession.objects.create(user=user, place=_place(request), device=device_words(words))
    request.session[OPEN] = row.pk


def device_words(agent: str) -> str:
    """What a person calls a browser's machine, of the long line it says of itself."""
    kinds = (("iPhone", "phone"), ("Android", "phone"), ("iPad", "tablet"), ("Windows", "Windows computer"))
    kinds += (("Macintosh", "Mac computer"), ("Linux", "Linux computer"))  # type: ignore[assignment]
    return next((words for sign, words in kinds if sign in agent), "another device")


def _place(request: HttpRequest) -> str:
    return str(request.META.get("REMOTE_ADDR", ""))[:45]


def _known(request: HttpRequest, username: str, password: str) -> User | None:
    _hold_off(username, str(request.META.get("REMOTE_ADDR")))
    user = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        raise TooManyAttempts
    return user


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
