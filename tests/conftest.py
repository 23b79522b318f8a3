"""Shared by all tests: a database made once and copied; property tests are repeatable, never judged by the clock."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from django.conf import settings as configured
from django.db import connections
from django.test import TransactionTestCase
from hypothesis import HealthCheck, settings
from pytest_django import DjangoDbBlocker

from tests import template

settings.register_profile(
    "thermaxis", deadline=None, derandomize=True, max_examples=40, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("thermaxis")


@pytest.fixture(scope="session")
def database(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The file of this process's database."""
    return tmp_path_factory.mktemp("database") / "test.sqlite3"


@pytest.fixture(scope="session")
def django_db_setup(database: Path, django_db_blocker: DjangoDbBlocker) -> Iterator[None]:
    """The demo's data, copied instead of migrated and loaded; a test that commits leaves it as it was."""
    template.restore(database)
    configured.DATABASES["default"]["NAME"] = str(database)

    def put_back(_: TransactionTestCase) -> None:
        template.restore(database)

    patched = pytest.MonkeyPatch()
    patched.setattr(TransactionTestCase, "_fixture_teardown", put_back)
    with django_db_blocker.unblock():
        connections.close_all()
        connections["default"].settings_dict["NAME"] = str(database)
    yield
    patched.undo()
    with django_db_blocker.unblock():
        connections.close_all()
