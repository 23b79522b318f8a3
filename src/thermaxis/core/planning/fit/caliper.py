"""What a caliper's kind says about it: how it presses, how many pistons it has, what parks the vehicle."""

from __future__ import annotations

import re
from dataclasses import dataclass

LINES = ("hose", "pipe")
RETENTIONS = ("bracket", "pins", "bolted")
SENSORS = ("none", "left", "right", "both")


@dataclass(frozen=True, kw_only=True)
class Caliper:
    """How a caliper presses its pads: `opposed` from both sides, else it slides; its pistons in all; what parks."""

    opposed: bool
    pistons: int
    parking: str = "none"

    @property
    def sides(self) -> int:
        """From how many sides pistons move: what one of them travels is the whole shared by these."""
        return 2 if self.opposed else 1

    @property
    def screw_in(self) -> bool:
        """Whether its pistons turn as they go home."""
        return self.parking == "lever"


def caliper_of(kind: str) -> Caliper:
    """Read a caliper's kind in words as a record: "opposed, 4 pistons", "sliding, screw-in".

    What is not said is the usual: a sliding caliper has one piston, an opposed one two, and no parking brake.

    >>> caliper_of("sliding, electric parking brake").parking
    'electric'
    """
    words = kind.lower()
    opposed = "opposed" in words or "fixed" in words
    counted = re.search(r"(\d{1,2}) ?piston", words)
    pistons = int(counted[1]) if counted else (2 if opposed else 1)
    if "electric" in words:
        parking = "electric"
    elif "drum" in words:
        parking = "drum"
    elif "screw" in words or "lever" in words:
        parking = "lever"
    else:
        parking = "none"
    return Caliper(opposed=opposed, pistons=max(1, min(16, pistons)), parking=parking)
