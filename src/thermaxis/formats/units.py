"""What is printed in the reader's units: quantities and sentences; SI, °C and mm come in."""

from __future__ import annotations

import re
from typing import Literal

System = Literal["metric", "imperial"]
# Unit: factor, offset, unit and digits of the other system. K is a difference, °C a temperature.
_OTHER = {
    "°C": (1.8, 32.0, "°F", 0),
    "K": (1.8, 0.0, "°F", 0),
    "N": (0.224809, 0.0, "lbf", 0),
    "mm": (1 / 25.4, 0.0, "in", 3),
}
_SAID = re.compile(r"(-?\d+(?:\.\d+)?) (°C|K|N|mm)\b(?! m\b)")


def quantity(value: float, unit: str, system: System) -> str:
    """A value with its unit, "°C", "K", "N" or "mm", in the reader's system; metric to whole units."""
    if system == "metric":
        return f"{value:.0f} {unit}"
    factor, offset, symbol, digits = _OTHER[unit]
    return f"{value * factor + offset:.{digits}f} {symbol}"


def sentence(text: str, system: System) -> str:
    """A sentence of the core with its temperatures, forces and lengths in the reader's system."""
    if system == "metric":
        return text
    return _SAID.sub(lambda found: quantity(float(found[1]), found[2], system), text)
