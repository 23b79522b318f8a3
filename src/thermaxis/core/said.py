"""Sentences as templates with typed quantities: SI in, no unit and no figure until somebody reads them.

A template names its values and what each is: `"{axle} rings reach {peak:temperature}, {over:temperatureChange} over"`.
Quantities and their units stand in `core/data/quantities.json`, which the page reads too; `formats/units.py` and
`web/src/lib/said.ts` each fill a sentence in the reader's units. After `|` stands how: `bare` leaves the unit away,
`two` gives two significant figures, `up` and `down` the same rounded to the side on which a bound still holds,
`capital` starts with a capital letter; a list of sentences is joined by `and`, `commas`, `semicolons` or `spaces`.
"""

from __future__ import annotations

import datetime as dt
import functools
import json
import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib import resources
from typing import Any

PLACE = re.compile(r"\{(\w+)(?::(\w+))?(?:\|(\w+))?\}")
FIGURES = ("bare", "two", "up", "down")
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
JOINS = {"and": " and ", "commas": ", ", "semicolons": "; ", "spaces": " ", "plus": " + "}


@dataclass(frozen=True, kw_only=True)
class Said:
    """A sentence: its template and its values; quantities in SI (temperatures degC, differences K), names as text."""

    template: str
    values: Mapping[str, float | str | Said | Sequence[Said]]


@functools.cache
def quantities() -> dict[str, dict[str, Any]]:
    """Every quantity by name with its unit in both systems: symbol, factor from SI, offset, digits or figures."""
    table: dict[str, dict[str, Any]] = json.loads(
        resources.files("thermaxis.core.data").joinpath("quantities.json").read_text("utf-8")
    )
    return table


class Sentence:
    """A template that is checked when it is written down, and gives a `Said` when called with its values.

    Raises ValueError for an unknown quantity or way to fill it, TypeError for values that do not belong to it.
    """

    def __init__(self, template: str) -> None:
        self.template = template
        self.places = {name: (quantity, way) for name, quantity, way in PLACE.findall(template)}
        for name, (quantity, way) in self.places.items():
            if quantity and quantity not in quantities():
                raise ValueError(f"{name} of {template!r}: no quantity {quantity!r}")
            if way and way not in (FIGURES if quantity else (*JOINS, "capital")):
                raise ValueError(f"{name} of {template!r}: no way {way!r} to fill it")
        if re.search(r"[{}]", PLACE.sub("", template)):
            raise ValueError(f"{template!r}: a brace that is no place for a value")

    def __call__(self, **values: float | str | Said | Sequence[Said]) -> Said:
        """The sentence with these values: floats for quantities, text or sentences for the rest."""
        if values.keys() != self.places.keys():
            raise TypeError(f"{self.template!r} takes {', '.join(self.places)}, not {', '.join(values)}")
        for name, (quantity, _) in self.places.items():
            if bool(quantity) != isinstance(values[name], int | float):
                raise TypeError(f"{name} of {self.template!r} cannot be {values[name]!r}")
        return Said(template=self.template, values={name: _carried(value) for name, value in values.items()})


def _carried(value: float | str | Said | Sequence[Said]) -> float | str | Said | Sequence[Said]:
    """The value; of a number that never comes its sign, as a wire of finite numbers carries no other."""
    if not isinstance(value, int | float):
        return value
    if math.isfinite(value):
        return float(value)
    return "?" if math.isnan(value) else ("∞" if value > 0 else "−∞")


def day_text(day: dt.date) -> str:
    """A day as a sentence names it, in an order nobody reads otherwise: 26 Nov 2026."""
    return f"{day.day} {MONTHS[day.month - 1]} {day.year}"


_VERBATIM = Sentence("{text}")


def verbatim(text: str) -> Said:
    """Words without a quantity, where a sentence is expected."""
    return _VERBATIM(text=text)
