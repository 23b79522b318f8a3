"""JSON of strangers: what it would take in memory is reckoned before anything is built of it.

Sixty megabytes of `{}` are sixty kilobytes packed and two gigabytes built. Each object, list and value needs a mark of
its own in the text, so counting the marks bounds what is built from above, at the speed of a search. Marks within words
are counted along: that errs on the safe side.
"""

from __future__ import annotations

import json
from typing import Any

from thermaxis.core.errors import FieldError

# Bytes on CPython 3.11: an object with a few names, a list, a value with its place; rounded up.
OBJECT_BYTES, LIST_BYTES, VALUE_BYTES = 300, 90, 60
DEEPEST = 40


def built_bytes(text: bytes) -> int:
    """At most so many bytes are built of this text, beside its words."""
    objects, lists = text.count(b"{"), text.count(b"[")
    values = text.count(b",") + text.count(b":") + lists
    return OBJECT_BYTES * objects + LIST_BYTES * lists + VALUE_BYTES * values


def read_bounded(text: bytes, most_bytes: int) -> Any:
    """Read a document. FieldError for damaged text, numbers without end, nesting too deep, or too much to build."""
    if built_bytes(text) > most_bytes:
        raise FieldError("file", f"{len(text)} bytes of small values", "fewer values: more than this program writes")
    try:
        found = json.loads(text.decode("utf-8"), parse_constant=_no_number)
    except (UnicodeDecodeError, ValueError, RecursionError) as error:
        raise FieldError("file", type(error).__name__, "a file this program has written") from None
    _check(found)
    return found


def _no_number(text: str) -> float:
    raise ValueError(text)


def _check(document: Any) -> None:
    """Refuse what JSON can say and no database stores: half characters, endless whole numbers, nesting without end."""
    waiting = [(document, 0)]
    while waiting:
        value, depth = waiting.pop()
        if isinstance(value, dict | list):
            if depth > DEEPEST:
                raise FieldError("file", f"nested over {DEEPEST} deep", f"nested at most {DEEPEST} deep")
            inner = [*value, *value.values()] if isinstance(value, dict) else value
            waiting += [(one, depth + 1) for one in inner]
        elif isinstance(value, str):
            # Pictures are text here, megabytes of it: asked of the whole, not of each letter.
            try:
                value.encode("utf-8")
            except UnicodeEncodeError:
                shown = value.encode("utf-8", "backslashreplace").decode()[:60]
                raise FieldError("file", shown, "text without damaged characters") from None
        elif isinstance(value, int) and abs(value) >= 2**63:
            raise FieldError("file", str(value)[:40], "whole numbers below 2 to the power of 63")
