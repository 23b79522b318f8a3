"""The second factor: a time code of a device (RFC 6238), and codes to write down for when it is lost."""

from __future__ import annotations

import base64
import secrets
from dataclasses import dataclass

import segno
from django.contrib.auth.models import User
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import TimeCode
from thermaxis.apps.accounts.secrets import print_of
from thermaxis.core.errors import FieldError, SolveError

CODES, GROUPS, LETTERS = 10, 4, "abcdefghjkmnpqrstuvwxyz23456789"


@dataclass(frozen=True, kw_only=True)
class Begun:
    """A device that is being set up: what it is told by hand, and the same as a picture (SVG path, its side)."""

    secret: str
    picture: str


def has_second(user: User) -> bool:
    """Whether this person signs in with a code."""
    return bool(TimeCode.objects.filter(user=user, confirmed=True).exists())


def begin(user: User) -> Begun:
    """Start setting up; what was begun before is forgotten, what is in use stays in use."""
    with change():
        TimeCode.objects.filter(user=user, confirmed=False).delete()
        device = TimeCode(user=user, name="time code", confirmed=False)
        device.seal()
        device.save()
    secret = base64.b32encode(device.bin_key).decode("ascii").rstrip("=")
    return Begun(secret=secret, picture=segno.make(device.config_url, error="m").svg_data_uri(scale=4, border=2))


def finish(user: User, code: str) -> list[str]:
    """The device shows the right code: it is asked for from now on. Gives codes to write down. Raises FieldError."""
    device = TimeCode.objects.filter(user=user, confirmed=False).order_by("-pk").first()
    if device is None:
        raise FieldError("code", "", "a device that is being set up: begin again")
    if not device.verify_token(_digits(code)):
        raise FieldError("code", code[:12], "the six digits your device shows now")
    with change():
        TimeCode.objects.filter(user=user, confirmed=True).delete()
        device.confirmed = True
        device.save(update_fields=["confirmed"])
        return new_codes(user)


def new_codes(user: User) -> list[str]:
    """Other codes to write down, each good once; those of before are good no more."""
    codes = ["-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(GROUPS)) for _ in range(CODES)]
    with change():
        StaticDevice.objects.filter(user=user).delete()
        device = StaticDevice.objects.create(user=user, name="written down", confirmed=True)
        StaticToken.objects.bulk_create(StaticToken(device=device, token=_kept(code)) for code in codes)
    return codes


def codes_again(user: User) -> list[str]:
    """Other codes for one who signs in with a code already. Raises SolveError for one who does not."""
    if not has_second(user):
        raise SolveError("There is no second factor these codes could stand for.")
    return new_codes(user)


def codes_left(user: User) -> int:
    """How many of the codes that were written down are good."""
    return int(StaticToken.objects.filter(device__user=user).count())


def end_second(user: User) -> None:
    """Sign in without a code again."""
    with change():
        TimeCode.objects.filter(user=user).delete()
        StaticDevice.objects.filter(user=user).delete()


def is_code(user: User, code: str) -> bool:
    """Whether this is what the device shows, or one that was written down: either is good once."""
    digits = _digits(code)
    # Read and used up in one transaction: two who send the same code at once are not both let in. Each device holds
    # guessing off by itself, longer with every code that was wrong.
    with change():
        rows = (TimeCode if digits else StaticDevice).objects.filter(user=user, confirmed=True)
        return any(device.verify_token(digits or _kept(code)) for device in rows)


def _digits(code: str) -> str:
    plain = code.replace(" ", "")
    return plain if plain.isascii() and plain.isdigit() and len(plain) == 6 else ""


def _kept(code: str) -> str:
    """As much of a written code's print as the table holds: 64 bits."""
    return print_of("".join(letter for letter in code.lower() if letter in LETTERS))[:16]
