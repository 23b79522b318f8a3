"""JSON as the API writes it: a number without end is an error here, not `Infinity` at whoever reads it."""

from __future__ import annotations

import json
from typing import Any

from ninja.responses import NinjaJSONEncoder

from thermaxis.core.errors import SolveError


def written(data: Any, encoder: type[json.JSONEncoder] = NinjaJSONEncoder) -> str:
    """The data as JSON. SolveError where a number in it is not finite."""
    try:
        return json.dumps(data, cls=encoder, allow_nan=False)
    except ValueError:
        raise SolveError("These numbers together give no finite answer: check the least usual of them.") from None
