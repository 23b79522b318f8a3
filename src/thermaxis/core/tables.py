"""The tables of core/data as they stand in their files."""

from __future__ import annotations

import csv
import functools
from importlib import resources


@functools.cache
def rows_of(name: str) -> tuple[dict[str, str], ...]:
    """Rows of the table `name`.csv as text by column; units stand in the column names."""
    text = resources.files("thermaxis.core").joinpath(f"data/{name}.csv").read_text("utf-8")
    return tuple(csv.DictReader(text.splitlines()))
