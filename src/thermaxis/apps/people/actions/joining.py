"""What a one-time address leads to: a workshop of one's own, membership, another password."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.core.exceptions import ValidationError

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.accounts.models import Membership, OneTimeAddress, Role, Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.second import end_second
from thermaxis.apps.accounts.sessions import (
    check_password_strength,
    end_sessions,
    sessions_of,
    set_password,
    withdraw_resets,
)
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import EVERYBODY, Action
from thermaxis.apps.people.addresses import address_of, use_up
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError

FOUND_WORKSHOP = Action("found_workshop", "Workshop founded", kind="people", roles=EVERYBODY)
JOIN_WORKSHOP = Action("join_workshop", "Joined", kind="people", roles=EVERYBODY)

LONGEST_NAME = 80


def found_workshop(secret: str, username: str, password: str, name: str, currency: str) -> User:
    """The first person makes the workshop and is its owner. FieldError, NotThere."""
    row = _address(secret, OneTimeAddress.Kind.FOUND)
    user = _new_person(username, password)
    _needed("workshop", name)
    _needed("currency", currency)
    with change():
        use_up(row)
        if Membership.objects.exists():
            raise NotThere
        _keep(user)
        _belongs(user, _founded(name.strip(), currency.strip()), Role.OWNER, FOUND_WORKSHOP)
    return user


def join_as_new(secret: str, username: str, password: str) -> User:
    """Somebody who was never here joins a workshop. FieldError, NotThere."""
    row = _address(secret, OneTimeAddress.Kind.JOIN)
    user = _new_person(username, password)
    with change():
        use_up(row)
        _keep(user)
        _join(user, row)
    return user


def join(secret: str, user: User) -> Workshop:
    """Somebody who is signed in joins one more workshop. FieldError where they belong to it already; NotThere."""
    row = _address(secret, OneTimeAddress.Kind.JOIN)
    with change():
        use_up(row)
        if Membership.objects.filter(user=user, workshop=row.workshop).exists():
            raise FieldError("secret", "", "an invitation to a workshop you do not belong to yet")
        return _join(user, row)


def set_new_password(secret: str, password: str) -> User:
    """Another password; every session ends, and the second factor with it. FieldError, NotThere."""
    row = _address(secret, OneTimeAddress.Kind.RESET)
    user = User.objects.filter(pk=row.user_id or 0).first()
    if user is None:
        raise NotThere
    check_password_strength(password, user, "password")
    with change():
        use_up(row)
        set_password(user, password)
        end_second(user)
        end_sessions(sessions_of(user))
    return user


def _address(secret: str, kind: str) -> OneTimeAddress:
    row = address_of(secret)
    if row.kind != kind:
        raise NotThere
    return row


def _new_person(username: str, password: str) -> User:
    """A person as they would be kept. FieldError for a name that is taken or odd, and for a weak password."""
    name = username.strip()
    _needed("username", name)
    user = User(username=name)
    try:
        user.full_clean(exclude=["password"])
    except ValidationError:
        taken = User.objects.filter(username=name).exists()
        allowed = "a name nobody here has" if taken else "letters, digits and @ . + - _"
        raise FieldError("username", name[:40], allowed) from None
    check_password_strength(password, user, "password")
    user.set_password(password)
    return user


def _needed(path: str, text: str) -> None:
    check_text(path, text)
    longest = 4 if path == "currency" else LONGEST_NAME
    if not text.strip() or len(text) > longest:
        raise FieldError(path, text[:40], f"1 to {longest} characters")


def _keep(user: User) -> None:
    if User.objects.filter(username__iexact=user.username).exists():
        raise FieldError("username", user.username[:40], "a name nobody here has")
    user.save(force_insert=True)


def _founded(name: str, currency: str) -> Workshop:
    return Workshop.objects.create(name=name, currency=currency)


def _join(user: User, row: OneTimeAddress) -> Workshop:
    assert row.workshop is not None
    _belongs(user, row.workshop, Role(row.role), JOIN_WORKSHOP)
    if row.machines_of:
        Owner.objects.of(row.workshop).filter(name=row.machines_of).update(user=user)
    return row.workshop


def _belongs(user: User, workshop: Workshop, role: Role, by: Action) -> None:
    member = Membership.objects.create(user=user, workshop=workshop, role=role, read_news_of=__version__)
    withdraw_resets(user)
    note_ended("joined", name=user.get_username(), workshop=workshop.pk)
    with act(Scope(workshop=workshop, user=user, role=role), by) as entry:
        entry.changed("role", None, role)
        entry.about(member)
