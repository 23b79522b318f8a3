"""Sentences as a reader with metric units sees them, from the core or off the wire; and every one of them, filled.

`python -m tests.said` writes down what both renderers, Python's and the page's, are held to.
"""

from __future__ import annotations

import importlib
import json
import pkgutil
from collections.abc import Mapping
from dataclasses import asdict
from pathlib import Path
from typing import Any

from thermaxis.core import messages
from thermaxis.core.said import FIGURES, JOINS, Said, Sentence, quantities, verbatim
from thermaxis.formats.units import said_of, said_text


def metric(said: Said | Mapping[str, Any] | None) -> str:
    assert said is not None
    return said_text(said if isinstance(said, Said) else said_of(said))


HERE = Path(__file__).parent / "data" / "sentences.json"
# As the metric reader sees them: halves, both sides of ten, thousands, nothing, less than nothing.
SHOWN = (123.456, 9.96, 2.5, 0.125, -0.004, -37.5, 12345.678, 0.0)


def sentences() -> dict[str, Sentence]:
    """Every sentence of the core by where it stands."""
    found: dict[str, Sentence] = {}
    for _, name, _ in pkgutil.iter_modules(messages.__path__):
        for key, value in vars(importlib.import_module(f"{messages.__name__}.{name}")).items():
            if isinstance(value, Sentence):
                found[f"{name}.{key}"] = value
            elif isinstance(value, dict):
                found |= {f"{name}.{key}.{word}": said for word, said in value.items() if isinstance(said, Sentence)}
    return found


def sample(sentence: Sentence, shown: float) -> Said:
    """The sentence with values a metric reader sees as `shown`; a clause and a list of two where those stand."""
    values: dict[str, float | str | Said | list[Said]] = {}
    for name, (quantity, way) in sentence.places.items():
        if quantity:
            unit = quantities()[quantity]["metric"]
            values[name] = (shown - unit.get("offset", 0.0)) / unit["factor"]
        elif way in JOINS:
            values[name] = [verbatim("one"), Sentence("two of {left:mass}")(left=shown)]
        else:
            values[name] = Sentence("the rest at {hot:temperature}")(hot=shown) if name == "reason" else name
    return sentence(**values)


def samples() -> list[Said]:
    """Every sentence once, and every quantity in every way at every `SHOWN`."""
    found = [sample(sentence, SHOWN[0]) for _, sentence in sorted(sentences().items())]
    for name in quantities():
        every = " ".join(f"{{a{index}:{name}|{way}}}" for index, way in enumerate(FIGURES))
        found += [sample(Sentence(f"{{plainly:{name}}} {every}"), shown) for shown in SHOWN]
    return found


def rendered() -> list[dict[str, Any]]:
    """What the page's own renderer is held to."""
    return [
        asdict(said) | {"metric": said_text(said, "metric"), "imperial": said_text(said, "imperial")}
        for said in samples()
    ]


if __name__ == "__main__":
    lines = ",\n".join(json.dumps(entry, ensure_ascii=False) for entry in rendered())
    HERE.write_text(f"[\n{lines}\n]\n", "utf-8")
