"""What is printed in the reader's units: quantities and sentences; SI comes in. `web/src/lib/said.ts` is its twin."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from decimal import ROUND_HALF_UP, Decimal
from typing import Any, Literal

from thermaxis.core.said import JOINS, PLACE, Said, quantities

System = Literal["metric", "imperial"]


def quantity(value: float, kind: str, system: System) -> str:
    """A value in SI with its unit in the reader's system; the kinds stand in `core/data/quantities.json`."""
    return _filled(value, kind, "", system)


def said_text(said: Said, system: System = "metric") -> str:
    """A sentence with its values in the reader's units."""

    def fill(place: re.Match[str]) -> str:
        name, kind, way = place[1], place[2], place[3] or ""
        value = said.values[name]
        if isinstance(value, Said):
            value = said_text(value, system)
        if isinstance(value, str):
            return value[:1].upper() + value[1:] if way == "capital" else value
        if isinstance(value, int | float):
            return _filled(value, kind, way, system)
        return JOINS[way].join(said_text(part, system) for part in value)

    return PLACE.sub(fill, said.template)


def said_of(content: Any) -> Said:
    """A sentence as it stands in JSON, read back."""

    def read(value: Any) -> Any:
        if isinstance(value, list):
            return [said_of(part) for part in value]
        return said_of(value) if isinstance(value, dict) else value

    return Said(template=content["template"], values={name: read(value) for name, value in content["values"].items()})


def worded_sentence(content: Any) -> str:
    """A stored sentence in metric units. Raises where it is none, or a value of it is missing."""
    said = said_of(content)
    return said_text(said)


def worded(content: Any) -> Any:
    """A document with every sentence in it said in metric units."""
    if isinstance(content, Mapping):
        if content.keys() == {"template", "values"}:
            return said_text(said_of(content))
        return {name: worded(value) for name, value in content.items()}
    return [worded(value) for value in content] if isinstance(content, list | tuple) else content


def _filled(value: float, kind: str, way: str, system: System) -> str:
    unit = quantities()[kind][system]
    shown = value * unit["factor"] + unit.get("offset", 0.0)
    if way in ("two", "up", "down"):
        text = _bound(shown, way)
    elif "figures" in unit:
        text = _figures(shown, unit["figures"])
    else:
        text = _rounded(shown, unit["below_ten"] if abs(shown) < 10 and "below_ten" in unit else unit["digits"])
        # What is counted has no tenths where there are none.
        text = text.removesuffix(".0") if "one" in unit else text
    if kind == "distance" and abs(shown) >= 10_000:
        text = _grouped(text)
    symbol = _symbol(unit, text)
    return text if way == "bare" or not symbol else f"{text} {symbol}"


def _symbol(unit: Mapping[str, Any], text: str) -> str:
    """The unit's symbol, or its word for one of it."""
    symbol: str = unit.get("one", unit["symbol"]) if text == "1" else unit["symbol"]
    return symbol


def _rounded(value: float, digits: int) -> str:
    """To so many decimals, a half away from zero as the page does it; never "-0"."""
    exact = Decimal(value).quantize(Decimal(1).scaleb(-digits), rounding=ROUND_HALF_UP)
    return f"{abs(exact) if exact == 0 else exact:f}"


def _figures(value: float, figures: int) -> str:
    """To so many significant figures, without zeros at the end."""
    if value == 0:
        return "0"
    exact = Decimal(value)
    rounded = exact.quantize(Decimal(1).scaleb(exact.adjusted() - figures + 1), rounding=ROUND_HALF_UP)
    text = f"{rounded:f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def _bound(value: float, way: str) -> str:
    """To two figures; `up` and `down` to the side on which a bound still holds."""
    if way == "two" or value == 0:
        return _figures(value, 2)
    place = math.floor(math.log10(abs(value))) - 1
    scaled = value / 10.0**place
    whole = math.ceil(scaled - 1e-6) if way == "up" else math.floor(scaled + 1e-6)
    return _figures(whole * 10.0**place, 2)


def _grouped(text: str) -> str:
    """Thousands told apart by a narrow space, which nobody takes for a decimal mark."""
    return f"{Decimal(text):,}".replace(",", "\u202f")
