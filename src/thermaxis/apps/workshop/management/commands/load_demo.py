"""`manage.py load_demo`: load the demo scenario if it is not there yet."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.core.management.base import BaseCommand

from thermaxis.apps.workshop.actions.load_demo import load_demo


class Command(BaseCommand):
    help = "Load the demo workshop with its machines, catalogue and duties; harmless when it is there already."

    def handle(self, *args: Any, **options: Any) -> None:
        self.stdout.write(f"Demo workshop: {load_demo(dt.date.today()).name}")
