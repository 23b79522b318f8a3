"""Many changes of columns as one: each table is written again once, and models are put together once."""

from __future__ import annotations

from typing import Any

from django.db.migrations.operations import AlterField
from django.db.migrations.operations.base import Operation


class Remade(Operation):
    """Change fields; in SQLite that is a new table with the old one's rows."""

    reversible = False

    def __init__(self, fields: list[AlterField]) -> None:
        self.fields = fields

    def state_forwards(self, app_label: str, state: Any) -> None:
        state.__dict__.pop("apps", None)
        for field in self.fields:
            field.state_forwards(app_label, state)

    def database_forwards(self, app_label: str, schema_editor: Any, from_state: Any, to_state: Any) -> None:
        for name in sorted({field.model_name for field in self.fields}):
            schema_editor._remake_table(to_state.apps.get_model(app_label, name))

    def database_backwards(self, *_: Any) -> None:
        raise NotImplementedError
