"""Workshops and their members; every other row of the application belongs to a workshop."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, Self, TypeVar

from django.conf import settings
from django.db import models
from django.utils import timezone
from django_otp.plugins.otp_totp.models import TOTPDevice

from thermaxis.apps.accounts.sealing import BrokenSeal, sealed, unsealed

M = TypeVar("M", bound=models.Model)


def put(row: models.Model, columns: Iterable[str], values: Mapping[str, Any]) -> None:
    """Set these columns of a row, and no others, whatever else the values hold."""
    for column in columns:
        setattr(row, column, values[column])


class OwnedQuerySet(models.QuerySet[M]):
    """Rows of one workshop only: every query starts here."""

    def of(self, workshop: Workshop) -> Self:
        return self.filter(workshop=workshop)


class Role(models.TextChoices):
    """What a member may do: everything; all work; what concerns one's own machines; look."""

    OWNER = "owner"
    FITTER = "fitter"
    DRIVER = "driver"
    READER = "reader"


class Reach(models.TextChoices):
    """How far a key goes: look, write readings down, or as far as its person."""

    READ = "read"
    READINGS = "readings"
    ALL = "all"


class Workshop(models.Model):
    name = models.CharField(max_length=120)
    currency = models.CharField(max_length=4, default="£")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="workshops")
    # Another one with every change of more than one machine: what is kept in memory is good for as long as it stays.
    stamp = models.CharField(max_length=16, blank=True)
    # Nobody works here without a second factor.
    second_factor = models.BooleanField(default=False)

    def __str__(self) -> str:
        return self.name


class MachineStamp(models.Model):
    """Another one with every change that concerns one machine and nothing beside it. Machines are known by number."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    machine_id = models.PositiveBigIntegerField()
    stamp = models.CharField(max_length=16)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "machine_id"], name="one_stamp_of_a_machine")]


class Membership(models.Model):
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)
    role = models.CharField(max_length=6, choices=Role.choices, default=Role.OWNER)
    # Of which version this member has read what changed.
    read_news_of = models.CharField(max_length=20, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "workshop"], name="one_membership")]


class OneTimeAddress(models.Model):
    """An address that is good for one use: to found a workshop, to join one, or to be given another password.

    What is kept of its secret is a print, by which it is found and from which it cannot be made.
    """

    class Kind(models.TextChoices):
        FOUND = "found"
        JOIN = "join"
        RESET = "reset"

    kind = models.CharField(max_length=5, choices=Kind.choices)
    print = models.CharField(max_length=64, unique=True)
    workshop = models.ForeignKey(Workshop, null=True, on_delete=models.CASCADE, related_name="+")
    role = models.CharField(max_length=6, choices=Role.choices, blank=True)
    # Whose password a reset is for.
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="+")
    # For whom it is meant, in the words of whoever made it.
    note = models.CharField(max_length=120, blank=True)
    # Whose machines a driver drives: an owner of the workshop, by name.
    machines_of = models.CharField(max_length=120, blank=True)
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        verbose_name = "one-time address"

    def is_open(self) -> bool:
        """Whether it still leads anywhere."""
        return self.used_at is None and self.withdrawn_at is None and self.ends_at > timezone.now()


class OpenSession(models.Model):
    """A browser that is signed in: from where, since when, seen last. Without its row a session is over."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    place = models.CharField(max_length=45)
    device = models.CharField(max_length=120)
    made_at = models.DateTimeField(default=timezone.now)
    seen_at = models.DateTimeField(default=timezone.now)


class ApiKey(models.Model):
    """A key by which a gauge, a logger or the command line works in a person's name, in one workshop."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    reach = models.CharField(max_length=8, choices=Reach.choices)
    print = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField(default=timezone.now)
    used_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        verbose_name = "key"


class Owned(models.Model):
    """Base of every row that belongs to a workshop."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True


class ChangeKey(models.Model):
    """A change that was made, by the page's own key for it, and what was answered: asked again, it says so again.

    `caller` is the session or API key it came by, in one workshop: nobody else is given the answer. What gives a secret
    has none stored.
    """

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=64)
    operation = models.CharField(max_length=200)
    fingerprint = models.CharField(max_length=64)
    caller = models.CharField(max_length=40)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    secret = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True, db_index=True)
    # Packed; empty until the answer was given, or where it was too long to store.
    status = models.PositiveSmallIntegerField(null=True)
    media_type = models.CharField(max_length=80, blank=True)
    content = models.BinaryField(default=b"")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="one_change_per_key")]


class TimeCode(TOTPDevice):  # type: ignore[misc]
    """A device that shows time codes; what it was told is sealed in its row."""

    class Meta:
        proxy = True

    @property
    def bin_key(self) -> bytes:
        """What the device was told. Raises BrokenSeal where another server has sealed it."""
        return unsealed(str(self.key))

    def seal(self) -> None:
        """Seal what the device was told, where it is not yet."""
        self.key: str = sealed(self.bin_key)

    def verify_token(self, token: str) -> bool:
        """Whether this is what it shows now; one that was sealed elsewhere shows nothing here."""
        try:
            return bool(super().verify_token(token))
        except BrokenSeal:
            return False
