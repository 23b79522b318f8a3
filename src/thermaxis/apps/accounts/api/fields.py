"""Fields many schemas have: SI, bounded, the unit in the name."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire

RowId = Annotated[int, Field(ge=1, le=2**53)]
# Further than any quantity in SI units goes, and far from where arithmetic overflows.
Finite = Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)]


class Removed(Wire):
    """Out of sight, or back."""

    removed: bool


Word = Annotated[str, Field(max_length=24)]


State = Literal["fine", "close", "over"]
AxleName = Literal["front", "rear"]
