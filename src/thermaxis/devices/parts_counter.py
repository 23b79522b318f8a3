"""A parts counter that can be asked what it has: price, stock, lead time. The stand-in answers for invented parts."""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from typing import Protocol

from thermaxis.core.errors import FieldError


@dataclass(frozen=True, kw_only=True)
class Offered:
    """What the counter says of one part: price of one, how many are there, days until more come."""

    price: float
    in_stock: int
    lead_days: int


class PartsCounter(Protocol):
    """Whoever sells parts; asked by the part's name and what the catalogue thinks it costs."""

    def ask(self, name: str, list_price: float) -> Offered:
        """Price, stock and lead time of a part."""


class StandInCounter:
    """A counter for parts nobody makes: the same name and seed get the same answer."""

    def __init__(self, seed: int = 0) -> None:
        self.seed = seed

    def ask(self, name: str, list_price: float) -> Offered:
        """Price within 10 % of the catalogue's, none to six there, two days to five weeks for more.

        FieldError for a part without a name or with a price below 0.
        """
        if not name:
            raise FieldError("name", name, "the name of a part")
        if list_price < 0:
            raise FieldError("list_price", list_price, "a number >= 0")
        drawn = zlib.crc32(f"{self.seed}/{name}".encode())
        factor = 0.9 + 0.2 * (drawn % 1000) / 999
        stock = (0, 1, 2, 2, 4, 6)[drawn // 1000 % 6]
        lead = (2, 5, 9, 14, 21, 35)[drawn // 6000 % 6]
        return Offered(price=round(list_price * factor, 2), in_stock=stock, lead_days=lead)
