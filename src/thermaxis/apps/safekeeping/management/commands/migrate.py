"""Django's `migrate`, with the way of an older database before it."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.commands.migrate import Command as Migrate
from django.db import DatabaseError, connections
from django.db.migrations.recorder import MigrationRecorder

OLDER = Path(__file__).parents[2] / "older"
APPS = sorted(path.name for path in OLDER.iterdir() if (path / "__init__.py").is_file())


class Command(Migrate):
    def handle(self, *args: Any, **options: Any) -> None:
        if not options["app_label"] and self._is_older(options["database"]):
            with _older_way():
                super().handle(*args, **options)
        super().handle(*args, **options)

    def _is_older(self, alias: str) -> bool:
        """Whether a database has begun the older way, and not ended it."""
        try:
            done = set(MigrationRecorder(connections[alias]).applied_migrations())
        except DatabaseError:
            return False
        older = {(app, path.stem) for app in APPS for path in (OLDER / app).glob("0*.py")}
        return bool(done & older) and not older <= done


@contextmanager
def _older_way() -> Iterator[None]:
    before = settings.MIGRATION_MODULES
    package = f"{__name__.partition('.management')[0]}.older"
    settings.MIGRATION_MODULES = {**before, **{app: f"{package}.{app}" for app in APPS}}
    try:
        yield
    finally:
        settings.MIGRATION_MODULES = before
