"""Logged temperatures as CSV: the marks people's loggers use, and the line where one cannot be read."""

from __future__ import annotations

import pytest

from thermaxis.core.errors import FieldError
from thermaxis.formats.temperature_log import MOST_ROWS, read_log


@pytest.mark.parametrize(
    "text",
    [
        "t_s,temperature_C\n0,20.5\n1.5,30\n",
        "0,20.5\n1.5,30",
        "time;temp\n0;20,5\n\n1,5;30\n",
        "0\t20.5\textra\n1.5\t30",
    ],
)
def test_logs_are_read_whatever_splits_them(text: str) -> None:
    assert read_log(text) == ((0.0, 1.5), (20.5, 30.0))


@pytest.mark.parametrize(
    ("text", "path"),
    [("", "csv"), ("t,T\n0,20\nx,30", "csv line 3"), ("0,20\n1", "csv line 2"), ("0,1\n" * (MOST_ROWS + 1), "csv")],
)
def test_what_cannot_be_read_is_named(text: str, path: str) -> None:
    with pytest.raises(FieldError) as caught:
        read_log(text)
    assert caught.value.path == path


def test_times_of_day_with_a_decimal_comma_count_from_the_first() -> None:
    text = "Zeit\tTemperatur\n10:00:00,00\t52,5\n10:00:00,50\t53,0\n10:01:02,25\t99\n"
    assert read_log(text) == ((0.0, 0.5, 62.25), (52.5, 53.0, 99.0))
    assert read_log("59:58;20\n60:00;21") == ((0.0, 2.0), (20.0, 21.0))
    with pytest.raises(FieldError, match="line 2"):
        read_log("10:00:00;20\n1:2:3:4;21")
