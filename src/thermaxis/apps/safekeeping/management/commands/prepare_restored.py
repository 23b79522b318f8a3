"""Make a backup's database fit to be restored; run by `restoring` in a process of its own, on the file it names."""

from __future__ import annotations

import datetime as dt
import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from thermaxis.apps.safekeeping.preparing import prepare
from thermaxis.core.errors import ThermaxisError


class Command(BaseCommand):
    help = "make a backup's database fit to be restored"
    # What is checked was checked as the server began; loading all of it again takes longest.
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("made_at")
        parser.add_argument("live")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            found = prepare(dt.datetime.fromisoformat(options["made_at"]), Path(options["live"]))
        except ThermaxisError as error:
            raise CommandError(str(error)) from None
        self.stdout.write(json.dumps(found))
