"""`manage.py write_schema FILE`: write the API's OpenAPI document."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser


def schema_text() -> str:
    """The OpenAPI document as committed."""
    from thermaxis.api.mount import api

    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, ensure_ascii=False) + "\n"


class Command(BaseCommand):
    help = "Write the API's OpenAPI document to a file."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        options["file"].write_text(schema_text(), "utf-8")
