"""A one-time address by mail, where the server has been told of a mail server."""

from __future__ import annotations

import logging
import smtplib

from django.conf import settings
from django.core.mail import send_mail

log = logging.getLogger("thermaxis")


def can_mail() -> bool:
    """Whether mail goes out from here."""
    return bool(settings.MAIL_FROM)


def mail_address(to: str, workshop: str, address: str) -> bool:
    """Send an invitation; whether it went out. The address is shown to copy in any case."""
    text = (
        f"You are invited to work with {workshop} in Thermaxis.\n\n{address}\n\n"
        "The address is good for seven days, and for one person. If you expected no invitation, forget this mail.\n"
    )
    try:
        return bool(send_mail(f"An invitation to {workshop}", text, settings.MAIL_FROM, [to]))
    except (OSError, smtplib.SMTPException) as error:
        log.warning("an invitation could not be mailed: %s", type(error).__name__)
        return False
