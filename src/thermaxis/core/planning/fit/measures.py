"""What is measured of a caliper and its hub, a rotor and a pad to know whether they go together, and how."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.tables import rows_of


@dataclass(frozen=True, kw_only=True)
class Measure:
    """One measure: its name with the unit, what it is called, how it is taken, and between what it lies in SI."""

    name: str
    label: str
    how: str
    least: float
    most: float
    quantity: str

    def check(self, value: float | None) -> None:
        """Raise FieldError unless the value is within the bounds, in SI, or None for not known."""
        if value is None:
            return
        # Written so that what is no number (NaN) is refused as well.
        if not self.least <= value <= self.most:
            raise FieldError.outside(self.name, value, Bounds(least=self.least, most=self.most), " or null")
        if self.quantity == "count" and value != int(value):
            raise FieldError(self.name, value, "a whole number or null")


def _measures(part: str) -> dict[str, Measure]:
    return {
        row["name"]: Measure(
            name=row["name"],
            label=row["label"],
            how=row["how"],
            least=float(row["least"]),
            most=float(row["most"]),
            quantity=row["quantity"],
        )
        for row in rows_of("fit_measures")
        if row["part"] == part
    }


CALIPER = _measures("caliper")
ROTOR = _measures("rotor")
PAD = _measures("pad")

# Whose estimates are taken where nobody has said which class a machine is of.
_USUAL = {"car": "family", "truck": "van", "motorcycle": "motorcycle"}


def usual(axle: str, name: str, vehicle_class: str, kind: str) -> float | None:
    """What a measure of a caliper usually is, by the class of vehicle, in SI; None where a class says nothing of it.

    >>> usual("front", "running_clearance_m", "", "car")
    0.0005
    """
    row = next((row for row in rows_of("fit_classes") if row["name"] == f"{axle}.{name}"), None)
    return None if row is None else float(row[vehicle_class or _USUAL[kind]])
