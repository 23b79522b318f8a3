"""An older log as a table: whose kilometres, and what a row that cannot be read says."""

from __future__ import annotations

import pytest

from thermaxis.formats.log_table import read_log
from thermaxis.formats.table import read_table

COLUMNS = {"on": "Date", "text": "Work"}


@pytest.mark.parametrize(
    ("heading", "miles"),
    [
        ("Mileage km", False),
        ("Mileage (km)", False),
        ("Odometer limit", False),
        ("Kilometres", False),
        ("Miles", True),
        ("Mileage (mi)", True),
        ("odometer, mi", True),
        ("Mileage", True),
    ],
)
def test_whose_kilometres_a_heading_means(heading: str, miles: bool) -> None:
    table = read_table(f"Date;{heading};Work\n2021-03-04;1200;Pads\n".encode())
    found = read_log(table, {**COLUMNS, "odometer_km": heading})
    assert found.miles is miles
    assert found.entries[0].odometer_km == pytest.approx(1200 * (1.609344 if miles else 1.0))


def test_a_row_that_cannot_be_read_says_what_stands_there_and_what_is_wanted() -> None:
    table = read_table(b"Date;Work;Cost\nsome day;Pads;\n2021-03-04;;\n2021-03-05;Fluid;12 tons of 5.5.5-\n")
    found = read_log(table, {**COLUMNS, "cost": "Cost"})
    assert dict(found.wrong) == {
        2: "some day is not a day such as 2026-12-31 or 31.12.2026",
        3: "empty where words should stand",
        4: "12 tons of 5.5.5- is not a number",
    }
